import { createHash } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { noDetails } from '#core/delivery/details'
import { defaultChoices, type Choices } from '#core/manuscript/choices'
import { propose } from '#core/manuscript/structure'
import { plainContent, writtenText } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { withRoles } from '#core/script/roles'
import { readFragment } from '#core/script/ssml/read'
import { presetStyle } from '#core/style/house-style'
import type { Operation } from '#shared/operations'
import { takeIn } from '#intake/take-in'
import { examineCover } from '#press/cover'
import { openDatabase } from '#store/database'
import { changeEdition, createProduction } from '#store/editions'
import { coverFile, manuscriptFile } from '#store/folders'
import { applyOperations } from '#store/operations'
import { ManuscriptRow, PartRow, type PassageRow } from '#store/models'
import { openQueue, sendChunks } from '#store/queue'
import { startReading } from '#store/readings'
import { scoreEdition } from '#store/score'
import { addSound } from '#store/sounds'
import { bringUpToDate } from '#store/summaries'
import { takeIndex } from '#store/take-index'
import { keepSound } from '#takes/keep-sound'
import { openStorage } from '#takes/open-storage'
import { Packs } from '#takes/packs'
import { castingFor } from '#voices/choose'
import { openEngines } from '#voices/engines'
import { v7 as uuidv7 } from 'uuid'
import { markedUp, speakers } from './directions'
import { sounds } from './sounds'
import { words } from './words'

// Loads the sample productions: a handbook whose first chapters are being read, with one that changes afterwards
// and one that is left out, a course deck, and a batch of articles, so that every page has something to show.

const programs = dirname(process.argv[1]!)
const files = join(programs, '../demo/files')
const coverName = 'the-marrow-lane-year-cover.png'
const styleNames = { book: 'Handbooks', course: 'Courses', articles: 'Articles' } as const
const chaptersRead = 5
const changed = { from: 'not one of them stopped to be looked at', to: 'not one of them stopped to be admired' }

const { QUILL_DATABASE_URL: url } = process.env
if (url === undefined) throw new Error('QUILL_DATABASE_URL must be set.')
const storage = await openStorage(process.env)
const database = openDatabase(url)
const queue = await openQueue(url, 'server')
const engines = openEngines({ programs, parallel: 1 })
try {
  // In the order in which they come to lie on the shelf: the one changed last first.
  const notes = await bringIn('notes-from-the-hive-stand.csv', 'Notes from the Hive Stand', { opening: '{title}, by {author}' }, 'articles')
  const course = await bringIn('the-first-spring-inspection.pptx', 'The First Spring Inspection', { hints: true }, 'course')
  const editionId = await bringIn('the-marrow-lane-year.md', 'The Marrow Lane Year', {}, 'book')
  const packs = new Packs(storage)
  for (const [name, pcm] of Object.entries(sounds)) await addSound(database, editionId, name, await keepSound({ index: takeIndex(database), packs }, pcm))
  await packs.close()
  const picture = join(files, coverName)
  const cover = await examineCover(picture, coverName)
  await storage.put(coverFile(cover.sha256), await readFile(picture))
  await changeEdition(database, editionId, {
    cover, details: { ...noDetails, narrator: 'Nora Vale', year: '2031', genre: 'Audiobook', copyright: '2031 Tamsin Orrery' },
  })
  await applyOperations(database, editionId, 'the-demo', words.map(entry => ({ op: 'setWord', id: uuidv7(), shared: false, entry })))
  const scored = await scoreEdition(editionId)
  const { jobs } = await startReading(database, takeIndex(database), editionId, scored.parts.slice(0, chaptersRead))
  await sendChunks(queue, jobs)

  const roleIds = new Map([[scored.roles[0]!.name, scored.roles[0]!.id], ...speakers.map(name => [name, uuidv7()] as const)])
  const passage = scored.parts.flatMap(part => part.passages).find(candidate => writtenText(candidate.content).includes(changed.from))!
  const glossary = await PartRow.findOne({ where: { editionId, label: 'Words Used in This Book' }, rejectOnEmpty: true })
  await applyOperations(database, editionId, 'the-demo', [
    {
      op: 'setContent', passageId: passage.id, revision: passage.revision,
      content: plainContent(writtenText(passage.content).replace(changed.from, changed.to)),
    },
    { op: 'includePart', partId: glossary.id, revision: glossary.revision, included: false },
    ...[...roleIds].slice(1).map(([name, id]): Operation => ({ op: 'makeRole', id, name })),
    ...markedUp.flatMap(each => markUp(each, scored.parts.flatMap(part => part.passages), name => roleIds.get(name)!)),
  ])
  // So that the first look at the shelf shows all of them.
  for (const id of [notes, course, editionId]) await bringUpToDate(database, id)
} finally {
  await engines.close()
  await queue.stop({ graceful: false })
  await database.close()
}

/** The operations that mark up a passage, which is found by its text. Roles are called by name. */
function markUp({ ssml, role }: (typeof markedUp)[number], passages: readonly PassageRow[], idOf: (role: string) => string): Operation[] {
  const { root, source } = checkSsml(ssml, { fragmentLanguage: 'en-GB' })
  const content = root === null ? null : readFragment(root, source)?.content ?? null
  const passage = content === null ? undefined : passages.find(candidate => writtenText(candidate.content) === writtenText(content))
  if (content === null || passage === undefined) throw new Error(`The sample has no passage for ${ssml}`)
  return [
    { op: 'setContent', passageId: passage.id, revision: passage.revision, content: withRoles(content, idOf) },
    ...(role === undefined ? [] : [{ op: 'setPassage' as const, passageId: passage.id, revision: passage.revision, role: idOf(role) }]),
  ]
}

/** Makes a production of a sample file as the intake page does; gives its edition's id. */
async function bringIn(name: string, title: string, chosen: Partial<Choices>, preset: keyof typeof styleNames): Promise<string> {
  const file = join(files, name)
  const manuscript = await takeIn(join(programs, 'reader-child.mjs'), file, name, {})
  const bytes = await readFile(file)
  const sha256 = createHash('sha256').update(bytes).digest('hex')
  await storage.put(manuscriptFile(sha256), bytes)
  const row = await ManuscriptRow.create({ id: uuidv7(), fileName: name, sha256, content: manuscript })
  const choices = { ...defaultChoices(manuscript), ...chosen }
  return createProduction(database, {
    manuscriptId: row.id, title, author: manuscript.author, language: manuscript.language, choices,
    parts: propose(manuscript, choices).parts,
    casting: castingFor(await engines.list(), manuscript.language, {}),
    style: { ...presetStyle(preset), name: styleNames[preset] },
  })
}
