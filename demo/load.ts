import { createHash } from 'node:crypto'
import { copyFile, mkdir, readFile } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { defaultSplit, proposeParts } from '#core/manuscript/structure'
import { plainContent, writtenText } from '#core/script/content'
import { takeIn } from '#intake/take-in'
import { openDatabase } from '#store/database'
import { createProduction } from '#store/editions'
import { applyOperations } from '#store/operations'
import { ManuscriptRow, PartRow } from '#store/models'
import { openQueue, sendChunks } from '#store/queue'
import { startReading } from '#store/readings'
import { scoreEdition } from '#store/score'
import { takeIndex } from '#store/take-index'
import { castingFor } from '#voices/choose'
import { EspeakEngine } from '#voices/espeak/engine'
import { v7 as uuidv7 } from 'uuid'

// Loads the sample production: a handbook whose first chapters are being read, with one that changes
// afterwards and one that is left out, so that every page has something to show.

const programs = dirname(process.argv[1]!)
const file = join(programs, '../demo/files/the-marrow-lane-year.md')
const chaptersRead = 5
const changed = { from: 'not one of them stopped to be looked at', to: 'not one of them stopped to be admired' }

const { QUILL_DATABASE_URL: url, QUILL_DATA: data } = process.env
if (url === undefined || data === undefined) throw new Error('QUILL_DATABASE_URL and QUILL_DATA must be set.')
const database = openDatabase(url)
const queue = await openQueue(url, 'server')
const engine = new EspeakEngine({ program: join(programs, 'espeak-child.mjs'), parallel: 1 })
try {
  const manuscript = await takeIn(join(programs, 'reader-child.mjs'), file, basename(file), {})
  const sha256 = createHash('sha256').update(await readFile(file)).digest('hex')
  await mkdir(join(data, 'manuscripts'), { recursive: true })
  await copyFile(file, join(data, 'manuscripts', sha256))
  const row = await ManuscriptRow.create({ id: uuidv7(), fileName: basename(file), sha256, content: manuscript })
  const editionId = await createProduction(database, {
    manuscriptId: row.id, title: manuscript.title!, author: manuscript.author, language: manuscript.language,
    parts: proposeParts(manuscript, defaultSplit(manuscript)),
    casting: castingFor(await engine.list(), manuscript.language, {}),
  })
  const scored = await scoreEdition(editionId)
  const { jobs } = await startReading(database, takeIndex(database), editionId, scored.parts.slice(0, chaptersRead))
  await sendChunks(queue, jobs)

  const passage = scored.parts.flatMap(part => part.passages).find(candidate => writtenText(candidate.content).includes(changed.from))!
  const glossary = await PartRow.findOne({ where: { editionId, label: 'Words Used in This Book' }, rejectOnEmpty: true })
  await applyOperations(database, editionId, 'the-demo', [
    {
      op: 'setContent', passageId: passage.id, revision: passage.revision,
      content: plainContent(writtenText(passage.content).replace(changed.from, changed.to)),
    },
    { op: 'includePart', partId: glossary.id, revision: glossary.revision, included: false },
  ])
} finally {
  await engine.close()
  await queue.stop({ graceful: false })
  await database.close()
}
