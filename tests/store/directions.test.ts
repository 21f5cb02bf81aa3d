import { v7 as uuidv7 } from 'uuid'
import { plainContent, writtenText, type Content } from '#core/script/content'
import type { Operation, WholePassage } from '#shared/operations'
import { loadEdition } from '../../store/editions'
import { undo } from '../../store/edits'
import { EditionRow, PartRow, PassageRow, RoleRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { findIn, scriptFile } from '../../services/scripts'
import { scoreEdition, scriptOf } from '../../store/score'
import { ownDatabase, part, production } from '../support/database'
import { placeWithoutFiles } from '../support/place'

const { database } = ownDatabase()
const mine = 'window-of-mine'
let id: string
beforeEach(async () => { id = await production(database(), part('One', 'MENTOR: Look.', 'APPRENTICE: Where?', 'MENTOR: There.'), part('Two', 'Honey is honey.')) })

const place = () => placeWithoutFiles(database())
const operate = (...operations: Operation[]) => applyOperations(database(), id, mine, operations)
const back = () => undo(database(), id, { window: mine, direction: 'undo' })
const partOf = (label: string): Promise<PartRow> => PartRow.findOne({ where: { editionId: id, label }, rejectOnEmpty: true })
const passagesOf = async (label: string): Promise<PassageRow[]> => PassageRow.findAll({ where: { partId: (await partOf(label)).id }, order: [['rank', 'ASC']] })
const texts = async (label: string): Promise<string[]> => (await passagesOf(label)).map(row => writtenText(row.content))
const strong = (text: string): Content => ({ version: 2, runs: [{ text, on: ['e'] }], directions: [{ id: 'e', kind: 'emphasis', level: 'strong' }] })

test('a passage’s role, language and kind are changed and taken back; a role that is new is cast', async () => {
  const [, passage] = await passagesOf('Two')
  const mentor = uuidv7()
  await operate({ op: 'makeRole', id: mentor, name: 'Mentor' }, { op: 'setPassage', passageId: passage!.id, revision: 1, role: mentor, language: 'de', kind: 'quotation' })
  await passage!.reload()
  expect([passage!.role, passage!.language, passage!.kind, passage!.revision]).toEqual([mentor, 'de', 'quotation', 2])
  const { roles } = await loadEdition(id)
  expect(roles.map(role => role.name)).toEqual(['Narrator', 'Mentor'])
  expect(roles[1]!.casting.voice).toMatch(/\+m3$/u)
  const scored = await scoreEdition(id)
  expect(scored.parts[1]!.score.utterances.at(-1)).toMatchObject({ role: mentor, request: { voice: roles[1]!.casting.voice } })
  await back()
  await passage!.reload()
  expect([passage!.role, passage!.language, passage!.kind]).toEqual([null, null, 'paragraph'])
})

test('a role has a name that no other has, and one that is not in the cast speaks nowhere', async () => {
  const [, passage] = await passagesOf('Two')
  const mentor = uuidv7()
  const made: Operation = { op: 'makeRole', id: mentor, name: 'Mentor' }
  await operate(made)
  // The same that is sent twice makes one.
  await operate(made)
  await expect(operate({ ...made, id: uuidv7() })).rejects.toMatchObject({ problem: { code: 'role-exists' } })
  await expect(operate({ op: 'setPassage', passageId: passage!.id, revision: 1, role: uuidv7() })).rejects.toMatchObject({ problem: { code: 'role-unknown' } })
  const content: Content = { version: 2, runs: [{ text: 'Honey', on: ['r'] }], directions: [{ id: 'r', kind: 'role', role: 'Mentor' }] }
  await expect(operate({ op: 'setContent', passageId: passage!.id, revision: 1, content })).rejects.toMatchObject({ problem: { code: 'role-unknown' } })
  // Another name changes what is seen, and nothing that is written.
  await operate({ op: 'setPassage', passageId: passage!.id, revision: 1, role: mentor })
  const before = (await scoreEdition(id)).parts[1]!.score
  await RoleRow.update({ name: 'Elder' }, { where: { id: mentor } })
  expect((await scoreEdition(id)).parts[1]!.score).toEqual(before)
  expect((await scriptFile(place(), { editionId: id, format: 'ssml' })).toString()).toContain('quill:role="Elder"')
})

test('a role is found and replaced by its name', async () => {
  const [, passage] = await passagesOf('Two')
  const mentor = uuidv7()
  const content: Content = { version: 2, runs: [{ text: 'Honey', on: ['r'] }, { text: ' is honey.', on: [] }], directions: [{ id: 'r', kind: 'role', role: mentor }] }
  await operate({ op: 'makeRole', id: mentor, name: 'Mentor' }, { op: 'setContent', passageId: passage!.id, revision: 1, content })
  const query = { what: 'Mentor', place: 'directions', matchCase: true, wholeWord: true, isPattern: false } as const
  expect((await findIn(place(), { editionId: id, query })).count).toBe(1)
  await operate({ op: 'replace', query, replacement: 'Elder' })
  const { roles } = await loadEdition(id)
  expect(roles.map(({ name }) => name)).toEqual(['Narrator', 'Mentor', 'Elder'])
  expect((await passagesOf('Two'))[1]!.content.directions).toEqual([{ id: 'r', kind: 'role', role: roles[2]!.id }])
})

test('speaker labels become roles in one edit, which is taken back as one', async () => {
  await operate({ op: 'dialogue', roles: [{ label: 'MENTOR', role: 'Mentor' }, { label: 'APPRENTICE', role: 'Apprentice' }] })
  const [, mentor, apprentice] = (await loadEdition(id)).roles.map(role => role.id)
  expect((await passagesOf('One')).map(row => row.role)).toEqual([null, mentor, apprentice, mentor])
  const { parts } = await scoreEdition(id)
  expect(parts[0]!.score.utterances.map(utterance => [utterance.role, utterance.text])).toEqual([[undefined, 'One'], [mentor, 'Look.'], [apprentice, 'Where?'], [mentor, 'There.']])
  await back()
  expect((await passagesOf('One')).map(row => row.role)).toEqual([null, null, null, null])
  expect((await passagesOf('One')).flatMap(row => row.content.directions)).toEqual([])
})

test('a part’s passages are set as a whole: changed, new, moved and gone, and all that is taken back', async () => {
  const rows = await passagesOf('One')
  const whole = (row: PassageRow, content = row.content): WholePassage => ({ id: row.id, kind: row.kind, content, language: row.language, role: row.role })
  const [made, mentor] = [uuidv7(), uuidv7()]
  const seen = rows.map(row => ({ id: row.id, revision: row.revision }))
  await operate({ op: 'makeRole', id: mentor, name: 'Mentor' }, {
    op: 'setPassages', partId: (await partOf('One')).id, seen,
    passages: [whole(rows[0]!), whole(rows[3]!), { id: made, kind: 'quotation', content: strong('New.'), language: null, role: mentor }, whole(rows[1]!, strong('Look here.'))],
  })
  expect(await texts('One')).toEqual(['One', 'MENTOR: There.', 'New.', 'Look here.'])
  expect((await passagesOf('One'))[2]!.role).toBe(mentor)
  await back()
  expect(await texts('One')).toEqual(['One', 'MENTOR: Look.', 'APPRENTICE: Where?', 'MENTOR: There.'])

  // What was seen is not what is there any more.
  expect(await operate({ op: 'setPassages', partId: (await partOf('One')).id, seen, passages: rows.map(row => whole(row)) })).toHaveProperty('conflicts')
  const other = (await passagesOf('Two'))[0]!
  const now = (await passagesOf('One')).map(row => ({ id: row.id, revision: row.revision }))
  await expect(operate({ op: 'setPassages', partId: (await partOf('One')).id, seen: now, passages: [whole(other)] })).rejects.toMatchObject({ problem: { code: 'passage-doubled' } })
})

test('a replacement counts what it changes over all parts, and is one edit', async () => {
  const query = { what: 'e', place: 'text', matchCase: true, wholeWord: false, isPattern: false } as const
  expect(await operate({ op: 'replace', query, replacement: 'E' })).toMatchObject({ replaced: { count: 7, passages: 4, refused: 0 } })
  expect(await texts('Two')).toEqual(['Two', 'HonEy is honEy.'])
  await back()
  expect(await texts('Two')).toEqual(['Two', 'Honey is honey.'])

  const [, passage] = await passagesOf('Two')
  const one = { op: 'replace' as const, query: { ...query, what: 'honey' }, replacement: 'wax', only: { passageId: passage!.id, revision: passage!.revision, start: 9 } }
  expect(await operate(one)).toMatchObject({ replaced: { count: 1 } })
  expect(await texts('Two')).toEqual(['Two', 'Honey is wax.'])
  expect(await operate(one)).toHaveProperty('conflicts')
  expect(await operate({ op: 'replace', query: { ...query, what: 'nowhere' }, replacement: 'x' })).toMatchObject({ replaced: { count: 0 }, revisions: {} })
})

test('the script of an edition is what its files are made of', async () => {
  const [, passage] = await passagesOf('Two')
  await operate({ op: 'setContent', passageId: passage!.id, revision: 1, content: strong('Honey.') })
  const script = await scriptOf(await loadEdition(id))
  expect(script.parts[1]!.passages[1]).toMatchObject({ kind: 'paragraph', content: strong('Honey.') })
  expect(script.language).toBe((await EditionRow.findByPk(id))!.language)
})

test('the content of earlier versions is brought up to date', async () => {
  const { sequelize } = database()
  const old = '{"version": 1, "runs": [{"text": "Said: \\"kind\\": \\"emphasis\\"", "on": ["e1"]}], "directions": [{"id": "e1", "kind": "emphasis"}]}'
  const [row] = await passagesOf('Two')
  await sequelize.query('UPDATE passages SET content = $1 WHERE id = $2', { bind: [old, row!.id] })
  const { directions } = await import('../../store/migrations/005-directions')
  await sequelize.query(directions.split('\n').find(line => line.startsWith('UPDATE passages'))!)
  await row!.reload()
  expect(row!.content).toEqual({ version: 2, runs: [{ text: 'Said: "kind": "emphasis"', on: ['e1'] }], directions: [{ id: 'e1', kind: 'emphasis', level: 'moderate' }] })
  expect(plainContent('x').version).toBe(2)
})
