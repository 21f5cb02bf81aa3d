import type { Margins } from '../audio/track'
import type { LevelTarget } from '../mastering/gain'

/** Format, margins and naming of a delivery. */
export interface DeliveryProfile extends Margins {
  readonly format: 'mp3'
  readonly bitRateKbps: number
  /** Hz */
  readonly sampleRate: number
  /** The level that files are brought to; null leaves it as it is. */
  readonly target: LevelTarget | null
  /** What no peak of a finished file passes, dBFS, between samples too; null where nothing holds them. */
  readonly ceilingDb: number | null
  /** Whether a mono file counts for loudness as played on two speakers, 3 dB louder. */
  readonly dualMono: boolean
  /** File name without its extension; `{number}` and `{title}` are replaced. */
  readonly namePattern: string
}

/** As the audiobook trade asks (*common practice*): MP3, 192 kbit/s constant, 44.1 kHz, mono; RMS −23…−18 dBFS, peak at most −3 dBFS, head 0.5…1 s, tail 1…5 s. */
export const defaultProfile: DeliveryProfile = {
  format: 'mp3',
  bitRateKbps: 192,
  sampleRate: 44_100,
  target: { measure: 'rms', level: -20, tolerance: 0.5 },
  ceilingDb: -3,
  dualMono: false,
  headMs: 500,
  tailMs: 1000,
  namePattern: '{number}-{title}',
}

/** What a profile asks for, a line each. */
export function profileLines({ bitRateKbps, sampleRate, target, ceilingDb, headMs, tailMs }: DeliveryProfile): string[] {
  const signed = (db: number): string => db < 0 ? `−${-db}` : String(db)
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
