import { numberWords } from '../language/numbers'
import { romanValue } from '../language/roman'

/** A line that names a division of a text by its number. */
export interface ChapterLine {
  /** What it is a number of: `chapter`, `part` …, in the language of the line; for a bare number how it is written: `roman`, `figures`, `words`. */
  readonly family: string
  readonly number: number
  /** How far down a division stands, from 1: books, parts, chapters, sections, bare numbers. */
  readonly rank: number
}

/** Words for the divisions of a text, the largest first (*common practice*). */
const divisions: readonly (readonly string[])[] = [
  ['volume', 'tome', 'band', 'tomo', 'deel', 'том', 'bind', 'svazek', 'cilt', 'τόμος'],
  ['book', 'buch', 'livre', 'libro', 'livro', 'boek', 'księga', 'книга', 'bok', 'bog', 'kniha', 'kitap', 'βιβλίο'],
  ['part', 'act', 'teil', 'akt', 'partie', 'acte', 'parte', 'acto', 'atto', 'ato', 'bedrijf', 'część', 'часть', 'действие', 'del', 'část', 'díl', 'kısım', 'bölük', 'μέρος', 'osa', 'rész', 'partea'],
  ['chapter', 'canto', 'stave', 'lesson', 'unit', 'module', 'lecture', 'letter', 'kapitel', 'lektion', 'brief', 'gesang', 'chapitre', 'leçon', 'lettre', 'chant', 'capítulo', 'capitulo', 'lección', 'carta', 'capitolo', 'lezione', 'lettera', 'lição', 'hoofdstuk', 'les',
    'rozdział', 'lekcja', 'глава', 'урок', 'kapittel', 'kapitola', 'bölüm', 'κεφάλαιο', 'luku', 'fejezet', 'capitolul'],
  ['section', 'scene', 'abschnitt', 'szene', 'auftritt', 'scène', 'sección', 'escena', 'scena', 'sezione', 'seção', 'cena', 'paragraaf', 'sekcja', 'раздел', 'сцена', 'явление', 'scen', 'oddíl'],
]
const rankOf = new Map(divisions.flatMap((words, index) => words.map(word => [word, index + 1] as const)))
const bareRank = divisions.length + 1

/** The words that open and close a text beside its chapters (*common practice*). */
const unnumbered = /^(?:prologue|epilogue|preface|foreword|introduction|afterword|conclusion|interlude|prolog|epilog|vorwort|nachwort|einleitung|vorrede|einführung|préface|avant-propos|épilogue|postface|prólogo|epílogo|prefacio|introducción|prefazione|prologo|epilogo|introduzione|posfácio|prefácio|introdução|proloog|epiloog|voorwoord|nawoord|inleiding|wstęp|пролог|эпилог|предисловие|послесловие|введение|förord|efterord|předmluva|doslov|önsöz|sonsöz|πρόλογος|επίλογος)$/iu

const longestLine = 100
const mostWords = 14
const highestWord = 60

/** Whether a line names a part of the text beside its chapters: Prologue, Nachwort. */
export function opensOrCloses(line: string): boolean {
  return line.length <= longestLine && unnumbered.test(line.trim().replace(/[.:]$/u, ''))
}

/** What a line names: “Chapter 1”, “CHAPTER ONE. The Meadow”, “Première partie”, “2. Kapitel”, “IV.”, “3”. Null for any other. */
export function chapterLine(text: string): ChapterLine | null {
  const line = text.trim()
  if (line.length > longestLine || line.split(/\s+/u).length > mostWords) return null
  return numberBehind(line) ?? numberBefore(line) ?? bareNumber(line)
}

/** Chapter 1, CHAPTER THE FIRST. */
function numberBehind(line: string): ChapterLine | null {
  const [, word, rest] = /^(\p{L}+)\.?\s+(\S.*)$/u.exec(line) ?? []
  const rank = rankOf.get(word?.toLowerCase() ?? '')
  if (rank === undefined) return null
  const bare = rest!.replace(/^(?:the|der|das|die|le|la|el|il|o|a|de|nr\.?|no\.?|n[°º])\s+/iu, '')
  const found = leadingNumber(bare)
  return found !== null && isTitle(bare.slice(found.length)) ? { family: word!.toLowerCase(), number: found.number, rank } : null
}

