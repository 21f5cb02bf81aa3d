import { samplesToMs } from '#core/audio/pcm'
import { noAnnouncements, type Announcements } from '#core/script/announcements'
import { profiles } from '#core/delivery/profiles'
import { announcementsOf } from '../../store/announcements'
import { deliveryDesk } from '../../store/deliveries'
import { addProfile, changeProfile } from '../../store/delivery-profiles'
import { changeEdition, loadEdition } from '../../store/editions'
import { RoleRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { startReading } from '../../store/readings'
import { filePassages, sheetOf } from '../../store/run-sheet'
import { scoreEdition, takesOfParts } from '../../store/score'
import { bringUpToDate } from '../../store/summaries'
import { takeIndex } from '../../store/take-index'
import { ownDatabase, part, production } from '../support/database'
import { takeRecord } from '../support/takes'

const { database } = ownDatabase()

const announce = (id: string, given: Partial<Announcements>): Promise<void> => changeEdition(database(), id, { announcements: { ...noAnnouncements, ...given } })
const desk = async (id: string) => deliveryDesk(database(), await bringUpToDate(database(), id), 'encoder')
const names = async (id: string): Promise<string[]> => (await desk(id)).rows.map(({ name }) => name)
const spoken = async (id: string): Promise<string[][]> => (await scoreEdition(id)).parts.map(({ score }) => score.utterances.map(({ text }) => text))

test('what is announced is read with its part, has files, and goes again', async () => {
  const id = await production(database(), part('One', 'Of one.'), part('Two', 'Of another.'))
  expect(await names(id)).toEqual(['01-one.mp3', '02-two.mp3'])
  await announce(id, { opening: '{production}.', part: 'Chapter {number}: {part}.', closing: 'The end.' })
  expect(await spoken(id)).toEqual([['The Year.', 'Chapter 1: One.', 'One', 'Of one.'], ['Chapter 2: Two.', 'Two', 'Of another.', 'The end.']])
  const { rows, doubled } = await desk(id)
  expect(rows.map(({ name, missing, canGoOn }) => [name, missing, canGoOn])).toEqual([['01-opening-credits.mp3', 1, false], ['02-one.mp3', 3, false], ['03-two.mp3', 3, true], ['04-closing-credits.mp3', 1, false]])
  expect(doubled).toEqual(['One', 'Two'])

  // Every file leads to the script, and what is kept for run sheets says what the score says.
  const scored = await scoreEdition(id)
  const known = new Set(scored.parts.flatMap(each => each.passages.map(passage => passage.id)))
  expect(rows.every(({ passageId }) => known.has(passageId))).toBe(true)
  expect((await filePassages(database(), await loadEdition(id), rows[1]!.key)).map(({ title }) => title)).toEqual(['One', 'Of one'])
  const sheet = await sheetOf(database(), scored, new Map())
  expect(sheet.map(({ key, name, sampleCount, spans }) => [key, name, samplesToMs(sampleCount, spans[0]!.part.sampleRate)])).toEqual(rows.map(({ key, name, durationMs }) => [key, name, durationMs]))

  const index = takeIndex(database())
  await startReading(database(), index, id, scored.parts)
  const keys = await database().rows<{ key: string }>('SELECT key FROM reading_utterances u JOIN readings r ON r.id = u.reading_id WHERE r.edition_id = $1', [id])
  expect(new Set(keys.map(({ key }) => key))).toEqual(new Set(takesOfParts(scored.parts)))
  await index.add(keys.map(({ key }) => takeRecord(key)))
  expect((await desk(id)).rows.map(({ state }) => state)).toEqual(Array(4).fill('ready'))

  await announce(id, { part: 'Chapter {number}: {part}.', repeats: 'skip' })
  expect([await names(id), (await desk(id)).doubled]).toEqual([['01-one.mp3', '02-two.mp3'], []])
  await changeEdition(database(), id, { announcements: null })
  expect(await spoken(id)).toEqual([['One', 'Of one.'], ['Two', 'Of another.']])
})

test('what an announcement names is followed: names and numbers of parts, title, tags', async () => {
  const id = await production(database(), part('One', 'Of one.'), part('Two', 'Of another.'))
  await announce(id, { opening: '{production}. Read by {narrator}.', part: '{number}.', ownFiles: 'none' })
  const before = await desk(id)
  await changeEdition(database(), id, { title: 'Another Year', details: { narrator: 'N. Vale' } })
  const [first] = (await scoreEdition(id)).parts
  expect(first!.score.utterances.map(({ text }) => text).slice(0, 3)).toEqual(['Another Year.', 'Read by N. Vale.', '1.'])
  await applyOperations(database(), id, 'window-1', [{ op: 'includePart', partId: first!.row.id, revision: 1, included: false }])
  expect((await spoken(id))[1]).toEqual(['Another Year.', 'Read by N. Vale.', '1.', 'Two', 'Of another.'])
  const after = await desk(id)
  expect(after.rows.map(({ name }) => name)).toEqual(['01-two.mp3'])
  expect(after.rows[0]!.durationMs).toBeGreaterThan(before.rows[1]!.durationMs)
})

test('a profile announces where a production has nothing of its own; another profile is another score', async () => {
  const { id: profileId, profile } = await addProfile({ ...profiles.book, name: 'House book', announcements: { ...noAnnouncements, closing: 'The end.', role: 'Announcer' } })
  const id = await production(database(), part('One', 'Of one.'))
  await changeEdition(database(), id, { profile: profileId })
  expect((await spoken(id))[0]!.at(-1)).toBe('The end.')
  expect(announcementsOf(await loadEdition(id)).role).toBe('Announcer')
  expect((await desk(id)).isOwnAnnouncements).toBe(false)

  // Where the cast has the role, it speaks them.
  const { production: { id: productionId } } = await loadEdition(id)
  const role = await RoleRow.create({ id: crypto.randomUUID(), productionId, name: 'Announcer' })
  expect((await scoreEdition(id)).parts[0]!.score.utterances.at(-1)!.role).toBe(role.id)

  await desk(id)
  await changeProfile(database(), profileId, { ...profile, announcements: { ...profile.announcements!, closing: 'Goodbye.' } })
  expect((await spoken(id))[0]!.at(-1)).toBe('Goodbye.')
  expect((await desk(id)).rows.at(-1)!.missing).toBe(1)
  await announce(id, { closing: 'Our own.' })
  expect([(await spoken(id))[0]!.at(-1), (await desk(id)).isOwnAnnouncements]).toEqual(['Our own.', true])
})
