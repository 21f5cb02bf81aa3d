import { hash } from '../hash'

/** Where the audio of a take is from: an engine made it, somebody recorded it, or it was brought in as a file. */
export const takeOrigins = ['engine', 'recorded', 'imported'] as const
export type TakeOrigin = (typeof takeOrigins)[number]

/** What a take is called by: several can exist of one key. */
export interface TakeName {
  readonly key: string
  /** 0 is the one that is heard where nothing else is chosen. */
  readonly variant: number
}

/** A take's name in one piece: its key, with its variant behind a point unless that is 0. */
export function takeId({ key, variant }: TakeName): string {
  return variant === 0 ? key : `${key}.${variant}`
}

/** What must be known of a take to lay it, without its audio. */
export interface TakeShape {
  /** Hz */
  readonly sampleRate: number
  readonly sampleCount: number
  /** Pairs in one list: place in what was sent, sample. */
  readonly wordMarks: readonly number[]
}

/** A take as an index knows it. */
export interface KnownTake extends TakeName, TakeShape {
  readonly origin: TakeOrigin
  /** Of the text that it says (`textHash`); null where that is not known. */
  readonly textHash: string | null
}

/** Hash of a text, white space apart: whether a take still says what is written. */
export function textHash(text: string): string {
  return hash(text.replace(/\s+/gu, ' ').trim())
}
