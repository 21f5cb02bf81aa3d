import Papa from 'papaparse'
import { columnRoles, countWords, type ColumnRole } from '#core/manuscript/manuscript'
import { fail, type Problem } from '#core/problem'
import { articleBlocks, maximumArticles, type RawArticle } from '../articles'
import type { ReadOptions, Reader } from '../reader'
import { collapse } from '../text-builder'
import { openText } from '../text/decode'
import { lookup } from '#core/lookup'

const sampleRows = 5
const sampleCharacters = 200

/** A table, as a rule with a row of column names (RFC 4180, other delimiters as well): one row is one article. */
export const tableReader: Reader = {
  format: 'table',
  label: 'a table (CSV, TSV)',
  extensions: ['.csv', '.tsv', '.tab'],
  version: 4,
  accepts: file => /\.(?:csv|tsv|tab)$/iu.test(file.name),
  read: async (file, options) => {
    const { text: whole, problems: undecoded, encoding } = await openText(file, options.encoding)
    const [line, named] = namedDelimiter.exec(whole) ?? []
    const text = line === undefined ? whole : whole.slice(line.length)
    const usualDelimiter = named ?? (/\.(?:tsv|tab)$/iu.test(file.name) ? '\t' : '')
    const delimiter = options.delimiter === undefined ? usualDelimiter : delimiterOf(options.delimiter)
    const parsed = Papa.parse<string[]>(text, { delimiter, skipEmptyLines: 'greedy' })
    const problems = parsed.errors.filter(({ code }) => code !== 'UndetectableDelimiter').slice(0, 20).map((error): Problem => ({
      code: 'table-row', message: `A row is not complete: ${error.message}. Correct it in the table.`, place: `${file.name}, row ${(error.row ?? 0) + 1}`,
    }))
    const [first] = parsed.data
    const isNamed = first === undefined || namesColumns(first, parsed.data.slice(1), options)
    const head = isNamed ? first : first.map(() => '')
    const rows = isNamed ? parsed.data.slice(1) : parsed.data
    if (head === undefined || rows.length === 0) return fail('table-empty', `${file.name} has no rows below its column names: there is nothing to read in it.`)
    if (rows.length > maximumArticles) fail('table-too-long', `${file.name} has ${rows.length.toLocaleString('en')} rows; at most ${maximumArticles.toLocaleString('en')} make one production. Divide it.`)
    const names = head.map((name, index) => collapse(name) || `Column ${index + 1}`)
    const { mapping, guessed } = mapColumns(names, rows, options, file.name)
    if (!isNamed) mapping.title ??= names.find((name, index) => name !== mapping.body && rows.every(row => (row[index] ?? '').length <= longestTitle && /\p{L}/u.test(row[index] ?? '')))
    if (guessed !== null) problems.push(guessed)
    if (!isNamed) problems.push({ code: 'table-unnamed', message: `The first row of ${file.name} names no columns, so it is read as the first article. If it does name them, choose which column is what.`, place: `${file.name}, row 1` })
    const cell = (row: readonly string[], role: ColumnRole): string | undefined => mapping[role] === undefined ? undefined : row[names.indexOf(mapping[role])]
    const articles = rows.map((row): RawArticle => ({
      title: cell(row, 'title'), author: cell(row, 'author'), date: cell(row, 'date'), source: cell(row, 'source'), body: cell(row, 'body') ?? '',
    }))
    const found = articleBlocks(articles, file.name)
    return {
      title: null, author: null, language: null, units: found.units, blocks: found.blocks, problems: [...undecoded, ...problems, ...found.problems], encoding,
      columns: { delimiter: parsed.meta.delimiter, names, mapping, sample: rows.slice(0, sampleRows).map(row => names.map((_, index) => (row[index] ?? '').slice(0, sampleCharacters))) },
    }
  },
}

