import { setResponseHeaders, type H3Event } from 'h3'
import { applyGain, type Pcm } from '#core/audio/pcm'
import { wavHeader } from '#core/audio/wav'

/** Answers with a WAV file. Its address names its content, so a browser may keep it. */
export function sendWav(event: H3Event, { samples, sampleRate }: Pcm, gainDb: number): Buffer {
  const loud = applyGain(samples, gainDb)
  setResponseHeaders(event, { 'content-type': 'audio/wav', 'cache-control': 'private, no-cache' })
  return Buffer.concat([wavHeader(loud.length, sampleRate), Buffer.from(loud.buffer, loud.byteOffset, loud.byteLength)])
}
