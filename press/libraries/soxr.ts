import { fail } from '#core/problem'
import type { Scratch } from '../scratch'
import { inThread, loadLibrary, once } from './load'

const soxr = once(() => {
  const library = loadLibrary('libsoxr.so.0', 'libsoxr0')
  return {
    version: library.func('const char *soxr_version()'),
    convert: library.func(
      'const char *soxr_oneshot(double from, double to, uint channels, const float *samples, size_t count, _Out_ size_t *taken, float *converted, size_t room, _Out_ size_t *made, const void *kinds, '
      + 'const void *quality, const void *runtime)',
    ),
  }
})

/** Name and version. Throws a problem when it is not installed. */
export function soxrName(): string {
  return (soxr().version() as string).replace('lib', '').replace('-', ' ')
}

/**
 * Samples at another rate (Hz), with the quality that its authors call high; a sample of the result is where it was in time. Rejects with a problem when the library is missing.
 */
export async function floatsAtRate(samples: Float32Array, from: number, to: number, scratch: Scratch): Promise<Float32Array> {
  if (from === to) return samples
  const converted = scratch.floats('converted', Math.ceil(samples.length * to / from))
  const [taken, made]: [number[], number[]] = [[0], [0]]
  const fault = await inThread(soxr().convert, from, to, 1, samples, samples.length, taken, converted, converted.length, made, null, null, null)
  if (fault !== null) fail('encoder-failed', `The rate of the sound could not be changed: ${fault as string}. Check the memory of the machine and try again.`)
  return converted
}
