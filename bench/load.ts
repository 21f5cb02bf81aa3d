import { readFileSync } from 'node:fs'
import { setTimeout as sleep } from 'node:timers/promises'
import { plainContent, writtenText } from '#core/script/content'
import type { Desk, Page, ShelfEntry } from '#shared/api'
import type { Application } from './application'
import { chaptersOfTheBook, markdownOf, tenChapters } from './book'
import { machineTime } from './processes'
import type { Note } from './note'

const listeners = 20
const editors = 5
/** Between two stretches of six seconds that a listener asks for, ms: three times as fast as anybody listens. */
const listenMs = 2000
/** Between two looks of the visitor at the shelf, ms. */
const visitMs = 1000
/** Time that others work beside a reading, and then beside a huge production too, s. */
const phaseSeconds = Number(process.env['QUILL_LOAD_SECONDS'] ?? 60)
/** The crowd has been there for so long, ms, when measuring begins. */
const warmMs = 10_000
/** Characters of the huge production: the long book, seven times. */
const copiesOfTheBook = Number(process.env['QUILL_LOAD_COPIES'] ?? 7)

/** Times of one kind of request, ms. */
type Times = Map<string, number[]>

/** The value that a share of others do not exceed. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0
}

const residentMb = (pid: number): number => Number(/^VmRSS:\s+(\d+) kB$/mu.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024

/** Listeners, editors and visitors at once: what they wait, and what goes wrong. */
class Crowd {
  readonly times: Times = new Map()
  readonly errors: string[] = []
  /** What each editor saved last, by passage. */
  readonly saved = new Map<string, { readonly partId: string, readonly text: string }>()
  readonly #revisions = new Map<string, number>()
  readonly #application: Application
  #ending = new AbortController()
  #running: Promise<unknown>[] = []

  constructor(application: Application) {
    this.#application = application
  }

  async timed<T>(what: string, work: () => Promise<T>): Promise<T | null> {
    const began = performance.now()
    try {
      return await work()
    } catch (error) {
      this.errors.push(`${what}: ${(error as Error).message.slice(0, 200)}`)
      return null
    } finally {
      const own = this.times.get(what) ?? []
      own.push(performance.now() - began)
      this.times.set(what, own)
    }
  }

  /** Repeats something until the crowd ends. */
  #repeat(step: (round: number) => Promise<void>, everyMs: number): void {
    const { signal } = this.#ending
    this.#running.push((async () => {
      for (let round = 0; !signal.aborted; round += 1) {
        await step(round)
        await sleep(everyMs * (0.5 + Math.random()))
      }
    })())
  }

  /** Each listener goes from place to place in a part, and now and then leaves before an answer has ended. */
  listen(parts: readonly string[]): void {
    for (let listener = 0; listener < listeners; listener += 1) {
      const url = `${this.#application.address}/api/parts/${parts[listener % parts.length]!}/track`
      this.#repeat(round => this.timed('listening, to a stretch of 256 KB', async () => {
        const from = (round * 7919 + listener * 104_729) % 40 * 100_000
        const response = await fetch(url, { headers: { range: `bytes=${from}-${round % 10 === 9 ? '' : from + 262_143}` } })
        if (response.status !== 206) throw new Error(String(response.status))
        if (round % 10 === 9) await response.body!.cancel()
        else await response.arrayBuffer()
      }).then(() => undefined), listenMs)
    }
  }

  /** An editor saves a sentence, as the page does, and looks at the part and the desk. */
  edit(editionId: string, page: Page, window: string): void {
    const passages = page.passages.filter(passage => passage.kind === 'paragraph')
    for (const { id, revision } of passages) if (!this.#revisions.has(id)) this.#revisions.set(id, revision)
    const revisions = this.#revisions
    this.#repeat(async round => {
      const passage = passages[round % passages.length]!
      const text = `${writtenText(passage.content)} Round ${round}.`
      const answer = await this.timed('a saved sentence', () => this.#application.ask<{ revisions: Record<string, number> }>(`editions/${editionId}/operations`, 'POST', {
        window, operations: [{ op: 'setContent', passageId: passage.id, revision: revisions.get(passage.id), content: plainContent(text) }],
      }))
      if (answer !== null) {
        revisions.set(passage.id, answer.revisions[passage.id]!)
        this.saved.set(passage.id, { partId: page.part.id, text })
      }
      await this.timed('a part', () => this.#application.ask(`parts/${page.part.id}`))
      await this.timed('a desk', () => this.#application.ask(`editions/${editionId}`))
    }, 1000)
  }

  visit(): void {
    this.#repeat(() => this.timed('the shelf', () => this.#application.ask<ShelfEntry[]>('editions')).then(() => undefined), visitMs)
  }

  async end(): Promise<void> {
    this.#ending.abort()
    await Promise.all(this.#running)
    this.#running = []
    this.#ending = new AbortController()
  }

  /** Saved sentences that are not there as they were saved last. */
  async lost(): Promise<number> {
    const pages = new Map<string, Page>()
    let lost = 0
    for (const [passageId, { partId, text }] of this.saved) {
      const page = pages.get(partId) ?? await this.#application.ask<Page>(`parts/${partId}`)
      pages.set(partId, page)
      if (writtenText(page.passages.find(passage => passage.id === passageId)!.content) !== text) lost += 1
    }
    return lost
  }
}

