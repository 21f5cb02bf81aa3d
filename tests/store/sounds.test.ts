import { randomUUID } from 'node:crypto'
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { plainContent, type Content } from '#core/script/content'
import { keepSound } from '#takes/keep-sound'
import { takeLoader, type TakeLibrary } from '#takes/library'
import { loadEdition } from '../../store/editions'
import { FolderStorage } from '../../takes/folder-storage'
import { AssetRow, EditionRow, PartRow, PassageRow } from '../../store/models'
import { applyOperations } from '../../store/operations'
import { scoreEdition } from '../../store/score'
import { bringUpToDate, summariesOf } from '../../store/summaries'
import { addSound, removeSound, soundViews } from '../../store/sounds'
import { freeStorage } from '../../store/storage'
import { takeIndex } from '../../store/take-index'
import { ownDatabase, part, production } from '../support/database'
import { newTake, packsIn } from '../support/takes'

const { database } = ownDatabase()
const rate = 22_050
let folder: string
let library: TakeLibrary
let id: string
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'quill-sounds-'))
  library = { index: takeIndex(database()), packs: packsIn(folder) }
  id = await production(database(), part('One', 'The bell rang.'))
})
afterEach(async () => {
  await library.packs.close()
  await rm(folder, { recursive: true })
})

const ringing: Content = { version: 2, runs: [{ text: 'The bell', on: [] }, { text: '', on: [], point: 's' }, { text: ' rang.', on: [] }], directions: [{ id: 's', kind: 'sound', sound: 'bell.wav' }] }
const bell = (length: number) => ({ samples: new Int16Array(length).fill(length), sampleRate: rate })
const bring = async (name: string, length: number): Promise<void> => addSound(database(), id, name, await keepSound(library, bell(length)))
const views = async () => {
  await bringUpToDate(database(), id)
  const uses = (await summariesOf(database(), [id])).get(id)!.flatMap(({ facts }) => Object.entries(facts.sounds))
  return soundViews((await EditionRow.findByPk(id))!.productionId, new Map(uses))
}

async function place(content: Content): Promise<void> {
  const parts = await PartRow.findAll({ where: { editionId: id } })
  const passage = await PassageRow.findOne({ where: { partId: parts[0]!.id, kind: 'paragraph' }, rejectOnEmpty: true })
  await applyOperations(database(), id, 'window-of-mine', [{ op: 'setContent', passageId: passage.id, revision: passage.revision, content }])
}

test('a sound that is brought in is played where the script asks for it, from then on', async () => {
  await place(ringing)
  const before = (await scoreEdition(id)).parts[0]!.score.utterances.at(-1)!
  expect(before.stretches).toBeUndefined()
  await bring('bell.wav', 2205)
  const after = (await scoreEdition(id)).parts[0]!.score.utterances.at(-1)!
  expect(after.stretches?.[1]?.sounds).toMatchObject([{ name: 'bell.wav', sampleCount: 2205 }])
  expect(await views()).toMatchObject([{ name: 'bell.wav', durationMs: 100, uses: 1 }])
})

test('one of the same name takes its place; the same audio is kept once', async () => {
  await bring('bell.wav', 2205)
  await bring('gong.wav', 2205)
  await bring('bell.wav', 4410)
  expect((await views()).map(({ name, durationMs }) => [name, durationMs])).toEqual([['bell.wav', 200], ['gong.wav', 100]])
  expect(await AssetRow.count({ where: { productionId: (await EditionRow.findByPk(id))!.productionId } })).toBe(2)
  const { sounds } = await loadEdition(id)
  expect((await library.index.find(Object.values(sounds).map(sound => sound.key))).size).toBe(2)
})

test('while the script plays it, it cannot be taken out; after that it can', async () => {
  await bring('bell.wav', 2205)
  await place(ringing)
  const soundId = (await views())[0]!.id
  await expect(removeSound(database(), id, soundId)).rejects.toMatchObject({ problem: { code: 'sound-in-use', message: expect.stringContaining('at 1 place.') } })
  await place(plainContent('The bell rang.'))
  await removeSound(database(), id, soundId)
  expect(await views()).toEqual([])
  await expect(removeSound(database(), id, soundId)).rejects.toMatchObject({ problem: { code: 'not-found' } })
  const other = await production(database(), part('Two', 'b'))
  await bring('bell.wav', 2205)
  await expect(removeSound(database(), other, (await views())[0]!.id)).rejects.toMatchObject({ problem: { code: 'not-found' } })
})

test('freeing space leaves the sounds of a library, played or not', async () => {
  await bring('bell.wav', 2205)
  await library.index.add(await library.packs.append([newTake('nobody’s', new Int16Array(10))]))
  await freeStorage(database(), new FolderStorage(folder), library.packs, 'takes')
  const { sounds } = await loadEdition(id)
  expect([...(await library.index.find(['nobody’s', sounds['bell.wav']!.key])).keys()]).toEqual([sounds['bell.wav']!.key])
})

test('one whose audio is lost is named, with the remedy; bringing it in again makes it good', async () => {
  await bring('bell.wav', 2205)
  const { key } = (await loadEdition(id)).sounds['bell.wav']!
  const load = async (): Promise<Int16Array> => takeLoader(library, await library.index.find([key]), new Map([[key, 'bell.wav']]), rate)(key)
  expect(await load()).toEqual(bell(2205).samples)
  const { pack } = (await library.index.find([key])).get(key)!
  await library.packs.close()
  await mkdir(join(folder, 'takes'), { recursive: true })
  await writeFile(join(join(folder, 'takes'), pack), randomUUID())
  library = { ...library, packs: packsIn(folder) }
  await expect(load()).rejects.toMatchObject({ problem: { code: 'sound-lost', message: expect.stringContaining('“bell.wav”') } })
  await bring('bell.wav', 2205)
  expect(await load()).toEqual(bell(2205).samples)
})
