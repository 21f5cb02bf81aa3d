import { primaryLanguage } from '../language/abbreviations'
import { addTo } from '../tally'
import { partOfSpeechAt, type PartOfSpeech } from './part-of-speech'
import { respell } from './respelling'
import { partsOfRoles } from './roles'
import { readingOf, type WordEntry, type Wordbook } from './wordbook'

/** How a word is said: other words, in which entries speak for words again (`within`), sounds in IPA, or its letters. */
export type SaidWord = { readonly words: string, readonly within?: readonly WordHit[] } | { readonly ph: string } | { readonly letters: true }

/** A place of a text where an entry decides how it is said. */
export interface WordHit {
  readonly start: number
  readonly end: number
  readonly entry: string
  readonly said: SaidWord
}

/** Finds the entries that count in `text` from `from` up to `to`, whose language (BCP 47) is given. Hits do not overlap, the longest form first. `roles`: what SSML has as the role of the word; entries of that role count first. */
export type WordFinder = (text: string, from: number, to: number, language: string, roles?: string) => WordHit[]

interface Form {
  readonly grapheme: string
  readonly folded: string
  readonly entry: WordEntry
  /** Of its wordbook: the nearest is 0. */
  readonly distance: number
}

/** A finder over wordbooks, the nearest first: for one written form the nearer wins, and one with a neighbour over one without. */
export function wordFinder(wordbooks: readonly Wordbook[]): WordFinder {
  const whole = new Map<string, Form[]>()
  const parts: Form[] = []
  wordbooks.forEach(({ entries }, distance) => {
    for (const entry of entries) {
      for (const grapheme of entry.graphemes) {
        const form = { grapheme, folded: fold(grapheme), entry, distance }
        if (entry.partOfWord === true) parts.push(form)
        else addTo(whole, firstToken(form.folded), form)
      }
    }
  })
  for (const forms of whole.values()) forms.sort(nearerFirst)
  parts.sort(nearerFirst)
  if (whole.size === 0 && parts.length === 0) return () => []
  /** How entries are said, by entry and language. */
  const resolved = new Map<WordEntry, Map<string, SaidWord | null>>()
  /** Aliases that were looked up for the entry in hand. */
  let lookups = 0
  return (text, from, to, language, roles) => find(text, from, to, language, [], roles)

  /** `inside`: the entries whose words the text is. */
  function find(text: string, from: number, to: number, language: string, inside: readonly WordEntry[], roles?: string): WordHit[] {
    const folded = fold(text)
    const hits: WordHit[] = []
    const told = roles === undefined ? [] : partsOfRoles(roles)
    const take = (form: Form, start: number, isOfItsRole = false): boolean => {
      const end = start + form.grapheme.length
      if (end > to || !folded.startsWith(form.folded, start) || !speaks(form.entry.language, language)) return false
      if (form.entry.matchCase === true && text.slice(start, end) !== form.grapheme) return false
      if (form.entry.partOfWord !== true && (isWordSign(text, start - 1) && isWordSign(text, start) || isWordSign(text, end) && isWordSign(text, end - 1))) return false
      if (inside.includes(form.entry) || !isBeside(form.entry, folded, start, end) || !isOfItsRole && !isPart(form.entry, told, text, start, end, language)) return false
      const said = saidBy(form.entry, language, inside)
      if (said === null) return false
      hits.push({ start, end, entry: form.entry.id, said })
      return true
    }
    const token = /[\p{L}\p{M}\p{N}]+|[^\s\p{L}\p{M}\p{N}]/gu
    token.lastIndex = from
    for (let match = token.exec(folded); match !== null && match.index < to; match = token.exec(folded)) {
      const [forms, start] = [whole.get(match[0]) ?? [], match.index]
      const form = (roles === undefined ? undefined : forms.find(each => isOfRole(each.entry, roles) && take(each, start, true))) ?? forms.find(each => take(each, start))
      if (form !== undefined) {
        token.lastIndex = match.index + form.grapheme.length
        continue
      }
      for (let at = match.index; at < match.index + match[0].length; at += 1) {
        const part = parts.find(each => take(each, at))
        if (part === undefined) continue
        at += part.grapheme.length - 1
        token.lastIndex = Math.max(token.lastIndex, at + 1)
      }
    }
    return hits
  }

  function saidBy(entry: WordEntry, language: string, inside: readonly WordEntry[]): SaidWord | null {
    if (inside.length > 0) return resolve(entry, language, inside)
    const byLanguage = resolved.get(entry) ?? new Map<string, SaidWord | null>()
    resolved.set(entry, byLanguage)
    if (!byLanguage.has(language)) {
      lookups = 0
      byLanguage.set(language, resolve(entry, language, inside))
    }
    return byLanguage.get(language)!
  }

  function resolve(entry: WordEntry, language: string, inside: readonly WordEntry[]): SaidWord | null {
    const said = saidAs(entry, language)
    if (said === null || !('words' in said) || inside.length >= deepestAlias) return said
    lookups += 1
    return lookups > mostLookups ? said : lookedUpAgain(said.words, language, [...inside, entry])
  }

  /** Other words with what the entries say about them; none of them speaks for its own words, and what would grow too long stays as it is. */
  function lookedUpAgain(words: string, language: string, inside: readonly WordEntry[]): SaidWord {
    const within = find(words, 0, words.length, language, inside)
    return within.length === 0 || lengthOf({ words, within }) > longestSaid ? { words } : { words, within }
  }
}

