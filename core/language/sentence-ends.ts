import { madeOnce } from '../made-once'
import { abbreviations, openingWords, ordinalsWithFullStop, primaryLanguage } from './abbreviations'
import { countedNouns } from './german-nouns'
import { monthNames } from './months'
import type { TextSpan } from './sentences'
import { ruleWords } from './words'

/** A dash and the beginning of what is said behind it; the source of a pattern. */
export const dashBeforeSpeech = '(?:[–—]\\s?|- )["«¡¿]?\\p{Lu}'
const beginsSpeech = new RegExp(`^${dashBeforeSpeech}`, 'u')

/** Whether the segmenter's boundary between two spans is none. */
export function continues(text: string, left: TextSpan, right: TextSpan, language: string): boolean {
  if (text.slice(left.end, right.start).includes('\n')) return false
  const before = text.slice(Math.max(left.start, left.end - 60), left.end)
  const after = text.slice(right.start, right.start + 60)
  // A path or a switch: /./ and ?=
  if (left.end === right.start && /^[/=&\\_#%]/u.test(after)) return true
  if (/[)）]$/u.test(before) && closesWithin(text.slice(left.start, left.end), after)) return true
  if (/^\p{Ll}/u.test(after) && !/[。！？]$/u.test(before)) return true
  if (/^[–—-]/u.test(after)) return !(opensSpeechWithDash(language) && beginsSpeech.test(after))
  if (isListMarker(text.slice(left.start, left.end))) return true
  if (saysWhatWasQuoted(before, after, language)) return true
  return /\.$/u.test(before) && continuesAfterPeriod(before, after, language)
}

/** Whether a bracket closes within a sentence of a script without cases: 预置（如果正确！）都会… */
function closesWithin(left: string, after: string): boolean {
  return /^[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}]/u.test(after) && Math.max(left.lastIndexOf('('), left.lastIndexOf('（')) > 0
}

function isListMarker(sentence: string): boolean {
  return /^\(?(?:(?:\d{1,3}|\p{Lu})(?:\.\d{1,3}){0,5}|\p{L}|[ivxlc]{1,6}|[IVXLC]{1,6})[.)]\)?$/u.test(sentence)
}

/** Where speech opens with a dash, a capital letter behind one begins a sentence: — Да. — Он встал. */
export function opensSpeechWithDash(language: string): boolean {
  return !['de', 'en', 'nl'].includes(primaryLanguage(language))
}

const chineseVerbsOfSaying = '[说問问喊叫嚷說]|[说问喊叫答嚷笑說問]道|[笑哭]着说|笑著說'

/** Who says it, behind a quotation in a script without cases: 「行こう。」と彼は言った。 “走吧！”他说。 */
const sayingWithoutCase = new RegExp(
  // Japanese: と and who says it, って; not the words that begin with と.
  `^(?:と(?:[、。いき]|\\p{Script=Han}|\\p{Script=Katakana})(?!うわけ|うのも|っても|え)|って|などと|`
  // Korean: the ending of what is quoted, without a space.
  + `이?라[고며는]|하[고며]|`
  // Chinese: a short subject, perhaps with a manner, and a verb of saying before a mark.
  + `(?:\\p{Script=Han}{0,6}?)(?:${chineseVerbsOfSaying})[着著了]?[。，：、！,])`, 'u')

