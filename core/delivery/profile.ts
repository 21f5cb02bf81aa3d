import type { Margins } from '../audio/track'
import type { LevelTarget } from '../mastering/gain'
import type { FileSplit } from './file-split'

/** Format, levels, margins, division and naming of a delivery, and what its files must keep. */
export interface DeliveryProfile extends Margins {
  readonly name: string
  readonly format: 'mp3'
  readonly bitRateKbps: number
  /** Hz */
  readonly sampleRate: number
  /** The level that files are brought to; null leaves it as it is. */
  readonly target: LevelTarget | null
  /** Whether each file has a gain of its own, or all of a production the same, as long as it keeps them within their limits: so clips and chapters match. */
  readonly gainPer: 'file' | 'production'
  /** What no peak of a finished file passes, dBFS, between samples too; null where nothing holds them. */
  readonly ceilingDb: number | null
  /** Whether a mono file counts for loudness as played on two speakers, 3 dB louder. */
  readonly dualMono: boolean
  readonly split: FileSplit
  /** Between parts that are in one file there is at least so much silence, ms. */
  readonly partRestMs: number
  /** File name without its extension; `{number}` and `{title}` are replaced. */
  readonly namePattern: string
  readonly limits: Limits
}

/** The least and the most of something; null where there is no such end. */
export interface Span {
  readonly least: number | null
  readonly most: number | null
}

/** What the finished files are measured against; null where nothing is asked. */
export interface Limits {
  readonly rmsDb: Span | null
  /** LUFS */
  readonly integratedDb: Span | null
  /** Most that a peak may have, dBFS. */
  readonly peakDb: number | null
  /** Whether peaks between samples count. */
  readonly truePeak: boolean
  /** Most that the quietest half second may have, dBFS. */
  readonly noiseFloorDb: number | null
  readonly headMs: Span | null
  readonly tailMs: Span | null
  readonly longestMs: number | null
  readonly largestBytes: number | null
  /** Of a silence between the first and the last word. */
  readonly longestSilenceMs: number | null
}

/** A number with its sign as it is printed. */
const signed = (value: number): string => value < 0 ? `−${-value}` : String(value)

/** What a profile asks for, a line each. */
export function profileLines({ bitRateKbps, sampleRate, target, ceilingDb, headMs, tailMs }: DeliveryProfile): string[] {
  return [
    `MP3, ${bitRateKbps} kbit/s constant`,
    `${sampleRate / 1000} kHz, mono`,
    ...(target === null ? [] : [`${target.measure === 'rms' ? 'RMS' : 'Loudness'} ${signed(target.level)} ${target.measure === 'rms' ? 'dB' : 'LUFS'}, to within ${target.tolerance}`]),
    ...(ceilingDb === null ? [] : [`Peaks at most ${signed(ceilingDb)} dB`]),
    `${headMs / 1000} s before the first and ${tailMs / 1000} s after the last word`,
  ]
}

export const extensions: Readonly<Record<DeliveryProfile['format'], string>> = { mp3: '.mp3' }

/** A pattern without a number cannot keep files in order or apart. */
export function namePatternProblem(pattern: string): string | null {
  const unknown = [...pattern.matchAll(/\{[^}]*\}?/gu)].map(match => match[0]).find(name => name !== '{number}' && name !== '{title}')
  if (unknown !== undefined) return `The file name pattern contains ${unknown}; use {number} and {title}.`
  if (!pattern.startsWith('{number}')) return 'The file name pattern must begin with {number}, so that players keep the order.'
  return null
}