/** What makes an ordinal of figures: 2., 2nd, 2e, 2ª. */
const ordinalEnd = /^(?:\.|[ºª°]|-?(?:e|er|re|ère|ème|st|nd|rd|th|a|o|ste|de)(?![\p{L}\p{M}]))/u

/** Première partie, 2. Kapitel, Zweites Buch, II. Teil. */
function numberBefore(line: string): ChapterLine | null {
  const found = leadingNumber(line)
  if (found === null) return null
  const behind = line.slice(found.length).replace(ordinalEnd, '').trimStart()
  const [word] = /^\p{L}+/u.exec(behind) ?? []
  const rank = rankOf.get(word?.toLowerCase() ?? '')
  return rank !== undefined && isTitle(behind.slice(word!.length)) ? { family: word!.toLowerCase(), number: found.number, rank } : null
}

/** I., 1, ONE; a title may follow what ends in a point. */
function bareNumber(line: string): ChapterLine | null {
  const [, figures, roman, mark, title] = /^(?:(\d{1,3})|([IVXLC]{1,8}))([.):]?)(?:\s+(\S.*))?$/u.exec(line) ?? []
  if (figures === undefined && roman === undefined) {
    const found = leadingNumber(line)
    return found === null || found.length < line.replace(/[.:]$/u, '').length ? null : { family: 'words', number: found.number, rank: bareRank }
  }
  if (title !== undefined && (mark === '' || !isTitle(` ${title}`))) return null
  const number = figures === undefined ? romanValue(roman!) : Number(figures)
  return number === null ? null : { family: figures === undefined ? 'roman' : 'figures', number, rank: bareRank }
}

/** What follows the number of a division: nothing, or a title behind a mark or with a capital; no sentence that goes on. */
function isTitle(rest: string): boolean {
  return /^[.:)]?$/u.test(rest.trim()) || /^\s*(?:[.:–—-]\s*\S|\s["“„«(]?(?:\p{Lu}|\p{Lo}|\d))/u.test(rest) && !/[a-z,;]\.$/u.test(rest)
}

interface Leading {
  readonly number: number
  readonly length: number
}

function leadingNumber(text: string): Leading | null {
  const [figures] = /^\d{1,3}(?![\d.]*\d)/u.exec(text) ?? []
  if (figures !== undefined) return { number: Number(figures), length: figures.length }
  const [roman] = /^[IVXLCivxlc]{1,8}(?![\p{L}\p{M}])/u.exec(text) ?? []
  const value = roman === undefined ? null : romanValue(roman.toUpperCase())
  if (value !== null) return { number: value, length: roman!.length }
  const words = /^\p{L}[\p{L}\p{M}-]*(?: (?:et |e |y )?\p{L}[\p{L}\p{M}-]*)?/u.exec(text)?.[0]
  if (words === undefined) return null
  for (const tried of new Set([words, words.split(' ')[0]!])) {
    const number = spelled(tried)
    if (number !== null) return { number, length: tried.length }
  }
  return null
}

const languages = ['en', 'de', 'fr', 'es', 'it', 'pt', 'nl', 'pl', 'ru', 'cs', 'da']
let byWord: ReadonlyMap<string, number> | null = null

/** A number in words, a cardinal or an ordinal in any gender; null for other words. */
function spelled(words: string): number | null {
  byWord ??= spelledNumbers()
  const plain = folded(words)
  return byWord.get(plain) ?? byWord.get(stem(plain)) ?? null
}

function spelledNumbers(): ReadonlyMap<string, number> {
  const found = new Map<string, number>([['stem:second', 2]])
  for (const language of languages) {
    const list = numberWords(language)!
    for (let number = 1; number <= highestWord; number += 1) {
      const [cardinal, ordinal] = [list.cardinal(String(number)), list.ordinal(String(number))].map(folded) as [string, string]
      for (const key of [cardinal, ordinal, stem(ordinal)]) if (!found.has(key)) found.set(key, number)
    }
  }
  return found
}

function folded(text: string): string {
  return text.toLowerCase().replace(/[- ]/gu, '').normalize('NFD').replace(/\p{M}/gu, '')
}

/** An ordinal without the ending of its gender and case. */
function stem(text: string): string {
  return `stem:${text.replace(/(?:ere|er|es|em|en|os|as|[aeoiy]|ая|яя|ое|ее|ыи|ии|ои)$/u, '')}`
}
