import { fail } from '#core/problem'
import { isZip, openArchive } from './archive'
import { batchReader } from './batch/reader'
import { docxReader } from './docx/reader'
import { epubReader } from './epub/reader'
import { feedReader } from './feed/reader'
import { htmlReader } from './html/reader'
import { markdownReader } from './markdown/reader'
import { odtReader } from './odt/reader'
import { pdfReader } from './pdf/reader'
import { pptxReader } from './pptx/reader'
import type { Reader, SourceFile } from './reader'
import { fictionBookReader, rtfReader } from './refused'
import { ssmlReader } from './ssml/reader'
import { tableReader } from './table/reader'
import { textReader } from './text/reader'

/** In the order in which they are asked: the surest sign first, plain text last. */
export const readers: readonly Reader[] = [
  pdfReader, epubReader, odtReader, pptxReader, docxReader, batchReader(readerFor), rtfReader, fictionBookReader, ssmlReader, feedReader, tableReader, markdownReader, htmlReader, textReader,
]

/** The reader for a file, and the file opened for it. Throws a problem when no reader takes it. */
export async function readerFor({ name, bytes, archive = null }: Pick<SourceFile, 'name' | 'bytes'> & Partial<SourceFile>): Promise<{ reader: Reader, file: SourceFile }> {
  if (bytes.length === 0 && archive === null) fail('file-empty', `${name} is empty: there is nothing to read in it.`)
  const file = { name, bytes, archive: archive ?? (isZip(bytes) ? await openArchive(bytes, name) : null) }
  for (const reader of readers) if (await reader.accepts(file)) return { reader, file }
  return fail('format-unknown', `${name} is of a kind that cannot be read. Bring ${readers.map(({ label }) => label).filter(label => label !== '').join(', ')}.`)
}
