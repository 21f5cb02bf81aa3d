import { fail } from '#core/problem'
import type { Scratch } from '../scratch'
import { inThread, loadLibrary, once } from './load'

/** What a stream holds. */
export interface Mp3Stream {
  /** Hz */
  readonly sampleRate: number
  readonly channels: 1 | 2
  /** The most samples that it can hold, of each channel. */
  readonly mostSamples: number
}

// Values of mpg123.h.
const addFlags = 2
const quiet = 0x20
const signed16 = 0xd0
const needMore = -10
const newFormat = -11

const mpg123 = once(() => {
  const library = loadLibrary('libmpg123.so.0', 'libmpg123-0')
  return {
    begin: library.func('void *mpg123_new(const char *decoder, void *error)'),
    set: library.func('int mpg123_param(void *decoder, int parameter, long value, double real)'),
    allowNoFormat: library.func('int mpg123_format_none(void *decoder)'),
    allowFormat: library.func('int mpg123_format(void *decoder, long rate, int channels, int encoding)'),
    openFeed: library.func('int mpg123_open_feed(void *decoder)'),
    decode: library.func('int mpg123_decode(void *decoder, const uint8_t *bytes, size_t length, void *samples, size_t room, _Out_ size_t *written)'),
    end: library.func('void mpg123_delete(void *decoder)'),
  }
})

/** Throws a problem when the decoder is not installed. */
export function findMpg123(): void {
  mpg123()
}

/** Samples of a stream of frames, those of its channels in turn. Rejects with a problem when the decoder is missing, or cannot read the stream. */
export async function decodeMp3(bytes: Buffer, { sampleRate, channels, mostSamples }: Mp3Stream, scratch: Scratch): Promise<Int16Array> {
  const { begin, set, allowNoFormat, allowFormat, openFeed, decode, end } = mpg123()
  const decoder: unknown = begin(null, null)
  try {
    set(decoder, addFlags, quiet, 0)
    allowNoFormat(decoder)
    allowFormat(decoder, sampleRate, channels, signed16)
    openFeed(decoder)
    // With room to spare it goes on until it needs more bytes.
    const samples = scratch.samples('decoded', (mostSamples + 1) * channels)
    const written: [number] = [0]
    // It first says what it has found, then decodes all that it was given.
    const found = decode(decoder, bytes, bytes.length, null, 0, written) as number
    const isWhole = found === newFormat && await inThread(decode, decoder, null, 0, samples, samples.byteLength, written) === needMore
    if (!isWhole) fail('encoder-failed', 'What was encoded cannot be decoded again. Check the memory of the machine and try again.')
    return samples.subarray(0, written[0] / Int16Array.BYTES_PER_ELEMENT)
  } finally {
    end(decoder)
  }
}
