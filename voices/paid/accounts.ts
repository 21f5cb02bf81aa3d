import { v7 as uuidv7 } from 'uuid'
import type { Micros } from '#core/estimate/price'
import type { EngineId } from '#core/score/cast'
import type { Order } from './orders'

/** Where a service is asked, and by whom. */
export interface Account {
  /** UUID */
  readonly id: string
  readonly engine: EngineId
  /** Of the service, without a slash at its end. */
  readonly address: string
  /** Never shown, never written to a log. */
  readonly key: string
}

/** What something is read for. */
export interface Purpose {
  /** UUIDs */
  readonly editionId: string
  readonly partId: string
}

/** What is about to be asked of a service. */
export interface Purchase {
  readonly order: Order
  /** Keys of the takes that it gives, at least in part. */
  readonly keys: readonly string[]
  /** As its service counts them. */
  readonly characters: number
  /** What it costs at most. */
  readonly micros: Micros
  /** ISO 4217 */
  readonly currency: string
  readonly purpose: Purpose | null
}

/** The accounts of the paid engines, and what is bought with them. */
export interface Accounts {
  /** The account of an engine; null where none is set up. */
  readonly of: (engine: EngineId) => Promise<Account | null>
  /** Notes a purchase before it is made, and gives its idempotency key (UUID): that of the same purchase where it was begun before, and neither refused nor forgotten by the service. */
  readonly reserve: (account: Account, purchase: Purchase) => Promise<string>
  /** Resolves when the account may be asked for a purchase once more, as far as its requests a second go, and notes that it is. */
  readonly turn: (account: Account, id: string, requestsPerSecond: number) => Promise<void>
  /** Notes that a purchase was answered, and what was billed for it. */
  readonly settle: (id: string, billed: { readonly characters: number, readonly micros: Micros }) => Promise<void>
  /** Notes that a purchase was refused, and so costs nothing. */
  readonly refuse: (id: string, reason: string) => Promise<void>
  /** Orders that were begun before, and that have parts of some of these takes. */
  readonly begun: (account: Account, keys: readonly string[]) => Promise<readonly Order[]>
}

/** The account that the environment names, without a ledger: for the command line. */
export function environmentAccounts(environment: Readonly<Record<string, string | undefined>>): Accounts {
  const { QUILL_SERVICE_ADDRESS: address, QUILL_SERVICE_KEY: key } = environment
  return {
    of: engine => Promise.resolve(address === undefined || key === undefined ? null : { id: '00000000-0000-0000-0000-000000000000', engine, address: address.replace(/\/$/u, ''), key }),
    turn: () => Promise.resolve(),
    reserve: () => Promise.resolve(uuidv7()),
    settle: () => Promise.resolve(),
    refuse: () => Promise.resolve(),
    begun: () => Promise.resolve([]),
  }
}
