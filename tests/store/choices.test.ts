import { randomUUID } from 'node:crypto'
import { mkdtemp } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { anchorAt } from '#core/script/anchor'
import { plainContent, writtenText } from '#core/script/content'
import { textHash } from '#core/takes/take'
import { heardAlone, pageOf, utteranceOf, wordTimesOf } from '../../services/parts'
import { historyOf, undo } from '../../store/edits'
import { FolderStorage } from '../../takes/folder-storage'
import { applyOperations } from '../../store/operations'
import { startReading } from '../../store/readings'
import { referencesOf, scoreEdition, takesOfParts } from '../../store/score'
import { freeStorage } from '../../store/storage'
import { bringUpToDate, summariesOf } from '../../store/summaries'
import { takeIndex } from '../../store/take-index'
import { ownDatabase, part, production } from '../support/database'
import { placeWithoutFiles } from '../support/place'
import { newTake, packsIn, takeRecord } from '../support/takes'

// A recording for a passage: what somebody has spoken is chosen in place of what an engine would make.

const { database } = ownDatabase()
const window = 'window-1'
const key = 'b'.repeat(64)

interface Recorded {
  readonly id: string
  readonly partId: string
  readonly passage: { readonly id: string, readonly revision: number, readonly text: string }
  readonly choiceId: string
}

/** A production of which everything is read, and one passage recorded; whose recording is chosen. */
async function withRecording(title: string, take = key): Promise<Recorded> {
  const index = takeIndex(database())
  const id = await production(database(), part(title, `${title} one. ${title} two.`, `${title} three.`))
  const scored = await scoreEdition(id)
  await index.add(takesOfParts(scored.parts).map(each => takeRecord(each)))
  const row = scored.parts[0]!.passages[1]!
  const text = writtenText(row.content)
  await index.add([takeRecord(take, { origin: 'recorded', sampleRate: 44_100, sampleCount: 88_200, textHash: textHash(text) })])
  const choiceId = randomUUID()
  await applyOperations(database(), id, window, [{ op: 'chooseTake', id: choiceId, choice: { at: anchorAt(row.id, text, 0, text.length), take } }])
  return { id, partId: scored.parts[0]!.row.id, passage: { id: row.id, revision: row.revision, text }, choiceId }
}

const heardIn = async (id: string): Promise<string[]> => {
  const { parts } = await scoreEdition(id)
  return referencesOf(parts[0]!).map(({ take }) => take)
}
const summaryOf = async (id: string) => {
  await bringUpToDate(database(), id)
  return (await summariesOf(database(), [id])).get(id)![0]!
}
const place = () => placeWithoutFiles(database())

test('a choice is heard alike in score, summary, page and listening, and undone like any edit', async () => {
  const { id, partId } = await withRecording('Alike')
  const heard = await heardIn(id)
  expect(heard).toHaveLength(3)
  expect(heard[1]).toBe(key)
  const { summary, samples } = await summaryOf(id)
  // Title, recording of two seconds, one sentence of a second; a second of rest behind the title, 0.6 s between the passages.
  expect([summary.missing, summary.state, samples]).toEqual([0, 'read', 22_050 * 2 + 44_100 + 22_050 * 1.6])
  const page = await pageOf(place(), { partId })
  expect(page.utterances.map(({ read, stale }) => [read, stale])).toEqual([[true, false], [true, false], [true, false], [true, false]])
  expect(page.utterances.map(({ startMs, durationMs }) => startMs + durationMs).at(-1)).toBe(summary.durationMs)
  // Each sentence in its share of the recording.
  const [, first, second] = page.utterances
  expect(first!.durationMs + second!.durationMs).toBeCloseTo(2000)
  const found = await utteranceOf(place(), { partId, key: second!.key })
  const { track } = heardAlone(found, (await takeIndex(database()).find([key])).get(key)!)
  expect(track.sampleCount).toBe(Math.round(second!.durationMs * 22.05))
  expect(await wordTimesOf(place(), { partId, key: second!.key })).toEqual([])

  expect(await historyOf(id, window)).toEqual({ undo: { kind: 'take', subject: '“Alike one. Alike two.”' }, redo: null })
  await undo(database(), id, { window, direction: 'undo' })
  expect(await heardIn(id)).toHaveLength(4)
  await undo(database(), id, { window, direction: 'redo' })
  expect((await heardIn(id))[1]).toBe(key)
})

