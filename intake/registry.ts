import { fail } from '#core/problem'
import { docxReader } from './docx/reader'
import { markdownReader } from './markdown/reader'
import type { Reader, SourceFile } from './reader'
import { textReader } from './text/reader'

/** In the order in which they are asked: the surest sign first, plain text last. */
export const readers: readonly Reader[] = [docxReader, markdownReader, textReader]

/** The reader for a file. Throws a problem when no reader takes it. */
export function readerFor(file: SourceFile): Reader {
  if (file.bytes.length === 0) fail('file-empty', `${file.name} is empty: there is nothing to read in it.`)
  const reader = readers.find(candidate => candidate.accepts(file))
  return reader ?? fail('format-unknown',
    `${file.name} is of a kind that cannot be read. Bring ${readers.map(candidate => candidate.label).join(', ')}.`)
}
