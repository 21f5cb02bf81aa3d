import type { Micros, Tariff } from '#core/estimate/price'
import type { Problem } from '#core/problem'
import type { Voice } from '../port'
import type { Account } from './accounts'
import type { Order, OrderPart } from './orders'

/** What a service keeps to, and what it takes for it. */
export interface Terms {
  /** ISO 4217 */
  readonly currency: string
  readonly charactersPerRequest: number
  readonly requestsPerSecond: number
  readonly requestsAtOnce: number
  /** Whether it tells when words begin. */
  readonly wordTimes: boolean
  /** Whether markup counts as characters. */
  readonly countsMarkup: boolean
}

export interface PricedVoice extends Omit<Voice, 'engine'> {
  /** Words a minute as it speaks by itself. */
  readonly wordsPerMinute: number
  readonly tariff: Tariff
}

export interface PaidAnswer {
  readonly samples: Int16Array
  /** Hz */
  readonly sampleRate: number
  /** Place in the texts of the order's parts, one after the other, and sample; empty where it tells none. */
  readonly words: readonly { readonly place: number, readonly sample: number }[]
  readonly billed: { readonly characters: number, readonly micros: Micros }
}

/** What a service says about itself. */
export interface Offer {
  readonly terms: Terms
  readonly voices: readonly PricedVoice[]
}

/** How one service is spoken to: its addresses, its markup, its answers. What they have in common is in `PaidEngine`. */
export interface Wire {
  /** What the service says about itself. Throws a fault. */
  readonly offer: (account: Account) => Promise<Offer>
  /** Characters of an order of these parts as the service counts them. */
  readonly count: (parts: readonly Pick<OrderPart, 'segments'>[], terms: Terms) => number
  /** Asks for an order, once, under an idempotency key; `wordsPerMinute` is the voice's own. Throws a fault. */
  readonly speak: (account: Account, order: Order, options: { readonly id: string, readonly ownWordsPerMinute: number, readonly timeoutMs: number }) => Promise<PaidAnswer>
}

/** Why a service did not give what was asked for. */
export class ServiceFault extends Error {
  override readonly name = 'ServiceFault'

  /** `again`: the same may go well another time; `afterMs` is when, as far as the service says. Otherwise it was refused, and costs nothing. */
  constructor(readonly problem: Problem, readonly again: boolean, readonly afterMs = 0) {
    super(problem.message)
  }
}
