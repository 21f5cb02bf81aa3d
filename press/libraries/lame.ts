import { fullScale } from '#core/audio/pcm'
import { fail } from '#core/problem'
import type { Scratch } from '../scratch'
import { inThread, loadLibrary, once } from './load'

/** What is told to the encoder. */
export interface Mp3Settings {
  /** Hz */
  readonly sampleRate: number
  /** In stereo both channels say the same. */
  readonly channels: 1 | 2
  /** Of every frame. */
  readonly bitRateKbps: number
}

// Values of lame.h.
const jointStereo = 1
const mono = 3

const lame = once(() => {
  const library = loadLibrary('libmp3lame.so.0', 'libmp3lame0')
  const setter = (name: string) => library.func(`int lame_set_${name}(void *encoder, int value)`)
  return {
    version: library.func('const char *get_lame_version()'),
    begin: library.func('void *lame_init()'),
    setInputRate: setter('in_samplerate'),
    setOutputRate: setter('out_samplerate'),
    setChannels: setter('num_channels'),
    setMode: setter('mode'),
    setBitRate: setter('brate'),
    setScale: library.func('int lame_set_scale(void *encoder, float value)'),
    setWithoutReservoir: setter('disable_reservoir'),
    setInfoFrame: setter('bWriteVbrTag'),
    prepare: library.func('int lame_init_params(void *encoder)'),
    encode: library.func('int lame_encode_buffer_float(void *encoder, const float *left, const float *right, int count, uint8_t *bytes, int room)'),
    finish: library.func('int lame_encode_flush(void *encoder, uint8_t *bytes, int room)'),
    end: library.func('int lame_close(void *encoder)'),
  }
})

/** Name and version. Throws a problem when it is not installed. */
export function lameName(): string {
  return `LAME ${lame().version() as string}`
}

/** The most bytes that samples become (lame.h), those that are still held back at the end with them. */
const mostBytes = (samples: number): number => Math.ceil(1.25 * samples) + 7200 * 2

/**
 * Samples (full scale is 1) as a stream of frames. Bits are not carried from frame to frame, so that frames can stand in any file. Rejects with a problem when the encoder is missing, or does not
 * take the settings.
 */
export async function encodeMp3(samples: Float32Array, { sampleRate, channels, bitRateKbps }: Mp3Settings, scratch: Scratch): Promise<Buffer> {
  const { begin, setInputRate, setOutputRate, setChannels, setMode, setBitRate, setScale, setWithoutReservoir, setInfoFrame, prepare, encode, finish, end } = lame()
  const encoder: unknown = begin()
  try {
    setInputRate(encoder, sampleRate)
    setOutputRate(encoder, sampleRate)
    setChannels(encoder, channels)
    setMode(encoder, channels === 2 ? jointStereo : mono)
    setBitRate(encoder, bitRateKbps)
    // Its own full scale is that of 16 bits.
    setScale(encoder, fullScale)
    setWithoutReservoir(encoder, 1)
    setInfoFrame(encoder, 0)
    if (prepare(encoder) !== 0) fail('encoder-failed', `The encoder does not take ${bitRateKbps} kbit/s at ${sampleRate} Hz. Choose another bit rate.`)
    const bytes = scratch.bytes('encoded', mostBytes(samples.length * channels))
    const encoded = await inThread(encode, encoder, samples, samples, samples.length, bytes, bytes.length) as number
    const finished = encoded < 0 ? encoded : finish(encoder, bytes.subarray(encoded), bytes.length - encoded) as number
    if (finished < 0) fail('encoder-failed', 'The encoder stopped. Check the memory of the machine and try again.')
    return bytes.subarray(0, encoded + finished)
  } finally {
    end(encoder)
  }
}