/** A name and a verb of saying behind a quotation that asks or calls: “Stop!” Ada shouted. */
const englishSaying = /^(?:I|(?:\p{Lu}[\p{L}’'-]*\.? ){0,2}\p{Lu}[\p{L}’'-]*) (?:said|asked|cried|shouted|called|replied|answered|whispered|exclaimed|muttered|murmured|yelled|screamed|snapped|added|demanded|gasped|laughed|sighed|wondered|inquired|enquired|repeated|agreed)(?!\p{L})/u

function saysWhatWasQuoted(before: string, after: string, language: string): boolean {
  if (/[。！？!?…][」』”’"]+$|[！？!?]$/u.test(before) && sayingWithoutCase.test(after)) return true
  const opening = /^\p{L}+/u.exec(after)?.[0] ?? ''
  return primaryLanguage(language) === 'en' && /[!?…][”’"']$/u.test(before) && englishSaying.test(after)
    && (opening === 'I' || !openingWords(language).has(opening))
}

function continuesAfterPeriod(before: string, after: string, language: string): boolean {
  // Without an article that is drawn to it: l’avv., dell’art.
  const token = (/[^\s("“‘„«[—]+$/u.exec(before)?.[0] ?? '').replace(/^\p{L}{1,6}[’'](?=\p{L})/u, '')
  const nextWord = /^["“‘„«([]*([\p{L}\p{M}’']+)/u.exec(after)?.[1] ?? ''
  const opens = openingWords(language).has(nextWord)
  const known = abbreviations(language)
  const ends = abbreviationsAtEnd(before, token)
  if (ends.some(end => known.endsList.has(end))) return false
  // An abbreviation of two words: v. Chr., z. B.
  if (/^\p{L}\.$/u.test(token) && /^\p{L}{1,3}\./u.test(after)) return true
  // The number of a house behind its street: Hauptstr. 5.
  if (/\p{L}str\.$/iu.test(token) && /^\d/u.test(after)) return true
  // A number of an enumeration: Drei Dinge: 1. Wachs …
  if (/[:;] \(?\d{1,2}\.$/u.test(before)) return true
  // A date in figures with spaces: 3. 6. 2021.
  if (/(?:^|\s)\d{1,2}\.$/u.test(before) && /^(?:\d{1,2}\. ?)?\d{4}\b/u.test(after) && (/^\d{1,2}\./u.test(after) || /\d{1,2}\. \d{1,2}\.$/u.test(before))) return true
  for (const word of ends.flatMap(end => [end, end.toLowerCase()])) {
    if (known.beforeName.has(word)) return !(opens && endsBeforeOpening(word, language))
    // A capital letter alone is an initial, unless a number follows it.
    if (known.beforeNumber.has(word) && (beginsWithNumber(after) || !/^\p{Lu}\.$/u.test(token))) return beginsWithNumber(after)
    if (known.other.has(word)) return !opens && beginsWithWord(after)
  }
  if (/^(?:(?:\d{1,3}\.?[–-])?\d{1,3}|[IVXL]+)\.$/u.test(token)) {
    return monthsInLowerCase(language).has(nextWord.toLowerCase()) || isGermanOrdinal(before, nextWord, language) || isOrdinal(token, after, language) && !opens
  }
  // Of the plural, as Spanish writes it: EE. UU.
  if (/^(?<first>\p{Lu})\k<first>\.$/u.test(token) && /^(?<second>\p{Lu})\k<second>\./u.test(after)) return true
  const initials = /^(?:\p{Lu}\.-?)+$/u.test(token) || /^(?:\p{L}\.){2,}$/u.test(token)
  if (initials) return !opens && beginsWithWord(after)
  // What has no vowel is an abbreviation, known or not (Rm. 5), and in a language whose abbreviations are not known what is short.
  return /^\d/u.test(after) && (known.beforeName.size === 0 ? /^\p{L}{1,4}\.$/u : /^[b-df-hj-np-tv-xz]{1,4}\.$/iu).test(token)
}

/** The abbreviations that a text may end with, the longest first, without spaces: `т.е.` and `е.` */
function abbreviationsAtEnd(before: string, token: string): string[] {
  const run = /(?:^|[\s("“‘„«[—])((?:\p{L}{1,3}\.[ \u00a0\u202f])*)\S+$/u.exec(before)?.[1] ?? ''
  const pieces = [...run.split(/[ \u00a0\u202f]/u).filter(piece => piece !== ''), token]
  const ends = pieces.slice(-3).map((_, index, last) => last.slice(index).join(''))
  // The second of two that a hyphen joins: Lun.-ven.
  return [...ends, token.slice(token.lastIndexOf('-') + 1)]
}

/** Whether an abbreviation before a name may also stand at an end: a street does, where a saint does not, and a single letter. */
function endsBeforeOpening(word: string, language: string): boolean {
  return word === 'st.' || /^\p{L}\.$/u.test(word) && primaryLanguage(language) !== 'fr'
}

function beginsWithWord(text: string): boolean {
  return /^["“‘„«([]*[\p{L}\d\p{Sc}]/u.test(text)
}

function beginsWithNumber(text: string): boolean {
  return /^(?:\d|[IVXLC]+\b)/u.test(text)
}

function isOrdinal(token: string, after: string, language: string): boolean {
  const kind = ordinalsWithFullStop(language)
  // A decade of a century: w latach 90. XX wieku.
  return kind === 'all' || kind === 'roman' && (!/\d/u.test(token) || /^[IVXL]+ \p{Ll}/u.test(after))
}

/** The numeral of a ruler: Friedrich I. Barbarossa, Ludwigs XIV. Hof. */
const behindGermanRuler = new RegExp(`(?<!\\p{L})(?:${ruleWords('de')!.rulers})s? [IVX]+\\.$`, 'u')

/** An ordinal behind an article, before a noun: “im 16. Jahrhundert”. Before a word that usually opens a sentence it is a day: “Heute ist der 5. Er ging.” */
function isGermanOrdinal(before: string, nextWord: string, language: string): boolean {
  return primaryLanguage(language) === 'de' && !openingWords(language).has(nextWord)
    && (behindGermanRuler.test(before) || Object.hasOwn(countedNouns, nextWord) && /(?:^|\s)(?:\d{1,3}|[IVXL]+)\.$/u.test(before) || /\d{1,3}\.,? (?:und|oder|bis|sowie) \d{1,3}\.$/u.test(before) || /(?:^|\s)(?:als|am|vom|zum|zur|beim|im|ins|der|die|das|den|dem|des|jede[rsmn]?|diese[rsmn]?|(?:ein|sein|ihr|mein|unser)e[rsmn]?) (?:\d{1,3}|[IVXL]+)\.$/iu.test(before))
}

/** Month names of languages that write the day as an ordinal with a full stop (21. April), in lower case. */
const monthsInLowerCase = madeOnce((language): ReadonlySet<string> => new Set(monthNames(language).map(([long]) => long!.toLowerCase())))
