import Papa from 'papaparse'
import { isLanguageTag, notALanguage } from '../language/tag'
import { lookup } from '../lookup'
import { saidFault } from './faults'
import { isPartOfSpeech, partsOfSpeech, tellsPartsOfSpeech } from './part-of-speech'
import type { ReadWordbook, WordbookProblem } from './pls'
import { emptyWordbook, readingOf, type Said, type WordEntry, type Wordbook } from './wordbook'

/** Columns of a wordbook as a table. Only the first three are needed; several written forms or words are parted by `|`. */
export const wordbookColumns = ['written', 'how', 'said', 'language', 'match case', 'part of word', 'before', 'after', 'part of speech', 'note', 'heard'] as const
type Column = (typeof wordbookColumns)[number]

/** A cell that a spreadsheet would take for a formula: it is written behind an apostrophe, which is taken off again; and so that no apostrophe is lost, one that has some. */
export const formula = /^'*[=+\-@]/u

const ways: Readonly<Record<string, Said['by']>> = { ipa: 'ipa', alias: 'alias', respelling: 'respelling', letters: 'letters' }

/** Reads a table with a head row. `language`: of rows that name none. */
export function readWordCsv(source: string, language: string): ReadWordbook {
  const problems: WordbookProblem[] = []
  const { data, meta } = Papa.parse<Record<string, string>>(source.replace(/^\ufeff/u, ''), { header: true, skipEmptyLines: 'greedy', transformHeader: head => head.trim().toLowerCase() })
  const missing = (['written', 'how', 'said'] as const).filter(column => meta.fields?.includes(column) !== true)
  if (missing.length > 0) {
    return { wordbook: emptyWordbook, problems: [{ severity: 'error', code: 'words-columns', message: `The first line does not name the columns ${missing.join(', ')}. It needs at least: written, how, said.`, line: 1, column: 1 }], lines: [] }
  }
  const lines: number[] = []
  const entries = data.flatMap((row, index): WordEntry[] => {
    const cell = (column: Column): string => (row[column] ?? '').trim().replace(/^'(?='*[=+\-@])/u, '')
    const list = (column: Column): string[] => cell(column).split('|').map(each => each.trim()).filter(each => each !== '')
    const is = (column: Column): boolean => /^(?:yes|true|1|x)$/iu.test(cell(column))
    const fault = (code: string, message: string): [] => {
      problems.push({ severity: 'error', code, message: `${message} The row is passed over.`, line: index + 2, column: 1 })
      return []
    }
    const [by, text, own] = [lookup(ways, cell('how').toLowerCase()), cell('said'), cell('language') || language]
    if (list('written').length === 0) return fault('words-written', 'The row has no written form.')
    if (by === undefined) return fault('words-how', `“${cell('how')}” is no way to say a word. It is ipa, alias, respelling or letters.`)
    if (by !== 'letters' && text === '') return fault('words-said', `“${list('written')[0]}” has nothing that is said.`)
    if (!isLanguageTag(own)) return fault('words-language', notALanguage(own))
    const said: Said = by === 'letters' ? { by } : { by, text }
    const wrong = saidFault(said, own)
    if (wrong !== null) return fault(by === 'ipa' ? 'words-ipa' : 'words-respelling', `“${text}”: ${wrong}`)
    const [before, after] = [list('before'), list('after')]
    const parts = list('part of speech').map(each => each.toLowerCase())
    const strange = parts.find(each => !isPartOfSpeech(each))
    if (strange !== undefined) return fault('words-part-of-speech', `“${strange}” is no part of speech: ${partsOfSpeech.join(', ')}.`)
    if (parts.length > 0 && !tellsPartsOfSpeech(own)) return fault('words-part-of-speech', `The parts of speech of “${own}” are not told apart here. Use before or after instead.`)
    lines.push(index + 2)
    return [{
      id: String(index + 1), graphemes: list('written'), language: own, said: [said],
      ...(is('match case') ? { matchCase: true } : {}), ...(is('part of word') ? { partOfWord: true } : {}), ...(is('heard') ? { heard: true } : {}),
      ...(before.length + after.length === 0 ? {} : { beside: { ...(before.length > 0 ? { before } : {}), ...(after.length > 0 ? { after } : {}) } }),
      ...(parts.length === 0 ? {} : { partsOfSpeech: parts.filter(isPartOfSpeech) }),
      ...(cell('note') === '' ? {} : { note: cell('note') }),
    }]
  })
  return { wordbook: { version: 1, entries }, problems, lines }
}

/** A wordbook as a table. Of several pronunciations the one that is used is written. */
export function writeWordCsv({ entries }: Wordbook): string {
  const yes = (flag: true | undefined): string => flag === true ? 'yes' : ''
  const rows = entries.map((entry): Record<Column, string> => {
    const reading = readingOf(entry)
    return {
      'written': entry.graphemes.join('|'), 'how': reading.by, 'said': reading.by === 'letters' ? '' : reading.text, 'language': entry.language,
      'match case': yes(entry.matchCase), 'part of word': yes(entry.partOfWord), 'before': entry.beside?.before?.join('|') ?? '', 'after': entry.beside?.after?.join('|') ?? '',
      'part of speech': entry.partsOfSpeech?.join('|') ?? '',
      'note': entry.note ?? '', 'heard': yes(entry.heard),
    }
  })
  return `${Papa.unparse(rows, { columns: [...wordbookColumns], newline: '\n', escapeFormulae: formula })}\n`
}
