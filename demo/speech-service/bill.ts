import { appendFileSync, existsSync, readFileSync } from 'node:fs'
import { monthOf, priceOf, type Micros } from '#core/estimate/price'
import type { Settings, Tier } from './settings'

/** A request that was answered, and so is paid for. */
export interface BillEntry {
  /** ISO 8601 */
  readonly at: string
  /** Its idempotency key, where it had one. */
  readonly request: string | null
  readonly voice: string
  readonly tier: Tier
  readonly characters: number
  readonly micros: Micros
}

export interface Month {
  readonly month: string
  readonly characters: Readonly<Record<Tier, number>>
  readonly micros: Micros
}

/** What was sold, kept in a file of a line for each entry, so that it survives a restart. */
export class Bill {
  readonly entries: BillEntry[]

  constructor(private readonly file: string) {
    this.entries = existsSync(file) ? readFileSync(file, 'utf8').split('\n').filter(line => line !== '').map(line => JSON.parse(line) as BillEntry) : []
  }

  /** Sums of the month of a moment. */
  monthOf(moment: Date): Month {
    const month = monthOf(moment)
    const own = this.entries.filter(({ at }) => at.startsWith(month))
    const of = (tier: Tier): number => own.filter(each => each.tier === tier).reduce((sum, { characters }) => sum + characters, 0)
    return { month, characters: { plain: of('plain'), fine: of('fine') }, micros: own.reduce((sum, { micros }) => sum + micros, 0) }
  }

  add(entry: Omit<BillEntry, 'at' | 'micros'>, { prices }: Settings, now: Date): BillEntry {
    const micros = priceOf(entry.characters, this.monthOf(now).characters[entry.tier], prices[entry.tier])
    const added = { ...entry, at: now.toISOString(), micros }
    this.entries.push(added)
    appendFileSync(this.file, `${JSON.stringify(added)}\n`)
    return added
  }
}
