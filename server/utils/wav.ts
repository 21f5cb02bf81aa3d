import { setResponseHeaders, type H3Event } from 'h3'
import { applyGain, type Pcm } from '#core/audio/pcm'
import { resample } from '#core/audio/resample'
import type { PlayableTrack } from '#core/audio/track'
import { wavBytes, wavHeader, wavSize } from '#core/audio/wav'
import { soundNamesIn, type PartScore } from '#core/score/compile'
import { takeLoader, type TakeLibrary } from '#takes/library'

/** Answers with a WAV file. Its address names its content, so a browser may keep it. */
export function sendWav(event: H3Event, { samples, sampleRate }: Pcm, gainDb: number): Buffer {
  const loud = applyGain(samples, gainDb)
  setResponseHeaders(event, { 'content-type': 'audio/wav', 'cache-control': 'private, no-cache' })
  return Buffer.concat([wavHeader(loud.length, sampleRate), Buffer.from(loud.buffer, loud.byteOffset, loud.byteLength)])
}

/** Answers with a short track as one WAV file. `spoken` has the audio of its takes; its sounds are loaded. */
export async function sendTrack(event: H3Event, track: PlayableTrack, score: PartScore, spoken: ReadonlyMap<string, Pcm>, library: TakeLibrary): Promise<Buffer> {
  const sounds = soundNamesIn(score)
  const load = takeLoader(library, await library.index.find([...sounds.keys()]), sounds, track.sampleRate)
  const samplesOf = ({ samples, sampleRate }: Pcm): Int16Array => resample(samples, sampleRate, track.sampleRate)
  setResponseHeaders(event, { 'content-type': 'audio/wav', 'cache-control': 'no-store', 'content-length': wavSize(track) })
  const bytes: Uint8Array[] = []
  for await (const stretch of wavBytes(track, take => spoken.has(take) ? Promise.resolve(samplesOf(spoken.get(take)!)) : load(take))) bytes.push(stretch)
  return Buffer.concat(bytes)
}