/** 20 listeners, 5 editors and a visitor beside a reading; then beside a huge production that is made, changed and looked at too. */
export async function benchLoad(application: Application, note: Note): Promise<void> {
  console.log(`\nLoad: ${listeners} listeners, ${editors} editors, a visitor, a reading; ${phaseSeconds} s without and ${phaseSeconds} s and more with a huge production`)
  const chapters = tenChapters()
  const heard = await application.produce('Heard', markdownOf('Heard', chapters), 2)
  await application.read(heard)
  const { parts } = await application.desk(heard)
  const crowd = new Crowd(application)
  const edited: { id: string, page: Page }[] = []
  for (let editor = 0; editor < editors; editor += 1) {
    const title = `Edited ${editor}`
    const id = await application.produce(title, markdownOf(title, chapters.slice(editor, editor + 3)), 2)
    edited.push({ id, page: await application.ask<Page>(`parts/${(await application.desk(id)).parts[0]!.id}`) })
  }
  const book = await application.produce('Read', markdownOf('Read', chaptersOfTheBook()), 2)
  let mostMb = 0
  const watch = setInterval(() => { mostMb = Math.max(mostMb, residentMb(application.pid('server'))) }, 100)
  let machine = machineTime()
  const report = (phase: string): void => {
    for (const [what, times] of crowd.times) {
      note(`${phase}: ${what}, half of ${times.length}`, percentile(times, 0.5), 'ms')
      note(`${phase}: ${what}, 95 of 100`, percentile(times, 0.95), 'ms', 200)
    }
    note(`${phase}: errors`, crowd.errors.length, '', 0)
    for (const error of new Set(crowd.errors)) console.log(`  ${error}`)
    note(`${phase}: most memory of the web server`, mostMb, 'MB', 350)
    const now = machineTime()
    note(`${phase}: processor time that the host gave to other machines`, 100 * (now.taken - machine.taken) / (now.all - machine.all), '%')
    mostMb = 0
    crowd.times.clear()
    crowd.errors.length = 0
  }
  // What everybody asks for first is not there yet; from then on it is measured.
  const gather = async (): Promise<void> => {
    crowd.listen(parts.map(part => part.id))
    edited.forEach(({ id, page }, index) => { crowd.edit(id, page, `load-window-${index}`) })
    crowd.visit()
    await sleep(warmMs)
    crowd.times.clear()
    machine = machineTime()
  }
  note('memory of the web server before', residentMb(application.pid('server')), 'MB')
  await application.ask(`editions/${book}/readings`, 'POST', {})
  await gather()
  await sleep(phaseSeconds * 1000)
  await crowd.end()
  report('beside a reading')

  await gather()
  const text = Array.from({ length: copiesOfTheBook }, (_, copy) => markdownOf('Huge', chaptersOfTheBook().map(chapter => ({ ...chapter, title: `${chapter.title}, ${copy + 1}` }))).replace(/^# Huge\n/u, '')).join('\n')
  const began = performance.now()
  const seconds = (): number => (performance.now() - began) / 1000
  const huge = await application.produce('Huge', `# Huge\n${text}`, 2)
  note(`a huge production, ${(text.length / 1e6).toFixed(1)} million characters: brought in and accepted after`, seconds(), 's')
  let desk = await application.desk(huge)
  note('its desk, first, after', seconds(), 's')
  const page = await application.ask<Page>(`parts/${desk.parts[3]!.id}`)
  let looks = 0
  for (let change = 0; looks < 3 || seconds() < phaseSeconds; change += 1) {
    const before = performance.now()
    if (change % 3 === 0) await application.ask(`editions/${huge}/operations`, 'POST', { window: 'huge-window', operations: [{ op: 'setHouseStyle', patch: { sentenceRestMs: 301 + change } }] })
    else await application.ask(`editions/${huge}/operations`, 'POST', { window: 'huge-window', operations: [{ op: 'renamePart', partId: page.part.id, revision: page.part.revision + change - Math.floor(change / 3) - 1, label: `Renamed ${change}` }] })
    desk = await application.ask<Desk>(`editions/${huge}`)
    looks += 1
    if (change < 2) note(change === 0 ? 'its desk after a change of all of it' : 'its desk after a change of one part', performance.now() - before, 'ms')
  }
  await application.ask(`editions/${huge}/run-sheet`)
  await application.ask('storage')
  await crowd.end()
  report('beside a huge production')
  note('edits that are lost', await crowd.lost(), '', 0)
  clearInterval(watch)
}
