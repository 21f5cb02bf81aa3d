/** A kind of audio file that can be made. */
export interface AudioFormat {
  readonly name: string
  readonly extension: string
  readonly mediaType: string
  readonly hasCover: boolean
  readonly hasChapters: boolean
  /** Hz */
  readonly sampleRates: readonly number[]
  /** kbit/s; null where the format has none to choose. The first is taken where none is given. */
  readonly bitRates: readonly number[] | null
  /** Of a sample; null where the format decides that. The first is taken where none is given. */
  readonly bits: readonly SampleBits[] | null
}

export type SampleBits = 16 | 24

const wholeRates = [8000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000]

export const audioFormats = {
  mp3: {
    name: 'MP3', extension: '.mp3', mediaType: 'audio/mpeg', hasCover: true, hasChapters: true, sampleRates: [32_000, 44_100, 48_000],
    bitRates: [192, 64, 80, 96, 112, 128, 160, 224, 256, 320], bits: null,
  },
  m4b: {
    name: 'AAC in M4B', extension: '.m4b', mediaType: 'audio/mp4', hasCover: true, hasChapters: true, sampleRates: [32_000, 44_100, 48_000],
    bitRates: [64, 48, 80, 96, 112, 128, 160, 192], bits: null,
  },
  opus: {
    name: 'Opus', extension: '.opus', mediaType: 'audio/ogg', hasCover: true, hasChapters: true, sampleRates: [48_000],
    bitRates: [48, 24, 32, 40, 64, 80, 96, 128, 160, 192], bits: null,
  },
  flac: { name: 'FLAC', extension: '.flac', mediaType: 'audio/flac', hasCover: true, hasChapters: true, sampleRates: wholeRates, bitRates: null, bits: [16, 24] },
  wav: { name: 'WAV', extension: '.wav', mediaType: 'audio/wav', hasCover: true, hasChapters: false, sampleRates: wholeRates, bitRates: null, bits: [16, 24] },
  mulaw: { name: 'µ-law in WAV', extension: '.wav', mediaType: 'audio/wav', hasCover: false, hasChapters: false, sampleRates: [8000, 16_000], bitRates: null, bits: null },
} as const satisfies Readonly<Record<string, AudioFormat>>

export type FormatName = keyof typeof audioFormats
export const formatNames = Object.keys(audioFormats) as readonly FormatName[]

export const formatOf = (name: FormatName): AudioFormat => audioFormats[name]

/** How the sound of a file is kept. */
export interface SoundSettings {
  readonly format: FormatName
  /** kbit/s; null where the format has none. */
  readonly bitRateKbps: number | null
  /** Of a sample; null where the format has none to choose. */
  readonly bits: SampleBits | null
  /** Hz */
  readonly sampleRate: number
  /** In stereo both channels say the same. */
  readonly channels: 1 | 2
}

/** What ffprobe calls the codec of a file. */
export function codecOf({ format, bits }: Pick<SoundSettings, 'format' | 'bits'>): string {
  switch (format) {
    case 'm4b': return 'aac'
    case 'wav': return `pcm_s${bits ?? 16}le`
    case 'mulaw': return 'pcm_mulaw'
    default: return format
  }
}

/** What FLAC leaves of 16 and 24 bits of levelled speech; measured. */
const flacShare = { 16: 0.3, 24: 0.44 } as const
/** What AAC takes of speech and of what is around it, over its bit rate; measured. */
const aacExcess = 1.14

/** About how large a second of a file is, bytes; exact for WAV. */
export function bytesPerSecond({ format, bitRateKbps, bits, sampleRate, channels }: SoundSettings): number {
  if (bitRateKbps !== null) return bitRateKbps * 1000 / 8 * (format === 'm4b' ? aacExcess : 1)
  const samples = sampleRate * channels
  if (format === 'mulaw') return samples
  const whole = samples * (bits ?? 16) / 8
  return format === 'flac' ? whole * flacShare[bits ?? 16] : whole
}

/** What a cover adds to a file. */
export const coverBytesIn = ({ format }: Pick<SoundSettings, 'format'>, bytes: number): number => formatOf(format).hasCover ? bytes : 0

/** What a format does not take of the settings; null where all goes together. */
export function soundProblem({ format, bitRateKbps, bits, sampleRate }: SoundSettings): string | null {
  const { name, sampleRates, bitRates, bits: allBits } = formatOf(format)
  const inOrder = (numbers: readonly number[]): string => [...numbers].sort((a, b) => a - b).join(', ')
  if (!sampleRates.includes(sampleRate)) return `${name} takes a rate (sampleRate) of ${inOrder(sampleRates)} Hz, not ${sampleRate}.`
  if (bitRates === null && bitRateKbps !== null) return `${name} has no bit rate: leave bitRateKbps out.`
  if (bitRates !== null && (bitRateKbps === null || !bitRates.includes(bitRateKbps))) return `${name} takes a bit rate (bitRateKbps) of ${inOrder(bitRates)} kbit/s, not ${bitRateKbps}.`
  if (allBits === null && bits !== null) return `${name} decides itself how many bits a sample has: leave bits out.`
  if (allBits !== null && (bits === null || !allBits.includes(bits))) return `${name} takes ${inOrder(allBits)} bits, not ${bits}.`
  return null
}
