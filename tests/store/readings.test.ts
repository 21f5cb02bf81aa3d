import { ProblemError } from '#core/problem'
import { plainContent } from '#core/script/content'
import type { PartSummary } from '#shared/api'
import { applyOperations } from '../../store/operations'
import { chunkSize, faultsOf, noteFault, noteProgress, openChunk, pruneReadings, readingStatus, retryFaults, startReading, stopReading } from '../../store/readings'
import { scoreEdition, type ScoredEdition } from '../../store/score'
import { bringUpToDate, summariesOf, toReadIn } from '../../store/summaries'
import { takeIndex } from '../../store/take-index'
import type { TakeIndex } from '../../takes/take'
import { openEngines } from '../../voices/engines'
import type { Engine } from '../../voices/port'
import { readChunk } from '../../worker/read'
import { ownDatabase, part, production } from '../support/database'
import { programs } from '../support/paths'
import { FolderStorage } from '../../takes/folder-storage'
import { packsIn, takeRecord } from '../support/takes'

const { database } = ownDatabase()
let index: TakeIndex
beforeAll(() => { index = takeIndex(database()) })

const makeAll = (keys: readonly string[]): Promise<void> =>
  index.add(keys.map(key => takeRecord(key)))
const keysOf = (scored: ScoredEdition): string[] => scored.parts.flatMap(each => each.score.utterances.map(utterance => utterance.key))
const summaries = async (id: string): Promise<PartSummary[]> => {
  await bringUpToDate(database(), id)
  return (await summariesOf(database(), [id])).get(id)!.map(({ summary }) => summary)
}
const states = async (id: string): Promise<string[]> => (await summaries(id)).map(each => each.state)

