import { silenceDb } from './measure'

/** A level with one decimal, without its unit; nothing where it is not known. */
export function decibels(db: number | undefined): string {
  if (db !== undefined && db <= silenceDb) return 'none'
  return db === undefined ? '' : db.toFixed(1).replace('-', '−')
}