test('a change of its text leaves it, and shows it as stale', async () => {
  const { id, partId, passage } = await withRecording('Stale', 'c'.repeat(64))
  await applyOperations(database(), id, window, [{ op: 'setContent', passageId: passage.id, revision: passage.revision, content: plainContent(passage.text.replace('two', 'none')) }])
  expect((await heardIn(id))[1]).toBe('c'.repeat(64))
  expect((await pageOf(place(), { partId })).utterances.map(({ stale }) => stale)).toEqual([false, true, true, false])
})

test('a take that is not there cannot be chosen, and one that is lost is not replaced by a reading', async () => {
  const { id } = await withRecording('Lost', 'd'.repeat(64))
  const at = anchorAt(randomUUID(), 'x', 0, 1)
  await expect(applyOperations(database(), id, window, [{ op: 'chooseTake', id: randomUUID(), choice: { at, take: 'e'.repeat(64) } }])).rejects.toMatchObject({ problem: { code: 'not-found' } })
  await database().rows('DELETE FROM takes WHERE id = $1 RETURNING id', ['d'.repeat(64)])
  expect((await summaryOf(id)).summary.missing).toBe(1)
  await expect(startReading(database(), takeIndex(database()), id, (await scoreEdition(id)).parts)).rejects.toMatchObject({ problem: { code: 'take-lost', message: expect.stringContaining('Lost one.') } })
})

describe('freeing space', () => {
  test('takes nothing that a choice or a recording holds', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'quill-choices-'))
    const [index, packs] = [takeIndex(database()), packsIn(folder)]
    const { id, passage } = await withRecording('Held', 'f'.repeat(64))
    const other = (await scoreEdition(id)).parts[0]!.score.utterances.at(-1)!
    // Another take of a sentence, chosen; one that nobody has chosen; and a recording that is chosen no more.
    const samples = new Int16Array(100)
    await index.add(await packs.append([
      newTake(other.key, samples, { variant: 1 }), newTake(other.key, samples, { variant: 2 }), newTake('1'.repeat(64), samples, { origin: 'recorded' }), newTake('2'.repeat(64), samples, { origin: 'imported' }),
    ]))
    const { parts } = await scoreEdition(id)
    const row = parts[0]!.passages.find(each => each.id === other.passageId)!
    await applyOperations(database(), id, window, [{ op: 'chooseTake', id: randomUUID(), choice: { at: anchorAt(row.id, writtenText(row.content), other.start, other.end), take: `${other.key}.1` } }])
    await freeStorage(database(), new FolderStorage(folder), packs, 'takes')
    const kept = ['f'.repeat(64), `${other.key}.1`, `${other.key}.2`, '1'.repeat(64), '2'.repeat(64)]
    expect([...(await index.find(kept)).keys()].sort()).toEqual(['f'.repeat(64), `${other.key}.1`, '1'.repeat(64)].sort())
    expect(passage.id).not.toBe(row.id)
    await packs.close()
  })

  test('and a choice that is made meanwhile do not miss each other', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'quill-choices-'))
    const [index, packs] = [takeIndex(database()), packsIn(folder)]
    const id = await production(database(), part('Meanwhile', 'Meanwhile one.'))
    const { parts } = await scoreEdition(id)
    const row = parts[0]!.passages[1]!
    for (let attempt = 0; attempt < 10; attempt += 1) {
      const take = attempt.toString(16).repeat(64)
      await index.add(await packs.append([newTake(take, new Int16Array(10), { origin: 'imported' })]))
      const choiceId = randomUUID()
      const choosing = applyOperations(database(), id, window, [{ op: 'chooseTake', id: choiceId, choice: { at: anchorAt(row.id, 'Meanwhile one.', 0, 14), take } }]).then(() => true, () => false)
      const [isChosen] = await Promise.all([choosing, freeStorage(database(), new FolderStorage(folder), packs, 'takes')])
      expect((await index.find([take])).size).toBe(isChosen ? 1 : 0)
      await applyOperations(database(), id, window, [{ op: 'chooseTake', id: choiceId, choice: null }])
    }
    await packs.close()
  })
})
