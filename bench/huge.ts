import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { plainContent, writtenText } from '#core/script/content'
import type { ManuscriptView, Page } from '#shared/api'
import { variable } from '../scripts/paths.mjs'
import type { Application } from './application'
import { chaptersOfTheBook, markdownOf, tenChapters } from './book'
import { percentile } from './load'
import type { Note } from './note'

/** Between two requests of whoever works beside, ms. */
const everyMs = 100
/** Length of the one line, in characters. */
const lineCharacters = Number(process.env['QUILL_HUGE_CHARACTERS'] ?? 5_000_000)
/** What 95 of 100 requests of others may take, ms. */
const mostMs = 200
/** So many requests are judged by themselves. */
const leastJudged = 20
/** What the main thread of the server may compute at a stretch, ms. */
const mostHeldMs = 50

/** Somebody who works on a small production, and looks at the shelf, all the time. */
class Neighbour {
  times: number[] = []
  readonly #ending = new AbortController()
  readonly #running: Promise<void>

  constructor(application: Application, editionId: string, page: Page) {
    this.#running = this.#work(application, editionId, page)
  }

  async #work(application: Application, editionId: string, page: Page): Promise<void> {
    const passage = page.passages.find(each => each.kind === 'paragraph')!
    let { revision } = passage
    const save = async (round: number): Promise<void> => {
      const content = plainContent(`${writtenText(passage.content)} Round ${round}.`)
      const { revisions } = await application.ask<{ revisions: Record<string, number> }>(`editions/${editionId}/operations`, 'POST', {
        window: 'neighbour-window', operations: [{ op: 'setContent', passageId: passage.id, revision, content }],
      })
      revision = revisions[passage.id]!
    }
    const steps = [save, () => application.ask(`parts/${page.part.id}`), () => application.ask(`editions/${editionId}`), () => application.ask('editions')]
    for (let round = 0; !this.#ending.signal.aborted; round += 1) {
      const began = performance.now()
      await steps[round % steps.length]!(round)
      this.times.push(performance.now() - began)
      await sleep(everyMs)
    }
  }

  async end(): Promise<void> {
    this.#ending.abort()
    await this.#running
  }
}

/** The longest that the server's main thread computed at a stretch since a time, ms, as its log says; 0 where it never says so. */
function longestHeldMs(since: string): number {
  const entries = readFileSync(join(variable, 'bench', 'log', 'server.log'), 'utf8').split('\n').filter(line => line.includes('"heldMs"')).map(line => JSON.parse(line) as { time: string, cpuMs: number })
  return Math.max(0, ...entries.filter(({ time }) => time > since).map(({ cpuMs }) => cpuMs))
}

/** A production of one line of some millions of characters is brought in and worked on: what somebody else waits meanwhile. */
export async function benchHuge(application: Application, note: Note): Promise<void> {
  console.log(`\nOne line of ${(lineCharacters / 1e6).toFixed(1)} million characters; beside it somebody saves, and looks at a part, a desk and the shelf`)
  const small = await application.produce('Beside', markdownOf('Beside', tenChapters().slice(0, 2)), 2)
  const { parts } = await application.desk(small)
  const neighbour = new Neighbour(application, small, await application.ask<Page>(`parts/${parts[0]!.id}`))
  await sleep(5_000)
  const book = markdownOf('Line', chaptersOfTheBook()).replace(/\s+/gu, ' ')
  const line = book.repeat(Math.ceil(lineCharacters / book.length)).slice(0, lineCharacters)
  const all: number[] = []
  const began = new Date().toISOString()
  const during = async <T>(what: string, work: () => Promise<T>): Promise<T> => {
    neighbour.times = []
    const before = performance.now()
    const result = await work()
    const own = performance.now() - before
    note(`${what}: its own time`, own / 1000, 's')
    const { times } = neighbour
    // Of a few the slowest says nothing.
    if (times.length > 0) note(`${what}: others meanwhile, 95 of 100 of ${times.length}`, percentile(times, 0.95), 'ms', times.length < leastJudged ? undefined : mostMs)
    all.push(...times)
    return result
  }
  const manuscriptId = await during('intake', async () => {
    const { id } = await application.ask<ManuscriptView>('manuscripts?name=line.txt', 'POST', line)
    await application.taken(id)
    return id
  })
  await during('proposal', () => application.ask(`manuscripts/${manuscriptId}/proposal`, 'POST', { choices: {}, shown: 0 }))
  const { editionId } = await during('production', () => application.ask<{ editionId: string }>('editions', 'POST', { manuscriptId, title: 'Line', language: 'en-GB' }))
  const desk = await during('desk', () => application.desk(editionId))
  const partId = desk.parts.at(-1)!.id
  await during('part', () => application.ask(`parts/${partId}`))
  await during('find', () => application.ask(`editions/${editionId}/find`, 'POST', { query: { what: 'whale', place: 'text', matchCase: false, wholeWord: true, isPattern: false } }))
  await during('words', () => application.ask(`editions/${editionId}/words`))
  await during('run sheet', () => application.ask(`editions/${editionId}/run-sheet`))
  await during('comparison', () => application.ask(`editions/${editionId}/comparison`, 'POST', { manuscriptId }))
  await during('change of the house style, and the desk', async () => {
    await application.ask(`editions/${editionId}/operations`, 'POST', { window: 'huge-window', operations: [{ op: 'setHouseStyle', patch: { sentenceRestMs: 311 } }] })
    await application.desk(editionId)
  })
  await neighbour.end()
  note(`others in all, 95 of 100 of ${all.length}`, percentile(all, 0.95), 'ms', mostMs)
  note('others in all, the slowest', Math.max(...all), 'ms')
  note('longest that the main thread of the server computed', longestHeldMs(began), 'ms', mostHeldMs)
}
