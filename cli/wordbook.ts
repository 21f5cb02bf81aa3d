import { readFile } from 'node:fs/promises'
import { extname } from 'node:path'
import { fail } from '#core/problem'
import { wordFinder, type WordFinder } from '#core/words/find-words'
import { readPls } from '#core/words/pls'
import { readWordCsv } from '#core/words/csv'
import type { Wordbook } from '#core/words/wordbook'
import { note } from './print'

/**
 * A finder over the wordbooks that are named, the first one counting most. What is passed over in them is said on standard error.
 * Throws a problem when one cannot be read at all.
 */
export async function openWordbooks(paths: readonly string[], language: string): Promise<WordFinder> {
  return wordFinder(await Promise.all(paths.map(path => openWordbook(path, language))))
}

async function openWordbook(path: string, language: string): Promise<Wordbook> {
  const source = await readFile(path, 'utf8').catch(() => fail('wordbook-missing', `The wordbook ${path} cannot be read. Check the name and the folder.`))
  const { wordbook, problems } = extname(path).toLowerCase() === '.csv' ? readWordCsv(source, language) : readPls(source)
  const errors = problems.filter(problem => problem.severity === 'error')
  if (wordbook.entries.length === 0 && errors.length > 0) fail('wordbook-broken', `${path}:${errors[0]!.line}:${errors[0]!.column} ${errors[0]!.message}`)
  for (const { line, column, message } of problems) note(`${path}:${line}:${column} ${message}`)
  return wordbook
}