/** Words of an alias are looked up again, and so are those of its aliases, up to so many deep, so many aliases and so many characters in all (PLS 1.0, 4.7; the limits are this product's own). */
const deepestAlias = 5
const mostLookups = 200
const longestSaid = 3_000

function lengthOf(said: SaidWord): number {
  if (!('words' in said)) return 'ph' in said ? said.ph.length : 1
  return (said.within ?? []).reduce((length, hit) => length + lengthOf(hit.said), said.words.length)
}

/** Of several forms at one place the longest counts, then the nearer wordbook, then the one that asks for a neighbour or a case. */
function nearerFirst(a: Form, b: Form): number {
  const asks = ({ entry }: Form): number => (entry.beside === undefined ? 0 : 20) + (entry.partsOfSpeech === undefined ? 0 : 10 - entry.partsOfSpeech.length) + (entry.matchCase === true ? 1 : 0)
  return b.grapheme.length - a.grapheme.length || a.distance - b.distance || asks(b) - asks(a)
}

/** Lower case that keeps every length: places stay what they are. */
function fold(text: string): string {
  const lower = text.toLowerCase()
  if (lower.length === text.length) return lower.replace(/’/gu, '\'')
  return [...text].map(sign => sign.toLowerCase().length === sign.length ? sign.toLowerCase() : sign).join('').replace(/’/gu, '\'')
}

function firstToken(folded: string): string {
  return /^(?:[\p{L}\p{M}\p{N}]+|[^\s\p{L}\p{M}\p{N}])/u.exec(folded)?.[0] ?? folded
}

function isWordSign(text: string, at: number): boolean {
  return at >= 0 && at < text.length && /[\p{L}\p{M}\p{N}]/u.test(text[at]!)
}

/** Whether an entry of a language counts for text of another, both BCP 47. */
export function speaks(own: string, language: string): boolean {
  return language.toLowerCase() === own.toLowerCase() || language.toLowerCase().startsWith(`${own.toLowerCase()}-`) || own.includes('-') && primaryLanguage(own) === language.toLowerCase()
}

function isBeside({ beside }: WordEntry, folded: string, start: number, end: number): boolean {
  if (beside === undefined) return true
  const before = folded.slice(Math.max(0, start - 100), start).match(/[\p{L}\p{M}\p{N}']+/gu)?.findLast(word => /[\p{L}\p{N}]/u.test(word))
  const after = /^[^\p{L}\p{M}\p{N}]*([\p{L}\p{M}\p{N}']+)/u.exec(folded.slice(end, end + 100))?.[1]
  const has = (words: readonly string[] | undefined, found: string | undefined): boolean => words !== undefined && found !== undefined && words.some(word => fold(word) === found)
  return has(beside.before, before) || has(beside.after, after)
}

/** Whether an entry came with one of these roles (SSML 1.1, 3.1.8.2; PLS 1.0, 4.4): names, parted by white space, of which the part behind the colon counts. */
function isOfRole({ kept }: WordEntry, roles: string): boolean {
  const names = (text: string): string[] => text.toLowerCase().split(/\s+/u).map(name => name.replace(/^[^:]*:/u, '')).filter(name => name !== '')
  const own = new Set(names(kept?.attributes?.['role'] ?? ''))
  return names(roles).some(name => own.has(name))
}

/** `told`: what the word is said to be; else its neighbours tell. */
function isPart({ partsOfSpeech }: WordEntry, told: readonly PartOfSpeech[], text: string, start: number, end: number, language: string): boolean {
  if (partsOfSpeech === undefined) return true
  if (told.length > 0) return told.some(part => partsOfSpeech.includes(part))
  const found = partOfSpeechAt(text, start, end, language)
  return found !== null && partsOfSpeech.includes(found)
}

/** Null for a respelling that stands for no sounds. */
function saidAs(entry: WordEntry, language: string): SaidWord | null {
  const said = readingOf(entry)
  switch (said.by) {
    case 'ipa': return { ph: said.text }
    case 'alias': return { words: said.text }
    case 'letters': return { letters: true }
    case 'respelling': {
      const respelt = respell(said.text, language)
      return 'ipa' in respelt ? { ph: respelt.ipa } : null
    }
  }
}
