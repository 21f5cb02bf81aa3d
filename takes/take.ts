import type { KnownTake } from '#core/takes/take'

/** Audio that was made, recorded or brought in, as the index knows it. */
export interface TakeRecord extends KnownTake {
  /** Name of the pack that holds the samples, 16-bit little-endian. */
  readonly pack: string
  readonly offset: number
  /** CRC-32 of the bytes in the pack. */
  readonly checksum: number
}

/** Which takes exist. Implemented over a database and over a file. */
export interface TakeIndex {
  /** The takes that exist among these ids, by id (`takeId`). */
  readonly find: (ids: readonly string[]) => Promise<Map<string, TakeRecord>>
  /** The keys that have no take and that nobody else is making now; they are the caller's until they are added, released, or the lease ends. */
  readonly claim: (keys: readonly string[]) => Promise<string[]>
  /** A lease of a claim, in ms; null where claims do not end. */
  readonly leaseMs: number | null
  /** Begins the leases of the caller's claims anew: while work goes on, nobody else takes it up. */
  readonly renew: (keys: readonly string[]) => Promise<void>
  readonly release: (keys: readonly string[]) => Promise<void>
  /** Takes out takes whose samples are lost, unless they have been made again meanwhile. */
  readonly forget: (takes: readonly TakeRecord[]) => Promise<void>
  /** Makes takes known whose samples are safely on disk. For an id that exists already the first take stays. */
  readonly add: (takes: readonly TakeRecord[]) => Promise<void>
  /** Makes takes known whose samples were in another pack before; one that has been moved elsewhere meanwhile stays there. */
  readonly replace: (takes: readonly TakeRecord[], pack: string) => Promise<void>
}
