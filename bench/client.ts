import { setTimeout as sleep } from 'node:timers/promises'
import type { Desk, ManuscriptView, ReadingDesk } from '#shared/api'
import type { DeliveryDesk } from '#shared/delivery'

/** Between two looks at work that runs, ms. */
const lookMs = 200

/** What a user does with a server, past its pages. */
export class Client {
  constructor(readonly address: string) {}

  async ask<T>(path: string, method = 'GET', body?: object | string): Promise<T> {
    const response = await fetch(`${this.address}/api/${path}`, body === undefined ? { method } : {
      method, body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'application/json' },
    })
    if (!response.ok) throw new Error(`${path}: ${response.status} ${await response.text()}`)
    return await response.json() as T
  }

  /** A production of a Markdown text, divided at its headings of this level; gives its edition's id. */
  async produce(title: string, text: string, level: number): Promise<string> {
    const { id } = await this.ask<ManuscriptView>(`manuscripts?name=${encodeURIComponent(`${title}.md`)}`, 'POST', text)
    await this.taken(id)
    const { editionId } = await this.ask<{ editionId: string }>('editions', 'POST', { manuscriptId: id, title, language: 'en-GB', choices: { split: { by: 'heading', level } } })
    return editionId
  }

  /** Waits until a document has been read. */
  async taken(id: string): Promise<void> {
    for (;;) {
      const { state, problem } = await this.ask<ManuscriptView>(`manuscripts/${id}`)
      if (state === 'ready') return
      if (state !== 'reading') throw new Error(`The document was not read: ${problem?.message ?? state}`)
      await sleep(lookMs)
    }
  }

  /** Reads what is missing; gives the seconds it took. */
  async read(editionId: string): Promise<number> {
    const began = performance.now()
    await this.ask(`editions/${editionId}/readings`, 'POST', {})
    for (;;) {
      const { reading, faults } = await this.ask<ReadingDesk>(`editions/${editionId}/reading`)
      if (reading?.state === 'done' && faults.length === 0) return (performance.now() - began) / 1000
      if (reading?.state !== 'running') throw new Error(`The reading ended: ${JSON.stringify({ reading, faults: faults.slice(0, 3) })}`)
      await sleep(lookMs)
    }
  }

  /** Makes the files; gives the seconds it took. */
  async deliver(editionId: string): Promise<number> {
    const began = performance.now()
    const { deliveryIds: [deliveryId] } = await this.ask<{ deliveryIds: [string] }>(`editions/${editionId}/deliveries`, 'POST', {})
    for (;;) {
      const { state } = await this.ask<{ state: string }>(`deliveries/${deliveryId}`)
      if (state === 'done') return (performance.now() - began) / 1000
      if (state !== 'running') throw new Error(`The delivery ended: ${state}.`)
      await sleep(lookMs)
    }
  }

  desk(editionId: string): Promise<Desk> {
    return this.ask(`editions/${editionId}`)
  }

  runSheet(editionId: string): Promise<DeliveryDesk> {
    return this.ask(`editions/${editionId}/run-sheet`)
  }
}
