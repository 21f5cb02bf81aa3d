import { primaryLanguage } from '../language/abbreviations'
import { readingsOf } from './heteronyms'

/** What a word is where it stands. `past`: past tense and participle; `adjective`: adverbs too; `name`: of a person or a place. */
export const partsOfSpeech = ['noun', 'verb', 'past', 'adjective', 'name'] as const
export type PartOfSpeech = (typeof partsOfSpeech)[number]

export function isPartOfSpeech(value: string): value is PartOfSpeech {
  return (partsOfSpeech as readonly string[]).includes(value)
}

/** Whether the parts of speech of a language (BCP 47) are told apart: of English. */
export function tellsPartsOfSpeech(language: string): boolean {
  return primaryLanguage(language) === 'en'
}

const listOf = (words: string): ReadonlySet<string> => new Set(words.split(' '))

// Words that tell what stands beside them: closed classes of English grammar.
const determiners = listOf('a an the this these those my your his her its our their each every some any no another both either neither many few several much most all one two three four five six seven eight nine ten what whose which')
const subjects = listOf('i you we they who')
const subjectsOfOne = listOf('he she it')
const objects = listOf('me him her us them it you')
const modals = listOf('will would can could shall should may might must do does did don\'t doesn\'t didn\'t won\'t can\'t cannot couldn\'t shouldn\'t wouldn\'t let let\'s please to i\'ll you\'ll we\'ll they\'ll he\'ll she\'ll it\'ll i\'d we\'d they\'d you\'d')
const have = listOf('have has had having i\'ve you\'ve we\'ve they\'ve haven\'t hasn\'t hadn\'t')
const be = listOf('is are was were be been being am isn\'t aren\'t wasn\'t weren\'t it\'s he\'s she\'s they\'re we\'re you\'re i\'m that\'s become became becomes grew grow seem seems seemed feel feels felt look looks looked stay stays stayed keep kept remain remained remains')
const between = listOf('not never always ever also just only still now soon then often already once quite very too so more most rather all seldom thus either')
const prepositions = listOf('to of in on at by for from with without under over into onto about through during between among against near across along behind beside beyond within toward towards upon off out up down around after before until since like as than')
const conjunctions = listOf('and or but nor')
const adverbs = listOf('again later ago here there away back yet together today tomorrow yesterday tonight too well')
const verbsAfter = listOf('is are was were has had have will would can could shall should may might must blew came went made took began')

interface Neighbours {
  /** Words before it in its clause, the nearest first, and behind it, in lower case. */
  readonly before: readonly string[]
  readonly after: readonly string[]
  /** It is the first word of its sentence. */
  readonly isFirst: boolean
}

