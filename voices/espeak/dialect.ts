import { fail } from '#core/problem'
import { withoutTail } from '#core/tail'

/** What the translation asks of the voices. */
export interface DialectVoices {
  /** The library's name of the voice for a language, or for properties; null when there is none. `here` is the one that speaks now. */
  readonly forLanguage: (language: string) => string | null
  readonly forProperties: (properties: Readonly<Record<string, string>>) => string | null
  /** The library's mnemonics for IPA in the voice of a language (null: the request's own). Throws a problem for signs that it has none for. */
  readonly mnemonics: (ipa: string, voice: string | null) => string
  /** Its own scale of pitch, in per cent, for a change in semitones. */
  readonly pitchPercent: (semitones: number) => number
}

export interface Translated {
  readonly markup: string
  /** Pairs in one list: place in this markup from which on, place in the one that was given, whether they go on side by side (1) or stand still (0). */
  readonly places: readonly number[]
  /** Places in the given markup of its marks, in order, with what each is for. */
  readonly marks: readonly { readonly place: number, readonly isRest: boolean }[]
}

/**
 * The markup of a request (`core/score/markup.ts`) in what the library understands: it ignores `lang` and IPA, takes semitones
 * for something else, and speaks `[[` as the beginning of mnemonics.
 */
export function translate(markup: string, voices: DialectVoices): Translated {
  let out = ''
  let outPlace = 0
  let inPlace = 0
  const places: number[] = []
  const marks: { place: number, isRest: boolean }[] = []
  /** Names of open elements as they are closed, and the voice that was switched to. */
  const open: { readonly close: string, readonly voice: string | null, readonly swallows: boolean }[] = []
  const put = (text: string, goesOn: boolean): void => {
    places.push(outPlace, inPlace, goesOn ? 1 : 0)
    out += text
    outPlace += [...text].length
  }
  const swallowing = (): boolean => open.some(each => each.swallows)
  for (const { 0: token, index } of markup.matchAll(/<[^<>]*>|[^<]+/gu)) {
    if (!token.startsWith('<')) {
      if (!swallowing()) {
        // Each piece between doubled brackets or unspoken full stops by itself, so that places stay right.
        const named = new Set([...namedStops(token, out), ...losingStops(token, markup.slice(index + token.length, index + token.length + longestLook))])
        for (const { 0: piece, index: at } of token.matchAll(/\[(?=\[)|\](?=\])|\.|(?:(?!\[\[|\]\]|\.)[\s\S])+/gu)) {
          if (named.has(at)) put(' ', false)
          else put(piece, true)
          inPlace += [...piece].length
          if ((piece === '[' || piece === ']')) put(' ', false)
        }
      } else {
        inPlace += [...token].length
      }
      continue
    }
    const name = /^<\/?([\w-]+)/u.exec(token)![1]!
    if (token.startsWith('</')) {
      const closed = open.pop()!
      // Mnemonics are not ended by a tag right behind them, nor begun by one right before.
      put(closed.swallows && markup[index + token.length] === '<' ? ' ' : closed.close, false)
    } else if (name === 'mark') {
      marks.push({ place: inPlace, isRest: token.includes('"r"') })
      put(token, true)
    } else {
      const values = Object.fromEntries([...token.matchAll(/(?<![\w:-])([\w:-]+)="([^"]*)"/gu)].map(match => [match[1]!, unescape(match[2]!)]))
      const voice = open.findLast(each => each.voice !== null)?.voice ?? null
      const element = begin(name, token, values, voice, voices)
      if (element.swallows) {
        // Its time is that of the text in it.
        inPlace += [...token].length
        put(`${/\s$/u.test(out) ? '' : ' '}${element.tag}`, false)
        open.push(element)
        continue
      }
      put(element.tag, element.tag === token)
      open.push(element)
    }
    inPlace += [...token].length
  }
  return { markup: out, places, marks }
}

/**
 * Where a text has full stops that the library would call by their name: behind a tag, mnemonics, a sign or a closing mark (“It is (big).”) it takes one for the end of a clause only
 * when a capital letter or more marks follow. Left out it changes nothing else: one behind a letter is not heard either.
 */
function namedStops(text: string, before: string): ReadonlySet<number> {
  const places = [...text.matchAll(/\.(?=\s*$|\s+[\p{Ll}\d])/gu)].map(({ index }) => index)
  return new Set(places.filter(at => !/[\p{L}\p{M}\p{N}.]$/u.test(at === 0 ? before : text.slice(Math.max(0, at - 2), at))))
}

/** So far behind a piece of text is looked for what follows it. */
const longestLook = 200

/**
 * Where a text has full stops behind which the library would lose a mark: the last ones, when nothing but dashes stands between them and the mark, and no small letter
 * follows (“harpooneer.—I shan't”).
 */
function losingStops(text: string, after: string): readonly number[] {
  const next = /^<mark [^<>]*>(?:<[^<>]*>|\s)*([^\s<])/u.exec(after)?.[1]
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
}

function begin(name: string, token: string, values: Readonly<Record<string, string>>, voice: string | null, voices: DialectVoices): Begun {
  const switched = (to: string | null, missing: string): Begun => {
    if (to === null) fail('voice-none', missing)
    return { tag: `<voice name="${to}">`, close: '</voice>', voice: to, swallows: false }
  }
  switch (name) {
    case 'lang': {
      const language = values['xml:lang'] ?? ''
      return switched(voices.forLanguage(language), `No voice speaks “${language}”. Correct the language, or take the direction off.`)
    }
    case 'voice': return switched(voices.forProperties(values), `No voice has ${Object.entries(values).map(([key, value]) => `${key} “${value}”`).join(', ')}. Choose a role instead, or take the direction off.`)
    case 'phoneme': return { tag: `[[${voices.mnemonics(values['ph'] ?? '', voice)}]]`, close: '', voice: null, swallows: true }
    case 'prosody': {
      const { rate, pitch, range } = values
      const attributes = [
        rate === undefined ? '' : ` rate="${rate}"`,
        pitch === undefined ? '' : ` pitch="${Math.round(voices.pitchPercent(Number.parseFloat(pitch)))}%"`,
        range === undefined ? '' : ` range="${range}"`,
      ]
      return { tag: `<prosody${attributes.join('')}>`, close: '</prosody>', voice: null, swallows: false }
    }
    default: return { tag: token, close: `</${name}>`, voice: null, swallows: false }
  }
}

function unescape(text: string): string {
  return text.replace(/&lt;/gu, '<').replace(/&gt;/gu, '>').replace(/&quot;/gu, '"').replace(/&amp;/gu, '&')
}

/** The place in the given markup that a place in the translated one comes from. */
export function sourcePlace({ places }: Pick<Translated, 'places'>, place: number): number {
  let at = 0
  for (let i = 0; i < places.length && places[i]! <= place; i += 3) at = i
  return places[at + 2] === 1 ? places[at + 1]! + place - places[at]! : places[at + 1]!
}
