import type { Problem } from '#core/problem'
import { withoutTail } from '#core/tail'
import type { Pronounced } from './phonemes'
import { lengthOf, tokensOf, type MarkupElement, type MarkupNode, type MarkupToken } from './markup'

/** What the translation asks of the voices. */
export interface DialectVoices {
  /** The library's name of the request's own voice. */
  readonly own: string
  /** The library's name of the voice for a language; null when there is none. */
  readonly forLanguage: (language: string) => string | null
  readonly forProperties: (properties: Readonly<Record<string, string>>) => ChosenVoice
  /** The library's mnemonics for IPA in the voice of a language (null: the request's own). */
  readonly mnemonics: (ipa: string, voice: string | null) => Pronounced
  /** Its own scale of pitch, in per cent, for a change in semitones. */
  readonly pitchPercent: (semitones: number) => number
}

/** A voice that was chosen by properties: the library's name of it, null where the one around it goes on; and what no voice has of what was asked for. */
export interface ChosenVoice {
  readonly to: string | null
  readonly missing: string | null
}

export interface Translated {
  readonly markup: string
  /** What the voices do not have of what is asked for: it is said otherwise, or without. */
  readonly problems: readonly Problem[]
  /** Pairs in one list: place in this markup from which on, place in the one that was given, whether they go on side by side (1) or stand still (0). */
  readonly places: readonly number[]
  /** Places in the given markup of its marks, in order, with what each is for. */
  readonly marks: readonly { readonly place: number, readonly isRest: boolean }[]
}

/**
 * The markup of a request in what the library understands: it ignores `lang` and IPA, takes semitones
 * for something else, and speaks `[[` as the beginning of mnemonics.
 */
export function translate(content: readonly MarkupNode[], voices: DialectVoices): Translated {
  let out = ''
  let outPlace = 0
  let inPlace = 0
  const places: number[] = []
  const marks: { place: number, isRest: boolean }[] = []
  const problems: Problem[] = []
  /** How open elements are closed, and the voice that was switched to. */
  const open: Begun[] = []
  /** Closing tags of voices that were taken up again within each open element, and within none. */
  const again: string[] = ['']
  const put = (text: string, goesOn: boolean): void => {
    places.push(outPlace, inPlace, goesOn ? 1 : 0)
    out += text
    outPlace += lengthOf(text)
  }
  const swallowing = (): boolean => open.some(each => each.swallows)
  const tokens = tokensOf(content)
  tokens.forEach((token, index) => {
    const { source } = token
    if ('text' in token) {
      if (swallowing()) {
        inPlace += lengthOf(source)
        return
      }
      // Each piece between doubled brackets or unspoken full stops by itself, so that places stay right.
      const behind = tokens.slice(index + 1, index + 1 + longestLook)
      const named = new Set(source.includes('.') ? [...namedStops(source, out), ...innerStops(source, out, behind), ...losingStops(source, behind)] : [])
      for (const { 0: piece, index: at } of source.matchAll(/\[(?=\[)|\](?=\])|&quot;|[.,;:!?…](?=[—–*†‡])|\.|(?:(?!\[\[|\]\]|\.|&quot;|[.,;:!?…][—–*†‡])[\s\S])+/gu)) {
        // A mark before a straight quotation mark is called by its name, before a curled one it is not.
        if (piece === '&quot;' && /[.,;:!?…]/u.test(source[at - 1] ?? out.at(-1) ?? '')) put('”', false)
        else if (named.has(at)) put(' ', false)
        else put(piece, true)
        // So is a mark right before a dash or the sign of a note.
        if (/[.,;:!?…]$/u.test(piece) && /[—–*†‡]/u.test(source[at + piece.length] ?? '')) put(' ', false)
        inPlace += lengthOf(piece)
        if (piece === '[' || piece === ']') put(' ', false)
      }
      return
    }
    if ('close' in token) {
      const closed = open.pop()!
      put(again.pop()!, false)
      const next = tokens[index + 1]
      // Mnemonics are not ended by a tag right behind them, nor begun by one right before.
      put(closed.swallows && next !== undefined && !('text' in next) ? ' ' : closed.close, false)
      // The library goes back to the voice before only with the next clause: it is named again.
      if (closed.voice !== null && tokens.slice(index + 1).some(token => 'text' in token && token.text.trim() !== '')) {
        put(`<voice name="${voiceOf(open) ?? voices.own}">`, false)
        again.push(`</voice>${again.pop()!}`)
      }
    } else if ('mark' in token) {
      marks.push({ place: inPlace, isRest: token.mark === 'rest' })
      put(source, true)
    } else {
      const element = begin(token.open, source, voiceOf(open), voices)
      if (element.problem !== undefined) problems.push(element.problem)
      open.push(element)
      again.push('')
      // The time of mnemonics is that of the text that they stand for.
      if (!element.swallows) put(element.tag, element.tag === source)
      inPlace += lengthOf(source)
      if (element.swallows) put(`${/\s$/u.test(out) ? '' : ' '}${element.tag}`, false)
      return
    }
    inPlace += lengthOf(source)
  })
  put(again[0]!, false)
  return { markup: out, places, marks, problems }
}

