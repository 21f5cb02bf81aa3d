import { v7 as uuidv7 } from 'uuid'
import { brokenBy, shelf } from '../../services/shelf'
import { loadEdition, productionOf } from '../../store/editions'
import { removeEdition, removeProduction } from '../../store/removed'
import { EditionRow, PartRow, PassageRow, ProductionRow, RoleRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { scoreEdition } from '../../store/score'
import { sayVoices } from '../../store/voices'
import type { Voice } from '../../voices/port'
import { plainContent } from '#core/script/content'
import { ownDatabase, part, production, productionIdOf } from '../support/database'

// A second edition of a production: in another language, without a cast of its own.

const { database } = ownDatabase()
const voice = (id: string): Voice => ({ engine: 'espeak', id, name: id, language: id, gender: 'unknown', revision: 'r' })
const variants = ['m3', 'f3', 'm7'].map(id => ({ engine: 'espeak', id, name: id, gender: 'unknown' as const }))

async function secondEdition(firstId: string, language: string, ...texts: string[]): Promise<string> {
  const { productionId, houseStyleId } = await EditionRow.findByPk(firstId, { rejectOnEmpty: true })
  const edition = await EditionRow.create({ id: uuidv7(), productionId, houseStyleId, manuscriptId: null, language })
  const own = await PartRow.create({ id: uuidv7(), editionId: edition.id, rank: 'a0', kind: 'chapter', label: 'Eins' })
  for (const [index, text] of texts.entries()) await PassageRow.create({ id: uuidv7(), partId: own.id, rank: `a${index}`, kind: 'paragraph', content: plainContent(text), importedText: null })
  return edition.id
}

/** A production with a second role. */
async function withRole(title: string): Promise<string> {
  const id = await production(database(), part(title, `${title} one.`))
  const passage = (await scoreEdition(id)).parts[0]!.passages[1]!
  const tamsin = uuidv7()
  await applyOperations(database(), id, 'window-1', [{ op: 'makeRole', id: tamsin, name: 'Tamsin' }, { op: 'setPassage', passageId: passage.id, revision: 1, role: tamsin }])
  return id
}

beforeAll(() => sayVoices({ voices: [voice('en-gb'), voice('de'), voice('fr-fr')], variants }))

test('gets voices of its language, the same roles, and is scored by itself', async () => {
  const first = await withRole('Zweites')
  const second = await secondEdition(first, 'de', 'Es ist Mittag.')
  const [english, german] = [await loadEdition(first), await loadEdition(second)]
  expect(german.roles.map(({ id, name, casting }) => [id, name, casting.voice])).toEqual(english.roles.map(({ id, name }, index) => [id, name, index === 0 ? 'de' : 'de+m3']))
  expect(english.roles.map(({ casting }) => casting.voice)).toEqual(['en-gb', 'en-gb+m3'])
  const { parts: [only] } = await scoreEdition(second)
  expect(only!.score.utterances.map(({ text, request }) => [text, request.voice])).toEqual([['Es ist Mittag.', 'de']])
  // Whoever asks again, and both at once, finds the same.
  expect((await Promise.all([loadEdition(second), loadEdition(second)])).map(({ roles }) => roles)).toEqual([german.roles, german.roles])
})

test('a role that is made in one edition has a voice in the other', async () => {
  const first = await production(database(), part('Rollen', 'Rollen one.'))
  const second = await secondEdition(first, 'de', 'Wer spricht?')
  await loadEdition(second)
  await applyOperations(database(), first, 'window-1', [{ op: 'makeRole', id: uuidv7(), name: 'Oswin' }])
  expect((await loadEdition(second)).roles.map(({ name, casting }) => [name, casting.voice])).toEqual([['Narrator', 'de'], ['Oswin', 'de+m3']])
})

test('in a language that no voice speaks says so', async () => {
  const second = await secondEdition(await production(database(), part('Keines', 'Keines one.')), 'fi', 'Hei.')
  await expect(loadEdition(second)).rejects.toMatchObject({ problem: { code: 'voice-none', message: expect.stringContaining('“fi”') } })
  const here = (): Promise<boolean> => Promise.resolve(false)
  expect(await brokenBy(database(), second, here)).toMatchObject({ code: 'voice-none' })
  expect((await shelf(database(), here)).find(entry => entry.editionId === second)).toMatchObject({ editions: 2, parts: [] })
})

test('is removed without its production; the last one is not', async () => {
  const first = await withRole('Weg')
  const second = await secondEdition(first, 'de', 'Weg damit.')
  const { id, editions } = await productionOf(second)
  expect([id, editions]).toEqual([await productionIdOf(first), [{ id: first, language: 'en' }, { id: second, language: 'de' }]])
  await removeEdition(database(), second)
  expect((await productionOf(id)).editions).toEqual([{ id: first, language: 'en' }])
  await expect(removeEdition(database(), first)).rejects.toMatchObject({ problem: { code: 'last-edition' } })
  expect((await loadEdition(first)).roles).toHaveLength(2)
})

test('goes with its production', async () => {
  const first = await production(database(), part('Alles', 'Alles one.'))
  const second = await secondEdition(first, 'de', 'Alles weg.')
  await removeProduction(database(), await productionIdOf(first))
  expect([await EditionRow.count({ where: { id: [first, second] } }), await ProductionRow.count({ where: { title: 'The Year' } }) > 0]).toEqual([0, true])
})

test('the names of the roles of a production differ', async () => {
  const id = await production(database(), part('Namen', 'Namen one.'))
  await expect(RoleRow.create({ id: uuidv7(), productionId: await productionIdOf(id), name: 'Narrator' })).rejects.toThrow(/Validation|unique/u)
})
