import { primaryLanguage } from '../language/abbreviations'
import { withoutTail } from '../tail'
import type { Gap } from './sounds'
import type { Tone } from './tone'

/** A piece of an utterance in one tone, with its place in the spoken form. */
export interface PlacedSegment {
  readonly text: string
  readonly start: number
  readonly tone: Tone
  readonly gap?: Gap
}

/** What closes a word: marks of punctuation, brackets, quotation marks. */
const closing = '[.,;:!?…)\\]}”’"\'»›]'
/** What belongs to the word before it, though a direction ends between them: an ending behind an apostrophe, and closing marks. */
const head = new RegExp(`^(?<ending>['’]\\p{L}{1,3}(?![\\p{L}\\p{N}]))?(?<marks>${closing}*)(?![\\p{L}\\p{N}])`, 'u')
/** What belongs to the word behind it: a shortened word before an apostrophe (l’, dell’). */
const elision = /(?<![\p{L}\p{N}])(?<short>\p{L}{1,7})['’]$/u

/**
 * Segments whose edges part no word from its ending, its punctuation or the shortened word before it: a voice that meets a mark by itself says its name
 * (“dot”), and an ending by itself its letter. They go with the word as it is said; around sounds in IPA and letters said one by one, marks stay outside and endings become
 * sounds of their own. Across a rest nothing moves.
 */
export function withWholeWords(segments: readonly PlacedSegment[], language: string): PlacedSegment[] {
  const result: PlacedSegment[] = []
  for (const segment of segments) {
    const before = result.at(-1)
    if (before === undefined || segment.gap !== undefined || /\s$/u.test(before.text) || /^\s/u.test(segment.text)) {
      result.push(segment)
      continue
    }
    result.pop()
    result.push(...joined(before, segment, language))
  }
  return withOneSound(result.filter(segment => segment.text !== '' || segment.gap !== undefined))
}

/** All segments of one pronunciation have its sounds, with the ending that the last of them got and what the first was given. */
function withOneSound(segments: readonly PlacedSegment[]): PlacedSegment[] {
  const longest = new Map<string, string>()
  for (const { tone: { phoneme } } of segments) if (phoneme !== null && phoneme.ph.length > (longest.get(phoneme.id)?.length ?? 0)) longest.set(phoneme.id, phoneme.ph)
  return segments.map(segment => segment.tone.phoneme === null ? segment : { ...segment, tone: { ...segment.tone, phoneme: { ...segment.tone.phoneme, ph: longest.get(segment.tone.phoneme.id)! } } })
}

function joined(left: PlacedSegment, right: PlacedSegment, language: string): PlacedSegment[] {
  const own = (tone: Tone): string => primaryLanguage(tone.language ?? language)
  if (isPlain(right.tone)) {
    const { ending = '', marks = '' } = head.exec(right.text)?.groups ?? {}
    const taken = ending.length + marks.length
    if (taken > 0) {
      const rest = cutFrom(right, taken)
      if (isPlain(left.tone)) return [{ ...left, text: left.text + ending + marks }, rest]
      const sound = ending === '' ? null : endingSound(ending.slice(1).toLowerCase(), left, own(left.tone))
      if (ending !== '' && sound === null) return [left, right]
      const behind: PlacedSegment = { text: marks, start: right.start + ending.length, tone: plainOf(left.tone) }
      if (sound === null) return [left, behind, rest]
      return left.tone.phoneme !== null
        ? [{ ...left, text: left.text + ending, tone: { ...left.tone, phoneme: { ...left.tone.phoneme, ph: left.tone.phoneme.ph + sound } } }, behind, rest]
        : [left, { text: ending, start: right.start, tone: { ...plainOf(left.tone), phoneme: { id: `ending ${right.start}`, ph: sound } } }, behind, rest]
    }
  }
  const match = isPlain(left.tone) && /^[\p{L}\p{N}]/u.test(right.text) && !right.tone.characters ? elision.exec(left.text) : null
  if (match === null) return [left, right]
  const shortened: PlacedSegment = { ...left, text: left.text.slice(0, match.index) }
  const start = left.start + match.index
  if (right.tone.phoneme === null) return [shortened, { ...right, text: match[0] + right.text, start }]
  const sound = elidedSounds[own(right.tone)]?.[match.groups!['short']!.toLowerCase()]
  return sound === undefined ? [left, right] : [shortened, { ...right, text: match[0] + right.text, start, tone: { ...right.tone, phoneme: { ...right.tone.phoneme, ph: sound + right.tone.phoneme.ph } } }]
}

/** Spoken as it is spelt. */
function isPlain({ phoneme, characters }: Tone): boolean {
  return phoneme === null && !characters
}

function plainOf(tone: Tone): Tone {
  return { ...tone, phoneme: null, characters: false }
}

function cutFrom(segment: PlacedSegment, length: number): PlacedSegment {
  return { ...segment, text: segment.text.slice(length), start: segment.start + length }
}

/** The sound of an ending behind an apostrophe (IPA); null where it is not known. English: *common practice* of the plural and possessive s. */
function endingSound(ending: string, { text, tone }: PlacedSegment, language: string): string | null {
  if (ending !== 's') return language === 'en' ? englishEndings[ending] ?? null : null
  if (language !== 'en') return 's'
  const last = tone.phoneme === null ? letterSounds[text.at(-1)!.toLowerCase()] ?? '' : withoutTail(tone.phoneme.ph, /[ˈˌː.‿\s]/u)
  if (/(?:[szʃʒ]|t͡?ʃ|d͡?ʒ)$/u.test(last)) return 'ɪz'
  return /[ptkfθ]$/u.test(last) ? 's' : 'z'
}

const englishEndings: Readonly<Record<string, string>> = { d: 'd', ll: 'əl', re: 'ə', ve: 'v', m: 'm' }
/** The last sounds of English letters' names, where they are not voiced: ef, aitch, ess, ex. */
const letterSounds: Readonly<Record<string, string>> = { f: 'f', h: 'tʃ', s: 's', x: 's' }

/** Shortened words before a vowel, as they sound. */
const elidedSounds: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  fr: { l: 'l', d: 'd', j: 'ʒ', m: 'm', t: 't', s: 's', n: 'n', c: 's', qu: 'k' },
  it: { l: 'l', d: 'd', c: 'tʃ', m: 'm', t: 't', s: 's', n: 'n', v: 'v', un: 'un', dell: 'dell', all: 'all', nell: 'nell', sull: 'sull', dall: 'dall' },
  ca: { l: 'l', d: 'd', m: 'm', t: 't', s: 's', n: 'n' },
}