/** The voice that elements have been switched to; null for the request's own. */
function voiceOf(open: readonly Begun[]): string | null {
  return open.findLast(({ voice }) => voice !== null)?.voice ?? null
}

/**
 * Where a text has full stops that the library would call by their name: at an end, or before a small letter or a figure, behind a tag, mnemonics, a sign or a closing mark (“It is (big).”),
 * and behind what is no plain word (an address, a path, °C) or a figure; and where stops stand alone. Left out there they change nothing else: one behind a letter is not heard either.
 */
function namedStops(text: string, before: string): ReadonlySet<number> {
  const places = [...text.matchAll(/\.(?=\s*$|\s+[\p{Ll}\d])/gu)].map(({ index }) => index)
  const alone = [...text.matchAll(/(?<=^|\s)\.+(?=[\s,;:]|$)/gu)].flatMap(({ 0: stops, index }) => Array.from(stops, (_, at) => index + at))
  return new Set([...alone, ...places.filter(at => !/[\p{L}\p{M}\p{N}.]$/u.test(at === 0 ? before : text.slice(Math.max(0, at - 2), at)) || isNoWord(text.slice(Math.max(0, at - longestToken), at)) || isFigure(text, at))])
}

/**
 * Where the library would rest as at the end of a sentence, though a request is one sentence at most: behind a short word, letters with stops between them or the number of an item,
 * before a capital letter or a figure (“Mt. Everest”, “U.S. Army”, “1. Remove”). Behind other figures the stop stays: some voices say an ordinal there.
 */
