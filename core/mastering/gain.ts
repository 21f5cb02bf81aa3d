import type { LevelKind } from './measure'

/** What levels are brought to. */
export interface LevelTarget {
  readonly measure: LevelKind
  readonly level: number
  /** How far from it a file may be, dB. */
  readonly tolerance: number
}

/** Gains are multiples of this, dB. */
const stepDb = 0.1

const stepped = (db: number): number => Math.round(db / stepDb) / Math.round(1 / stepDb)

/** The gain (dB, in steps of 0.1) that brings a level to its target; the one before stays while that is within the tolerance, so that one edit does not change every sample. */
export function gainFor(levelDb: number, target: LevelTarget, beforeDb: number | null = null): number {
  if (beforeDb !== null && Math.abs(levelDb + beforeDb - target.level) <= target.tolerance) return beforeDb
  return stepped(target.level - levelDb)
}
