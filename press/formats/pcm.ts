import type { SoundSettings } from '#core/delivery/formats'
import type { FileFormat } from './format'
import { mux } from './mux'

/** Pieces begin on multiples of this, ms, which are whole samples at every rate. */
const gridMs = 20

/** Samples as they are, linear or by ITU-T G.711 (µ-law), in a WAV file; from 4 GB on RF64. */
export function pcm({ format, bits, sampleRate, channels }: SoundSettings): FileFormat {
  const [codec, raw] = format === 'mulaw' ? ['pcm_mulaw', 'mulaw'] : [`pcm_s${bits}le`, `s${bits}le`]
  const frameSamples = sampleRate * gridMs / 1000
  const frameBytes = frameSamples * channels * (format === 'mulaw' ? 1 : bits! / 8)
  const decoding = ['-f', raw, '-ar', String(sampleRate), '-ac', String(channels)]
  return {
    frameSamples, preRollFrames: 2, postRollFrames: 2, delay: 0, decodedDelay: 0, endsExactly: true, lossDb: 0,
    coder: { encoding: ['-c:a', codec, '-f', raw], decoding },
    cut: (stream, first, frames) => stream.subarray(first * frameBytes, (first + frames) * frameBytes),
    // RIFF knows neither chapters nor covers.
    write: (contents, path) => mux({ ...contents, chapters: [], cover: null }, decoding, ['-rf64', 'auto', '-f', 'wav'], path),
  }
}
