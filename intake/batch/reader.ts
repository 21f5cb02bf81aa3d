import { basename } from 'node:path'
import { countWords, type Block, type SourceUnit } from '#core/manuscript/manuscript'
import { fail, ProblemError, type Problem } from '#core/problem'
import { count, most } from '#core/tally'
import { inUnit } from '../articles'
import { detectLanguage } from '../language'
import type { Reader, ReadOptions, Reading, SourceFile } from '../reader'
import { titleOf } from '../title'

type OpenFile = (file: Pick<SourceFile, 'name' | 'bytes'>) => Promise<{ readonly reader: Reader, readonly file: SourceFile }>

/**
 * A ZIP or a folder of files, in natural order: each is an article, or more where it is a table, a feed or a deck.
 * `open` finds the reader of each.
 */
export function batchReader(open: OpenFile): Reader {
  return {
    format: batchFormat,
    label: 'a ZIP or a folder of these',
    extensions: ['.zip'],
    version: 2,
    accepts: ({ archive }) => archive !== null,
    read: (file, options) => readBatch(file, options, open),
  }
}

const batchFormat = 'batch'

async function readBatch(file: SourceFile, options: ReadOptions, open: OpenFile): Promise<Reading> {
  const archive = file.archive!
  const names = archive.names.filter(isDocument).sort(new Intl.Collator('en', { numeric: true }).compare)
  if (names.length === 0) fail('batch-empty', `${file.name} holds no files: there is nothing to read in it.`)
  const problems: Problem[] = []
  const found: { name: string, reading: Reading }[] = []
  for (const [index, name] of names.entries()) {
    try {
      found.push({ name, reading: await readOne(name, (await archive.bytes(name))!, options, open) })
    } catch (error) {
      if (!(error instanceof ProblemError) || error.problem.code.startsWith('archive-too')) throw error
      problems.push({ ...error.problem, place: error.problem.place?.includes(name) === true ? error.problem.place : `${file.name}, ${name}` })
    }
    options.onProgress?.((index + 1) / names.length)
  }
  if (found.length === 0) throw new ProblemError(problems.length === 1 ? problems[0]! : { code: 'batch-unreadable', message: `None of the ${names.length} files in ${file.name} could be read. The first: ${problems[0]!.message}`, place: problems[0]!.place ?? file.name })
  if (found.length === 1 && names.length === 1) return { ...found[0]!.reading, title: titleOf(found[0]!.reading.title, found[0]!.reading.blocks, found[0]!.name) }
  return { ...await together(found), problems: [...problems, ...found.flatMap(({ reading }) => reading.problems ?? [])] }
}

/** Not what systems and programs put beside documents of their own accord (resource forks, lock files, copies), nor pictures and sounds. */
function isDocument(name: string): boolean {
  return !name.endsWith('/') && !/(?:^|\/)(?:__MACOSX\/|\.|~\$|~lock\.|thumbs\.db$|desktop\.ini$|icon\r?$)/iu.test(name) && !/(?:~|\.(?:tmp|bak|swp|lock|lck|crdownload|part))$/iu.test(name) && !/\.(?:png|jpe?g|gif|svg|webp|ico|css|js|woff2?|ttf|otf|mp3|wav|mp4|m4a|ogg)$/iu.test(name)
}

async function readOne(name: string, bytes: Buffer, options: ReadOptions, open: OpenFile): Promise<Reading> {
  const { reader, file } = await open({ name: basename(name), bytes })
  if (reader.format === batchFormat) fail('archive-nested', `${name} is a ZIP within the ZIP, which is not opened. Unpack it first.`)
  const { onProgress: _, ...rest } = options
  return reader.read(file, rest)
}

async function together(found: readonly { name: string, reading: Reading }[]): Promise<Reading> {
  const units: SourceUnit[] = []
  const blocks: Block[] = []
  const words = new Map<string, number>()
  const parts: { from: number, to: number, language: string }[] = []
  for (const { name, reading } of found) {
    const from = units.length
    if (reading.units === undefined || reading.units.length === 0) {
      const first = reading.blocks.find(block => block.dropped === undefined)
      const label = titleOf(reading.title ?? (first?.level === undefined ? null : first.text), reading.blocks, basename(name))
      units.push({ kind: 'article', label, ...(reading.author === null ? {} : { author: reading.author }), ...((reading.date ?? null) === null ? {} : { date: reading.date! }), source: name })
    } else {
      units.push(...reading.units.map(unit => ({ ...unit, label: unit.label || titleOf(null, reading.blocks, basename(name)), source: unit.source ?? name })))
    }
    const begin = blocks.length
    for (const block of reading.blocks) blocks.push(inUnit(block, from + (block.unit ?? 0)))
    const language = reading.language ?? (await detectLanguage(reading.blocks)).language
    parts.push({ from: begin, to: blocks.length, language })
    count(words, language, reading.blocks.reduce((sum, block) => sum + countWords(block.text), 0))
  }
  const [language] = most(words)!
  const inLanguage = parts.flatMap(part => blocks.slice(part.from, part.to).map(block => part.language === language || block.language !== undefined ? block : { ...block, language: part.language }))
  return { title: null, author: null, language, units, blocks: inLanguage }
}