function innerStops(text: string, before: string, after: readonly MarkupToken[]): number[] {
  const whole = text + after.map(token => 'text' in token ? token.source : '').join('')
  return [...whole.matchAll(/\.(?=\s+["“‘„«(\[]*[\p{Lu}\d])/gu)].filter(({ index }) => index < text.length).flatMap(({ index }) => {
    const token = /\S*$/u.exec(text.slice(Math.max(0, index - longestToken), index))![0]
    const isFirst = index === token.length && !/\p{L}|\p{N}/u.test(withoutTags(before))
    return /^[(\["“‘„«]*(?:\p{L}{1,6}|\p{L}(?:\.\p{L}){1,5})$/u.test(token) || isFirst && /^\(?(?:\d{1,3}|\p{L}{1,12}(?:[ -]\p{L}{1,12})?)$/u.test(token) ? [index] : []
  })
}

function withoutTags(markup: string): string {
  return markup.replace(/<[^<>]{1,2000}>/gu, '')
}

/** Behind a figure at the end a German voice takes a stop for an ordinal; behind an article, *am* and the like it is one. */
function isFigure(text: string, at: number): boolean {
  return /^\.\s*$/u.test(text.slice(at)) && /\d$/u.test(text.slice(Math.max(0, at - 1), at)) && !/(?:^|\s)(?:der|die|das|den|dem|des|am|vom|zum|beim|im) \d{1,3}$/iu.test(text.slice(Math.max(0, at - 20), at))
}

/** So many characters before a stop tell what it ends. */
const longestToken = 100

/** Whether a text ends in something else than a word: a stop alone, or letters with signs between them; abbreviations (U.S, e.g) are words. */
function isNoWord(text: string): boolean {
  const token = /\S*$/u.exec(text)![0]
  return /[^\p{L}\p{M}\p{N}.'’-]|\.\p{L}|^\.*$/u.test(token) && !/^\p{L}(?:\.\p{L}){1,4}$/u.test(token)
}

/** So many pieces behind a text are looked at for what follows it. */
const longestLook = 20

/**
 * Where a text has full stops behind which the library would lose a mark: the last ones, when nothing but dashes stands between them and the mark, and no small letter
 * follows (“harpooneer.—I shan't”).
 */
function losingStops(text: string, after: readonly MarkupToken[]): readonly number[] {
  const [mark] = after
  if (mark === undefined || !('mark' in mark)) return []
  const said = after.find(token => 'text' in token && token.text.trim() !== '')
  const next = said === undefined ? undefined : [...said.source.trimStart()][0]
  if (next === undefined || /\p{Ll}/u.test(next)) return []
  const { length } = withoutTail(text, /[\s—–-]/u)
  const first = withoutTail(text.slice(0, length), /\./u).length
  return Array.from({ length: length - first }, (_, index) => first + index)
}

interface Begun {
  readonly tag: string
  readonly close: string
  readonly voice: string | null
  readonly swallows: boolean
  readonly problem?: Problem
}

const nothing: Begun = { tag: '', close: '', voice: null, swallows: false }

function begin({ name, attributes }: MarkupElement, tag: string, voice: string | null, voices: DialectVoices): Begun {
  const switched = (to: string): Begun => ({ tag: `<voice name="${to}">`, close: '</voice>', voice: to, swallows: false })
  switch (name) {
    case 'lang': {
      const language = attributes['xml:lang'] ?? ''
      const to = voices.forLanguage(language)
      if (to !== null) return switched(to)
      const isLeftOut = attributes['onlangfailure'] === 'ignoretext'
      const problem: Problem = { code: 'voice-none', message: `No voice speaks “${language}”: its text is ${isLeftOut ? 'left out, as the script asks for' : 'read by the voice around it'}. Choose another language, or write the pronunciation.` }
      return { ...nothing, swallows: isLeftOut, problem }
    }
    case 'voice': {
      const { to, missing } = voices.forProperties(attributes)
      const begun = to === null ? nothing : switched(to)
      return missing === null ? begun : { ...begun, problem: { code: 'voice-none', message: `No voice has ${missing}: its text is read by ${to === null ? 'the voice around it' : 'one that has the other properties'}. Choose a role instead, or take the direction off.` } }
    }
    case 'phoneme': return pronounced(attributes['ph'] ?? '', voices.mnemonics(attributes['ph'] ?? '', voice))
    case 'prosody': {
      const { rate, pitch, range } = attributes
      const translated = [
        rate === undefined ? '' : ` rate="${rate}"`,
        pitch === undefined ? '' : ` pitch="${Math.round(voices.pitchPercent(Number.parseFloat(pitch)))}%"`,
        range === undefined ? '' : ` range="${range}"`,
      ]
      return { tag: `<prosody${translated.join('')}>`, close: '</prosody>', voice: null, swallows: false }
    }
    default: return { tag, close: `</${name}>`, voice: null, swallows: false }
  }
}

function pronounced(ipa: string, { mnemonics, otherwise }: Pronounced): Begun {
  const begun: Begun = mnemonics === '' ? nothing : { tag: `[[${mnemonics}]]`, close: '', voice: null, swallows: true }
  if (otherwise.size === 0) return begun
  const signs = [...otherwise.keys()].map(sign => `“${sign}”`)
  const instead = [...otherwise].map(([sign, said]) => said === '' ? `nothing for “${sign}”` : `/${said}/ for “${sign}”`)
  const message = `This voice has no sound for ${signs.join(', ')} in the pronunciation /${ipa}/. ${mnemonics === '' ? 'The word is read as it is written.' : `It says ${instead.join(', ')}.`} Write it with other signs, or use Substitute.`
  return { ...begun, problem: { code: 'phoneme-unknown', message } }
}

/** The place in the given markup that a place in the translated one comes from. */
export function sourcePlace({ places }: Pick<Translated, 'places'>, place: number): number {
  let at = 0
  for (let i = 0; i < places.length && places[i]! <= place; i += 3) at = i
  return places[at + 2] === 1 ? places[at + 1]! + place - places[at]! : places[at + 1]!
}
