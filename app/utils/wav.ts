import { wavHeaderBytes } from '#core/audio/wav'

/** A mono 16-bit WAV file with a plain header, as this server sends them, at its own rate. */
export function decodeWav(context: BaseAudioContext, bytes: ArrayBuffer): AudioBuffer {
  const sampleRate = new DataView(bytes).getUint32(24, true)
  const samples = new Int16Array(bytes, wavHeaderBytes(0))
  const buffer = context.createBuffer(1, Math.max(1, samples.length), sampleRate)
  const channel = buffer.getChannelData(0)
  for (let i = 0; i < samples.length; i += 1) channel[i] = samples[i]! / 32_768
  return buffer
}
