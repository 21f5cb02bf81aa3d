import Papa from 'papaparse'
import { clock } from '../estimate/clock'
import { formula } from '../words/csv'
import type { FileFigures, FileLevels, FileSound, Finding } from './conformance'
import { channelsName, levelSpan, limitLines, measureOf, type DeliveryProfile, type Span } from './profile'
import { secondsOf, verdictOf } from './verdict'

/** Files that do not keep their profile are handed over all the same (ISO 9000 calls that a concession). */
export interface Concession {
  readonly reason: string
  /** ISO 8601 */
  readonly at: string
}

/** What was measured of files, and what of their profile they do not keep. */
export interface ConformanceReport {
  readonly version: 1
  readonly title: string
  readonly profile: string
  /** What the profile asks for, a line each. */
  readonly asks: readonly string[]
  /** The measure and the band that files are compared by in a picture. */
  readonly level: { readonly measure: 'rms' | 'integrated', readonly span: Span | null }
  readonly peak: { readonly truePeak: boolean, readonly mostDb: number | null }
  /** How long a file may be at most, and how large; null for any. */
  readonly longestMs: number | null
  readonly largestBytes: number | null
  /** Null for files that are no delivery of ours. */
  readonly delivery: ReportedDelivery | null
  readonly files: readonly ReportFile[]
  readonly passes: boolean
  readonly concession: Concession | null
}

export interface ReportedDelivery {
  readonly number: number
  /** ISO 8601 */
  readonly madeAt: string
  /** Files of the whole run sheet. */
  readonly sheetCount: number
}

export interface ReportFile {
  readonly name: string
  readonly title: string | null
  readonly bytes: number
  readonly durationMs: number
  /** Null for one of an earlier version, of which they are not known. */
  readonly levels: (FileFigures & Partial<Pick<FileLevels, 'gainDb' | 'limited'>>) | null
  readonly sound: FileSound | null
  /** Null where it was never judged. */
  readonly findings: readonly Finding[] | null
}

/** A file that was made here, as it is reported. */
export function reportFileOf({ name, title, bytes, durationMs, levels, findings }: Omit<ReportFile, 'sound' | 'levels'> & { readonly levels: FileLevels | null }): ReportFile {
  return { name, title, bytes, durationMs, levels, sound: levels?.sound ?? null, findings }
}

/** A report of files of a profile. */
export function reportOf(title: string, profile: DeliveryProfile, files: readonly ReportFile[], delivery: ReportedDelivery | null = null, concession: Concession | null = null): ConformanceReport {
  const { limits } = profile
  return {
    version: 1, title, profile: profile.name, asks: limitLines(profile),
    level: { measure: measureOf(profile), span: levelSpan(profile) }, peak: { truePeak: limits.truePeak, mostDb: limits.peakDb }, longestMs: limits.longestMs, largestBytes: limits.largestBytes,
    delivery, files, passes: files.every(file => file.findings?.length === 0), concession,
  }
}

/** A report as a table (CSV, RFC 4180), a row for each file. */
export function writeReportCsv({ files }: ConformanceReport): string {
  const rows = files.map(({ name, title, bytes, durationMs, levels, sound, findings }) => ({
    'file': name, 'title': title ?? '', 'minutes': clock(durationMs), 'seconds': (durationMs / 1000).toFixed(3), 'bytes': bytes,
    'codec': sound?.codec ?? '', 'Hz': sound?.sampleRate ?? '', 'channels': sound === null ? '' : channelsName(sound.channels), 'bits': sound?.bits ?? '', 'kbit/s': sound?.bitRateKbps?.toFixed(0) ?? '',
    'RMS dB': tenths(levels?.rmsDb), 'LUFS': tenths(levels?.integratedDb), 'sample peak dB': tenths(levels?.samplePeakDb), 'true peak dB': tenths(levels?.truePeakDb),
    'noise floor dB': tenths(levels?.noiseFloorDb), 'head s': secondsOf(levels?.headMs), 'tail s': secondsOf(levels?.tailMs), 'longest silence s': secondsOf(levels?.longestSilenceMs),
    'gain dB': tenths(levels?.gainDb), 'peaks held': levels?.limited?.count ?? '', 'verdict': verdictOf(findings), 'faults': (findings ?? []).map(faultLine).join(' '),
  }))
  return `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: formula })}\r\n`
}

/** As a number: of a text that begins with a sign a spreadsheet would be kept from making one. */
const tenths = (value: number | undefined): number | '' => value === undefined ? '' : Math.round(value * 10) / 10

/** A fault with its place, and what to do. */
export const faultLine = ({ atMs, message, remedy, place }: Finding): string => `${atMs === null ? '' : `At ${clock(atMs)}: `}${message}${place === undefined ? '' : ` “${place.text}”`} ${remedy}`
