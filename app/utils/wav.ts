import type { Pcm } from '#core/audio/pcm'
import { wavHeaderBytes } from '#core/audio/wav'

/** What is in a mono 16-bit WAV file with a plain header, as this server sends them. */
export function samplesOfWav(bytes: ArrayBuffer): Pcm {
  return { samples: new Int16Array(bytes, wavHeaderBytes(0)), sampleRate: new DataView(bytes).getUint32(24, true) }
}

export function audioBuffer(context: BaseAudioContext, { samples, sampleRate }: Pcm): AudioBuffer {
  const buffer = context.createBuffer(1, Math.max(1, samples.length), sampleRate)
  const channel = buffer.getChannelData(0)
  for (let i = 0; i < samples.length; i += 1) channel[i] = samples[i]! / 32_768
  return buffer
}

/** Such a file at its own rate. */
export const decodeWav = (context: BaseAudioContext, bytes: ArrayBuffer): AudioBuffer => audioBuffer(context, samplesOfWav(bytes))