/** A first line that some programs write to name the delimiter. */
const namedDelimiter = /^sep=([^\r\n"])[^\S\n]*\r?\n/iu

/** Text of an article, rather than the name of a column. */
const longestName = 60

const longestTitle = 120

/** Whether the first row names the columns: with a usual name, over figures, or with short texts that are unlike those below. */
function namesColumns(first: readonly string[], rows: readonly (readonly string[])[], { columns }: ReadOptions): boolean {
  if (columns !== undefined || rows.length === 0) return true
  const cells = first.map(collapse)
  if (cells.some(cell => Object.values(usual).some(name => name.test(cell)))) return true
  if (cells.some((cell, index) => /\p{L}/u.test(cell) && isAllFigures(columnOf(rows, index)))) return true
  if (cells.some(cell => cell.length > longestName || /^[\d.,:/-]+$|^https?:|@|[.!?]$/u.test(cell))) return false
  const text = wordiest(cells, rows)
  if (isLikeThoseBelow(cells[text]!, columnOf(rows, text))) return false
  return cells.every((cell, index) => cell === '' || !rows.some(row => collapse(row[index] ?? '') === cell))
}

/** Rows by which a column is judged. */
const judgedRows = 200

function columnOf(rows: readonly (readonly string[])[], index: number): string[] {
  return rows.slice(0, judgedRows).map(row => collapse(row[index] ?? ''))
}

/** The column with most words, which are the text. */
function wordiest(columns: readonly unknown[], rows: readonly (readonly string[])[]): number {
  const words = columns.map((_, index) => columnOf(rows, index).reduce((sum, cell) => sum + countWords(cell), 0))
  return words.indexOf(Math.max(...words))
}

const figure = /^[+−-]?\d[\d.,:/%+eE-]*$/u

/** A column of figures alone, in two rows at least. */
function isAllFigures(column: readonly string[]): boolean {
  const filled = column.filter(cell => cell !== '')
  return filled.length > 1 && filled.every(cell => figure.test(cell))
}

/** A name of several words is much shorter than the texts that stand below it. */
function isLikeThoseBelow(cell: string, below: readonly string[]): boolean {
  const words = countWords(cell)
  const counts = below.map(countWords).sort((a, b) => a - b)
  return words >= leastTextWords && words * 2 > counts[Math.floor(counts.length / 2)]!
}

const leastTextWords = 3

const namedDelimiters: Readonly<Record<string, string>> = { comma: ',', semicolon: ';', tab: '\t', pipe: '|', '\\t': '\t' }

function delimiterOf(given: string): string {
  const delimiter = lookup(namedDelimiters, given.toLowerCase()) ?? given
  if (delimiter.length !== 1 || /["\r\n]/u.test(delimiter)) fail('delimiter-unknown', `“${given}” cannot part columns. Use one character, or comma, semicolon, tab, pipe.`)
  return delimiter
}

/** Column names that are understood, by what they hold. */
const usual: Readonly<Record<ColumnRole, RegExp>> = {
  title: /^(?:title|headline|heading|name|titel|titre|título|titolo)$/iu,
  author: /^(?:authors?|by|byline|writer|creator|autor|auteur|autore)$/iu,
  date: /^(?:date|published|publish(?:ed)?[ _-]?(?:at|on|date)|pub[ _-]?date|created(?:[ _-]?at)?|datum|fecha|data)$/iu,
  body: /^(?:body|content|text|article|html|markdown|inhalt|contenu|texte|contenido|texto|testo)$/iu,
  source: /^(?:source|url|link|address|permalink|quelle)$/iu,
}

type Mapping = { [role in ColumnRole]?: string | undefined }

function mapColumns(names: readonly string[], rows: readonly (readonly string[])[], { columns }: ReadOptions, file: string): { mapping: Mapping, guessed: Problem | null } {
  const mapping: Mapping = {}
  for (const role of columnRoles) {
    const name = names.find(each => usual[role].test(each))
    if (name !== undefined) mapping[role] = name
  }
  for (const [role, wanted] of Object.entries(columns ?? {}) as [ColumnRole, string][]) {
    const name = names.find(each => each.toLowerCase() === wanted.trim().toLowerCase()) ?? (/^\d+$/u.test(wanted) ? names[Number(wanted) - 1] : undefined)
    mapping[role] = wanted === '' ? undefined : name ?? fail('column-unknown', `There is no column “${wanted}” in ${file}. It has ${names.join(', ')}.`)
  }
  if (mapping.body !== undefined) return { mapping, guessed: null }
  mapping.body = names[wordiest(names, rows)]!
  for (const role of columnRoles) if (role !== 'body' && mapping[role] === mapping.body) mapping[role] = undefined
  return { mapping, guessed: { code: 'column-guessed', message: `No column is named body, content or text. “${mapping.body}” has most words and is taken for the text; choose another if that is wrong.`, place: file } }
}
