import Papa from 'papaparse'
import { clock } from '../estimate/clock'
import { formula } from '../words/csv'

/** A row of a run sheet as people read it out. */
export interface SheetLine {
  readonly label: string
  readonly name: string
  readonly title: string
  readonly parts: string
  readonly durationMs: number
  readonly exact: boolean
  readonly bytes: number
  readonly state: string
  readonly verdict: string
}

/** A run sheet as a table (CSV, RFC 4180). Lengths in seconds with three decimals, too. */
export function writeSheetCsv(lines: readonly SheetLine[]): string {
  const rows = lines.map(({ label, name, title, parts, durationMs, exact, bytes, state, verdict }) => ({
    'number': label, 'file': name, 'title': title, 'parts': parts, 'minutes': clock(durationMs), 'seconds': (durationMs / 1000).toFixed(3), 'length is': exact ? 'exact' : 'estimated',
    'bytes': bytes, 'state': state, 'verdict': verdict,
  }))
  return `${Papa.unparse(rows, { newline: '\r\n', escapeFormulae: formula })}\r\n`
}