describe('a reading', () => {
  test('wants each missing utterance once, in chunks', async () => {
    const texts = Array.from({ length: 150 }, (_, number) => `Chunk sentence number ${number}.`)
    const id = await production(database(), part('Chunks', ...texts, texts[0]!))
    const { readingId, jobs } = await startReading(database(), index, id, (await scoreEdition(id)).parts)
    expect(jobs.map(job => job.chunk)).toEqual([0, 1, 2])
    const sizes = await Promise.all(jobs.map(async job => (await openChunk(database(), job))!.length))
    expect(sizes).toEqual([chunkSize, chunkSize, 151 - 2 * chunkSize])
    expect(await readingStatus(database(), id)).toMatchObject({ id: readingId, state: 'running', total: 151, made: 0 })
  })

  test('makes what was told before, by parts, each sentence once', async () => {
    const id = await production(database(), part('Repeats', 'Said three times.', 'Said once.', 'Said three times.'), part('Repeats again', 'Said three times.', 'Said there.'))
    const scored = await scoreEdition(id)
    const [first, second] = scored.parts.map(({ row }) => row.id) as [string, string]
    await bringUpToDate(database(), id)
    const all = await toReadIn(database(), id, null)
    // With the titles.
    expect([all.sentences, all.repeats]).toEqual([5, 2])
    expect(await toReadIn(database(), id, [second])).toMatchObject({ sentences: 3, repeats: 0 })
    await startReading(database(), index, id, scored.parts)
    const { total, totalMs, parts } = (await readingStatus(database(), id))!
    expect(total).toBe(all.sentences)
    expect(Math.abs(totalMs - all.ms)).toBeLessThan(2)
    expect(parts).toEqual({ [first]: { made: 0, total: 3 }, [second]: { made: 0, total: 2 } })
    await makeAll(keysOf(scored).slice(0, 2))
    expect((await readingStatus(database(), id))!.parts[first]).toEqual({ made: 2, total: 3 })
    expect(await toReadIn(database(), id, null)).toMatchObject({ sentences: 3, repeats: 0 })
  })

  test('a chunk that is opened again wants only what is not made', async () => {
    const id = await production(database(), part('Again', 'Again one.', 'Again two.'))
    const scored = await scoreEdition(id)
    const { jobs } = await startReading(database(), index, id, scored.parts)
    await makeAll(keysOf(scored).slice(0, 2))
    expect((await openChunk(database(), jobs[0]!))!.map(wanted => wanted.key)).toEqual(keysOf(scored).slice(2))
  })

  test('is done when every utterance is made or at fault', async () => {
    const id = await production(database(), part('Done', 'Done one.', 'Done two.'))
    const scored = await scoreEdition(id)
    const { readingId } = await startReading(database(), index, id, scored.parts)
    const keys = keysOf(scored)
    await makeAll(keys.slice(0, 2))
    await noteProgress(database(), readingId)
    expect(await readingStatus(database(), id)).toMatchObject({ state: 'running', made: 2, total: 3 })
    await noteFault(database(), readingId, keys[2]!, { code: 'x', message: 'y' })
    await noteProgress(database(), readingId)
    expect(await readingStatus(database(), id)).toMatchObject({ state: 'done', made: 2, faults: 1 })
  })

  test('a fault is listed with its place, and can be tried again alone or with all', async () => {
    const id = await production(database(), part('Faults', 'Fault one.', 'Fault two.'))
    const scored = await scoreEdition(id)
    const { readingId } = await startReading(database(), index, id, scored.parts)
    const keys = keysOf(scored)
    await makeAll([keys[0]!])
    for (const key of keys.slice(1).reverse()) await noteFault(database(), readingId, key, { code: 'engine-stopped', message: 'It stopped. Rewrite it.' })
    await noteProgress(database(), readingId)
    expect(await faultsOf(database(), readingId, keys)).toEqual([1, 2].map(number => ({
      key: keys[number], partId: scored.parts[0]!.row.id, partLabel: 'Faults', text: `Fault ${number === 1 ? 'one' : 'two'}.`, problem: { code: 'engine-stopped', message: 'It stopped. Rewrite it.' },
    })))
    expect(await retryFaults(database(), readingId, [keys[1]!])).toEqual([{ readingId, chunk: 0 }])
    expect((await openChunk(database(), { readingId, chunk: 0 }))!.map(wanted => wanted.key)).toEqual([keys[1]])
    expect(await readingStatus(database(), id)).toMatchObject({ state: 'running', faults: 1 })
    await makeAll([keys[1]!])
    await noteProgress(database(), readingId)
    await retryFaults(database(), readingId, null)
    expect(await faultsOf(database(), readingId, keys)).toEqual([])
    await expect(retryFaults(database(), readingId, null)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  })

  test('that a problem stops says which', async () => {
    const id = await production(database(), part('Full', 'Full one.'))
    const { readingId } = await startReading(database(), index, id, (await scoreEdition(id)).parts)
    const failing = { ...openEngines({ programs, parallel: 1 }), of: () => ({ parallel: 1, speak: () => Promise.reject(new ProblemError({ code: 'engine-missing', message: 'Not installed.' })) }) as unknown as Engine }
    await readChunk({ database: database(), library: { index, packs: packsIn('/nowhere') }, engines: failing, worker: readingId, storage: new FolderStorage('/nowhere') }, { readingId, chunk: 0 })
    expect(await readingStatus(database(), id)).toMatchObject({ state: 'stopped', problem: { code: 'engine-missing' }, faults: 0 })
  })

  test('only one runs at a time, and one that is stopped gives no more work', async () => {
    const id = await production(database(), part('Stop', 'Stop one.'))
    const { parts } = await scoreEdition(id)
    const results = await Promise.allSettled([startReading(database(), index, id, parts), startReading(database(), index, id, parts)])
    expect(results.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    const started = results.find(result => result.status === 'fulfilled')!.value
    await stopReading(database(), started.readingId)
    expect(await openChunk(database(), started.jobs[0]!)).toBeNull()
    expect(await stopReading(database(), started.readingId)).toBe(false)
  })

  test('is refused when nothing is missing', async () => {
    const id = await production(database(), part('Full', 'Full one.'))
    const scored = await scoreEdition(id)
    await makeAll(keysOf(scored))
    await expect(startReading(database(), index, id, scored.parts)).rejects.toMatchObject({ problem: { code: 'nothing-to-read' } })
  })
})

test('what earlier readings were to make is dropped once it is made; the states of parts stay', async () => {
  const id = await production(database(), part('Pruned', 'Pruned one.', 'Pruned two.'), part('Other', 'Pruned three.'))
  const rows = async (): Promise<number> => (await database().rows('SELECT u.key FROM reading_utterances u JOIN readings r ON r.id = u.reading_id WHERE r.edition_id = $1', [id])).length
  const read = async (keys: readonly string[], missing: readonly string[] = []): Promise<void> => {
    const { readingId } = await startReading(database(), index, id, (await scoreEdition(id)).parts)
    await makeAll(keys)
    for (const key of missing) await noteFault(database(), readingId, key, { code: 'x', message: 'y' })
    await noteProgress(database(), readingId)
    await stopReading(database(), readingId)
  }
  const [first, ...others] = keysOf(await scoreEdition(id))
  await read([first!], others)
  await read(others)
  const before = await states(id)
  // Five utterances, of which the first reading was to make all, and the second four.
  expect(await rows()).toBe(9)
  await pruneReadings(database())
  expect([await rows(), await states(id)]).toEqual([4 + 2, before])
  const { parts } = await scoreEdition(id)
  const passage = parts[0]!.passages[1]!
  await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: 1, content: plainContent('Pruned and changed.') }])
  expect(await states(id)).toEqual(['stale', 'read'])
})

test('a part is unread, being read, partly read, read, and stale after an edit', async () => {
  const id = await production(database(), part('States', 'States one.', 'States two.'))
  expect(await states(id)).toEqual(['unread'])
  const scored = await scoreEdition(id)
  const { readingId } = await startReading(database(), index, id, scored.parts)
  expect(await states(id)).toEqual(['beingRead'])
  await makeAll(keysOf(scored).slice(0, 1))
  await stopReading(database(), readingId)
  expect(await states(id)).toEqual(['partly'])
  await makeAll(keysOf(scored))
  expect(await states(id)).toEqual(['read'])
  // A part that shares a sentence with one that was read has not been read for that.
  expect(await states(await production(database(), part('Shared', 'States one.')))).toEqual(['partly'])
  const passage = scored.parts[0]!.passages[1]!
  await applyOperations(database(), id, 'window-1', [{ op: 'setContent', passageId: passage.id, revision: 1, content: plainContent('States changed.') }])
  expect(await states(id)).toEqual(['stale'])
  expect((await summaries(id))[0]).toMatchObject({ missing: 1, utterances: 3, exact: false })
})
