import { extname } from 'node:path'
import { readWordCsv, writeWordCsv } from '#core/words/csv'
import { conflictsIn, ipaOf } from '#core/words/faults'
import { readPls, writePls } from '#core/words/pls'
import { emptyWordbook } from '#core/words/wordbook'
import type { WordsView } from '#shared/api'
import type { WordExportQuery } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { usesOfWords } from '#store/words'
import type { Place } from './place'

/** The entries of the production's wordbook and the shared one, in the order in which they were written. */
export async function wordsView(_: Place, { editionId }: { readonly editionId: string }): Promise<WordsView> {
  const loaded = await loadEdition(editionId)
  const uses = await usesOfWords(loaded)
  return {
    words: loaded.wordbooks.flatMap(({ entries, isShared }) => {
      const conflicts = conflictsIn(entries)
      return entries.map(entry => ({ entry, shared: isShared, ipa: ipaOf(entry), uses: uses.get(entry.id) ?? 0, conflict: conflicts.has(entry.id) }))
    }),
  }
}

/** A wordbook as a file: PLS has the entries of the edition's language and its variants, CSV has them all. */
export async function wordbookFile(_: Place, { editionId, format, shared }: WordExportQuery & { readonly editionId: string }): Promise<Buffer> {
  const { wordbooks, edition } = await loadEdition(editionId)
  const wordbook = wordbooks.find(book => book.isShared === (shared === 'yes')) ?? emptyWordbook
  return Buffer.from(format === 'pls' ? writePls(wordbook, edition.language) : writeWordCsv(wordbook))
}

/** What is read of a wordbook's file, by the end of its name; CSV without languages is in `language`. */
export function readWordbook(_: Place, { name, source, language }: { readonly name: string, readonly source: string, readonly language: string }): Promise<ReturnType<typeof readPls>> {
  return Promise.resolve(extname(name).toLowerCase() === '.csv' ? readWordCsv(source, language) : readPls(source))
}
