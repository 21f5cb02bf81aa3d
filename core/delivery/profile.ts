import type { Margins } from '../audio/track'
import { clock } from '../estimate/clock'
import type { Equaliser } from '../mastering/equaliser'
import type { LevelTarget } from '../mastering/gain'
import { announcementsProblem, type Announcements } from '../script/announcements'
import type { FileSplit } from './file-split'
import type { Extra } from './lists'
import { formatOf, soundProblem, type SoundSettings } from './formats'
import { namePatternProblem, type NameRules } from './naming'

/** Format, levels, margins, division and naming of a delivery, and what its files must keep. */
export interface DeliveryProfile extends Margins, SoundSettings {
  readonly name: string
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
  /** File name without its extension; fields (`naming.ts`) stand in braces. */
  readonly namePattern: string
  readonly nameRules: NameRules
  /** What is done to the sound of the voice before it is levelled; null for nothing. */
  readonly equaliser: Equaliser | null
  /** By how much the noise of recordings that the script plays is lowered, dB; null leaves it. */
  readonly denoiseDb: number | null
  /** What is said and heard around the text, where a production has nothing of its own; null for nothing. */
  readonly announcements: Announcements | null
  /** What lies beside the files of a delivery, besides checksums and `manifest.json`. */
  readonly extras: readonly Extra[]
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
  /** How many a file may have; null for any, as long as all files have as many. */
  readonly channels: number | null
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
export const signed = (value: number): string => value < 0 ? `−${-value}` : String(value)

/** How a file of a profile is kept, in short. */
export function soundLine({ format, bitRateKbps, bits, sampleRate, channels }: SoundSettings): string {
  const detail = bitRateKbps !== null ? [`${bitRateKbps} kbit/s${format === 'mp3' ? ' constant' : ''}`] : bits === null ? [] : [`${bits} bits`]
  return [formatOf(format).name, ...detail, `${sampleRate / 1000} kHz`, channelsName(channels)].join(', ')
}

/** What a profile asks for, a line each. */
export function profileLines({ target, ceilingDb, headMs, tailMs, equaliser, denoiseDb, ...settings }: DeliveryProfile): string[] {
  return [
    soundLine(settings),
    ...(equaliser === null ? [] : [equaliserLine(equaliser)]),
    ...(denoiseDb === null ? [] : [`Noise of recordings lowered by ${denoiseDb} dB`]),
    target === null ? 'Level as it was read' : `${target.measure === 'rms' ? 'RMS' : 'Loudness'} ${signed(target.level)} ${target.measure === 'rms' ? 'dB' : 'LUFS'}, to within ${target.tolerance}`,
    ...(ceilingDb === null ? [] : [`Peaks at most ${signed(ceilingDb)} dB`]),
    `${headMs / 1000} s before the first and ${tailMs / 1000} s after the last word`,
  ]
}

function equaliserLine({ highPassHz, bands }: Equaliser): string {
  const pieces = [...(highPassHz === null ? [] : [`nothing below ${highPassHz} Hz`]), ...bands.map(({ hz, gainDb }) => `${gainDb > 0 ? '+' : ''}${signed(gainDb)} dB at ${hz} Hz`)]
  return `Equaliser: ${pieces.length === 0 ? 'nothing' : pieces.join(', ')}`
}

/** A span as it is printed: *−23 to −18*, *at most 5*, *at least 1*. */
function spanText({ least, most }: Span, scale = 1): string {
  const text = (value: number): string => signed(value / scale)
  if (least !== null && most !== null) return `${text(least)} to ${text(most)}`
  return least !== null ? `at least ${text(least)}` : most !== null ? `at most ${text(most)}` : 'any'
}

/** What finished files are measured against, a line each. */
export function limitLines(profile: DeliveryProfile): string[] {
  const { rmsDb, integratedDb, channels, peakDb, truePeak, noiseFloorDb, headMs, tailMs, longestMs, largestBytes, longestSilenceMs } = profile.limits
  const lines = {
    '': soundLine(profile),
    'Channels': channels === null ? null : channelsName(channels),
    'RMS': rmsDb === null ? null : `${spanText(rmsDb)} dB`,
    'Loudness': integratedDb === null ? null : `${spanText(integratedDb)} LUFS${profile.dualMono ? ', a mono file counted as played on two speakers' : ''}`,
    'Peaks': peakDb === null ? null : `at most ${signed(peakDb)} dB${truePeak ? ', between samples too' : ''}`,
    'Noise floor': noiseFloorDb === null ? null : `at most ${signed(noiseFloorDb)} dB`,
    'Head': headMs === null ? null : `${spanText(headMs, 1000)} s`,
    'Tail': tailMs === null ? null : `${spanText(tailMs, 1000)} s`,
    'Length': longestMs === null ? null : `at most ${clock(longestMs)}`,
    'Size': largestBytes === null ? null : `at most ${(largestBytes / 1_000_000).toFixed(1)} MB`,
    'Silence': longestSilenceMs === null ? null : `at most ${longestSilenceMs / 1000} s`,
  }
  return Object.entries(lines).flatMap(([name, line]) => line === null ? [] : [name === '' ? line : `${name} ${line}`])
}

/** The measure that a profile has files levelled by, or limits. */
export const measureOf = ({ target, limits }: Pick<DeliveryProfile, 'target' | 'limits'>): LevelTarget['measure'] => target?.measure ?? (limits.integratedDb === null ? 'rms' : 'integrated')

/** What files may have of that measure; null where nothing is asked. */
export function levelSpan({ target, limits }: Pick<DeliveryProfile, 'target' | 'limits'>): Span | null {
  return measureOf({ target, limits }) === 'integrated' ? limits.integratedDb : limits.rmsDb
}

export const channelsName = (channels: number): string => channels === 1 ? 'mono' : channels === 2 ? 'stereo' : `${channels} channels`

/** Whether the loudness of what is measured in one channel is that of a file of a profile played on two speakers. */
export const countsTwice = ({ dualMono, channels }: Pick<DeliveryProfile, 'dualMono' | 'channels'>): boolean => dualMono || channels === 2

/** Whatever of a profile does not go together; null where it all does. */
export function profileProblem(profile: DeliveryProfile): string | null {
  return soundProblem(profile) ?? namePatternProblem(profile.namePattern) ?? (profile.announcements === null ? null : announcementsProblem(profile.announcements)) ?? targetProblem(profile)
}

export const isWithin = (value: number, { least, most }: Span): boolean => value >= (least ?? -Infinity) && value <= (most ?? Infinity)

/** A level that its own limits refuse can never pass. */
function targetProblem({ target, ceilingDb, limits }: DeliveryProfile): string | null {
  const span = levelSpan({ target, limits })
  if (target !== null && span !== null && !isWithin(target.level, span)) return `The target of ${signed(target.level)} is outside its limits: files would not pass.`
  if (limits.peakDb !== null && ceilingDb !== null && ceilingDb > limits.peakDb) return `Peaks may have ${signed(limits.peakDb)} dB at most, but are held at ${signed(ceilingDb)} only.`
  return null
}
