export const wavHeaderBytes = 44

/** Header of a mono 16-bit PCM WAV file (RIFF WAVE, format tag 1). */
export function wavHeader(sampleCount: number, sampleRate: number): Uint8Array {
  const header = new Uint8Array(wavHeaderBytes)
  const view = new DataView(header.buffer)
  const text = (at: number, value: string): void => { header.set([...value].map(c => c.charCodeAt(0)), at) }
  text(0, 'RIFF')
  view.setUint32(4, 36 + sampleCount * 2, true)
  text(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, 1, true)
  view.setUint16(22, 1, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * 2, true)
  view.setUint16(32, 2, true)
  view.setUint16(34, 16, true)
  text(36, 'data')
  view.setUint32(40, sampleCount * 2, true)
  return header
}