/** So many characters on either side are looked at. */
const nearest = 60
const clauseEnd = /[.!?;:,()“”"\n]/u

function neighboursAt(text: string, start: number, end: number): Neighbours {
  let from = start
  while (from > 0 && start - from < nearest && !clauseEnd.test(text[from - 1]!)) from -= 1
  let to = end
  while (to < text.length && to - end < nearest && !clauseEnd.test(text[to]!)) to += 1
  const before = wordsOf(text.slice(from, start))
  return { before: before.reverse().slice(0, 4), after: wordsOf(text.slice(end, to)).slice(0, 3), isFirst: before.length === 0 && !/[,:;(]/u.test(text[from - 1] ?? '') }
}

function wordsOf(piece: string): string[] {
  return piece.toLowerCase().replaceAll('’', '\'').match(/[\p{L}\p{N}']+/gu) ?? []
}

/**
 * What a word of an English text is where it stands (`end` is exclusive), by the words beside it; null in another language. Rules of our own, for what parts the readings of a
 * word: not a grammar. Of a word with several pronunciations only what it can be is considered.
 */
export function partOfSpeechAt(text: string, start: number, end: number, language: string): PartOfSpeech | null {
  if (!tellsPartsOfSpeech(language)) return null
  const word = text.slice(start, end)
  const can = new Set(readingsOf(word, language)?.flatMap(({ of }) => of) ?? partsOfSpeech)
  const around = neighboursAt(text, start, end)
  if (can.has('name') && isName(word, text, start, around)) return 'name'
  const wanted = byNeighbours(word.toLowerCase(), around, can)
  return can.has(wanted) ? wanted : nearestTo(wanted, can)
}

/** A capital within a sentence is that of a name; at its beginning it is where the words beside it say so. */
function isName(word: string, text: string, start: number, { before, after, isFirst }: Neighbours): boolean {
  if (!/^\p{Lu}\p{Ll}/u.test(word)) return false
  if (isFirst) return ['is', 'was', 'has', 'had'].includes(after[0] ?? '') && (!/ing$/iu.test(word) || /^(?:an?|the|in)$/u.test(after[1] ?? '')) || /^(?:and|or|lies|lay|said|who)$/u.test(after[0] ?? '')
  // Of a heading all words have capitals.
  return !/\p{Lu}\p{L}*[^\p{L}.!?]+$/u.test(text.slice(Math.max(0, start - 30), start)) || prepositions.has(before[0] ?? '')
}

type Possible = ReadonlySet<PartOfSpeech>

function byNeighbours(word: string, { before, after, isFirst }: Neighbours, can: Possible): PartOfSpeech {
  const nearestWord = before.findIndex(each => !between.has(each) && !/.ly$/u.test(each))
  const [left, right] = [before[nearestWord] ?? '', after[0] ?? '']
  const hasObject = determiners.has(right) || objects.has(right)
  const isBeforeNoun = right !== '' && !isClosed(right) && !/.ly$/u.test(right)
  if (have.has(left)) return determiners.has(right) && can.has('verb') && !can.has('past') ? 'verb' : 'past'
  if (be.has(left)) return afterBe(word, can, right)
  if (modals.has(left)) return left === 'to' && /^(?:close|next|back|due|up)$/u.test(before[nearestWord + 1] ?? '') ? 'noun' : 'verb'
  if (subjects.has(left)) return can.has('past') && !can.has('verb') ? 'past' : 'verb'
  // He read it: without an s it is the past.
  if (subjectsOfOne.has(left)) return !word.endsWith('s') && can.has('past') ? 'past' : 'verb'
  if (left === 'her' && determiners.has(right)) return 'verb'
  if (/^(?:that|which)$/u.test(left) && can.has('verb') && (hasObject || prepositions.has(right) && right !== 'of')) return 'verb'
  if (determiners.has(left) || /'s$|s'$/u.test(left) || /^\d/u.test(left)) return afterDeterminer(word, can, right, isBeforeNoun)
  if (prepositions.has(left)) return can.has('adjective') && isBeforeNoun ? 'adjective' : 'noun'
  if (left === '' || conjunctions.has(left)) return opening(can, right, isBeforeNoun, isFirst)
  if (objects.has(left)) return can.has('adjective') && !determiners.has(right) ? 'adjective' : can.has('verb') ? 'verb' : 'noun'
  return afterWord(word, left, can, right, isBeforeNoun)
}

/** They were live; it was read by all; it is content of a kind. */
function afterBe(word: string, can: Possible, right: string): PartOfSpeech {
  if (can.has('past') && (!can.has('adjective') || /(?:ed|ing)$/u.test(word) && right === 'by')) return 'past'
  if (can.has('adjective') && !(can.has('noun') && right === 'of')) return 'adjective'
  return can.has('past') ? 'past' : 'noun'
}

function afterDeterminer(word: string, can: Possible, right: string, isBeforeNoun: boolean): PartOfSpeech {
  if (!can.has('noun')) return can.has('adjective') || can.has('past') ? 'adjective' : 'noun'
  if (!can.has('adjective') || !isBeforeNoun || verbsAfter.has(right) || right.endsWith('ed')) return 'noun'
  // A plural behind it may be a verb as well: the number means.
  return right.endsWith('s') && word.endsWith('er') ? 'noun' : 'adjective'
}

/** At the beginning of a clause: an order before its object, else what is spoken of. */
function opening(can: Possible, right: string, isBeforeNoun: boolean, isFirst: boolean): PartOfSpeech {
  if (can.has('verb') && (determiners.has(right) || objects.has(right))) return 'verb'
  if (can.has('adjective') && !can.has('noun') && prepositions.has(right)) return 'adjective'
  if (can.has('past') && !isFirst && (determiners.has(right) || prepositions.has(right))) return 'past'
  if (can.has('adjective') && isBeforeNoun && !verbsAfter.has(right)) return 'adjective'
  if (verbsAfter.has(right)) return 'noun'
  return can.has('verb') && !can.has('noun') && prepositions.has(right) && isFirst ? 'verb' : 'noun'
}

/** Behind any other word: what a noun in the plural does, or what a noun is called. */
function afterWord(word: string, left: string, can: Possible, right: string, isBeforeNoun: boolean): PartOfSpeech {
  const isPlural = /[^s]s$/u.test(left)
  const hasObject = determiners.has(right) || objects.has(right)
  if (/s$/u.test(word) && can.has('verb')) return !isPlural && (hasObject || prepositions.has(right) || right === '') && !looksLikeAdjective(left) ? 'verb' : 'noun'
  if (can.has('past') && hasObject) return 'past'
  if (hasObject || isPlural && !isBeforeNoun && (prepositions.has(right) || right === '' || /.ly$|^(?:here|there|long|together|alone|apart)$/u.test(right))) {
    if (can.has('verb') && !looksLikeAdjective(left)) return 'verb'
    if (can.has('past')) return 'past'
  }
  if (looksLikeAdjective(left)) return can.has('noun') ? 'noun' : 'adjective'
  if (can.has('adjective') && (isBeforeNoun || right === 'to')) return 'adjective'
  return can.has('noun') ? 'noun' : can.has('adjective') ? 'adjective' : 'verb'
}

function looksLikeAdjective(word: string): boolean {
  return /(?:ful|ous|ive|ic|ical|able|ible|less|ish|ern|ary|est)$/u.test(word) || adjectives.has(word)
}

const adjectives = listOf('strong light cold warm hot dry wet good bad new old long short big small large little great high low deep clear heavy soft hard last first next same other own full dead sheet red black white green blue north south east west northern southern open')

function isClosed(word: string): boolean {
  return [determiners, subjects, subjectsOfOne, objects, modals, have, be, prepositions, conjunctions, adverbs, between].some(list => list.has(word))
}

/** Of what a word can be, that which is nearest to what stands there. */
function nearestTo(wanted: PartOfSpeech, can: Possible): PartOfSpeech {
  const order: Readonly<Record<PartOfSpeech, readonly PartOfSpeech[]>> = {
    noun: ['name', 'verb', 'adjective', 'past'], verb: ['past', 'noun', 'adjective', 'name'], past: ['verb', 'adjective', 'noun', 'name'], adjective: ['past', 'noun', 'name', 'verb'], name: ['noun', 'adjective', 'verb', 'past'],
  }
  return order[wanted].find(each => can.has(each)) ?? wanted
}
