import { v7 as uuidv7 } from 'uuid'
import { fail } from '#core/problem'
import { ipaOf } from '#core/words/faults'
import { wordEntrySchema } from '#core/words/wordbook'
import { faultsOfPronunciations } from '#services/sayable'
import type { WordImport } from '#shared/api'
import { wordImportQuerySchema, type WordImportQuery } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { applyOperations } from '#store/operations'
import { keepOfFile, wordbookId } from '#store/wordbooks'
import { faultIn, idParam, queryOf, rawBody, route } from '../../../../utils/route'

const query = queryOf<WordImportQuery>(wordImportQuerySchema)
const faultOfEntry = faultIn(wordEntrySchema)
const maximumBytes = 10 * 1024 * 1024

/** Adds the entries of a PLS lexicon or a CSV table, as one edit. What cannot be used is answered with its line. */
export default route(async (event, { database, engines, work }): Promise<WordImport> => {
  const { name, window, shared } = query(event)
  const id = idParam(event)
  const { edition, casting } = await loadEdition(id)
  const source = (await rawBody(event, maximumBytes, name)).toString('utf8')
  const { wordbook, problems: found, lines } = await work.result('readWordbook', { name, source, language: edition.language }, source.length)
  const problems: WordImport['problems'][number][] = found.map(({ line, column, message }) => ({ line, column, message }))
  const entries = wordbook.entries.map(({ id: _, ...entry }) => entry).filter((entry, index) => {
    const fault = faultOfEntry(entry)
    if (fault !== null) problems.push({ line: lines[index] ?? 1, column: 1, message: `“${entry.graphemes[0]!.slice(0, 40)}” is passed over: ${fault}` })
    return fault === null
  })
  const pronounced = entries.flatMap(entry => {
    const ph = ipaOf(entry)
    return ph === null ? [] : [{ entry, ph, language: entry.language }]
  })
  const unsayable = await faultsOfPronunciations(engines, casting, pronounced)
  pronounced.forEach(({ entry }, index) => {
    const reason = unsayable[index]?.message
    // It is kept: another voice may have the sound.
    if (reason !== undefined) problems.push({ line: lines[wordbook.entries.findIndex(each => each.graphemes === entry.graphemes)] ?? 1, column: 1, message: `“${entry.graphemes[0]!.slice(0, 40)}” is taken in, but ${reason.charAt(0).toLowerCase()}${reason.slice(1)}` })
  })
  const [first] = problems
  if (entries.length === 0) fail('wordbook-broken', first === undefined ? `There is no entry in ${name}.` : `${name}, line ${first.line}: ${first.message}`)
  if (wordbook.kept !== undefined) await keepOfFile(await wordbookId(shared === 'yes' ? null : edition.productionId), wordbook.kept)
  await applyOperations(database, id, window, entries.map(entry => ({ op: 'setWord', id: uuidv7(), shared: shared === 'yes', entry })))
  return { added: entries.length, problems }
})
