/** Millionths of a unit of a currency: whole numbers, so that sums are exact. */
export type Micros = number

/** What an account pays for the characters of one tier. */
export interface Tariff {
  /** For a million characters. */
  readonly microsPerMillion: Micros
  /** Characters of each month that cost nothing. */
  readonly freeCharacters: number
}

/** What a voice costs, beyond the characters that are free. */
export interface VoicePrice extends Pick<Tariff, 'microsPerMillion'> {
  /** ISO 4217 */
  readonly currency: string
}

const perPrice = 1_000_000

/** What some characters cost where so many were used in the same month: the free ones go first. Each request is rounded up by itself. */
export function priceOf(characters: number, usedBefore: number, { microsPerMillion, freeCharacters }: Tariff): Micros {
  const charged = Math.max(0, usedBefore + characters - freeCharacters) - Math.max(0, usedBefore - freeCharacters)
  return Math.ceil(charged * microsPerMillion / perPrice)
}

/** The month of a moment, in UTC: `2026-12`. */
export function monthOf(moment: Date): string {
  return moment.toISOString().slice(0, 7)
}
