import type { Micros } from '#core/estimate/price'

/** Chance of each kind of fault, 0…1 of all requests. */
export interface Faults {
  /** Too many requests: `429` with `Retry-After`. */
  readonly busy: number
  /** `503`. */
  readonly unavailable: number
  /** The answer ends in its middle; it is billed. */
  readonly cutOff: number
  /** The answer comes after `slowMs`; it is billed. */
  readonly slow: number
}

export const tierNames = ['plain', 'fine'] as const
export type Tier = typeof tierNames[number]

/** How the service behaves. */
export interface Settings {
  readonly key: string
  /** ISO 4217 */
  readonly currency: string
  /** Characters in one request. */
  readonly charactersPerRequest: number
  /** Whether markup counts as characters. */
  readonly countsMarkup: boolean
  readonly requestsPerSecond: number
  readonly requestsAtOnce: number
  /** Whether answers tell when each word begins. */
  readonly wordTimes: boolean
  /** Whether a request that comes again under its idempotency key is answered again without a bill. */
  readonly idempotency: boolean
  readonly prices: Readonly<Record<Tier, { readonly microsPerMillion: Micros, readonly freeCharacters: number }>>
  /** Characters of a month, of all tiers together; null for as many as one likes. */
  readonly charactersPerMonth: number | null
  readonly faults: Faults
  readonly slowMs: number
}

export const usualSettings: Settings = {
  key: '', currency: 'EUR', charactersPerRequest: 3_000, countsMarkup: false, requestsPerSecond: 10, requestsAtOnce: 4, wordTimes: true, idempotency: true,
  prices: { plain: { microsPerMillion: 4_000_000, freeCharacters: 20_000 }, fine: { microsPerMillion: 16_000_000, freeCharacters: 5_000 } },
  charactersPerMonth: null, faults: { busy: 0, unavailable: 0, cutOff: 0, slow: 0 }, slowMs: 5_000,
}
