import { rateFactor, pitchOf, rangeFactor, volumeDb } from '../script/ssml/values'
import { sayAsKind } from '../language/say-as'
import type { Direction } from '../script/directions'
import type { Gap, SoundPlay } from './sounds'

/**
 * What is sent to an engine is a small dialect of SSML around escaped text, white space collapsed. Its elements, each at
 * most once around a text and in this order: `voice` (properties), `lang` (BCP 47), `prosody` (`rate` in whole %, `pitch` in
 * signed st, `range` in whole %, each against the request's), `emphasis`, and `phoneme` (IPA) or `say-as` (characters).
 * `<mark name="r"/>` is where the assembler puts a rest or a sound, `<mark name="g"/>` where it changes the level. No mark stands
 * where nothing is to happen: it would part words that the voice speaks as one.
 */
export interface Segment {
  /** Spoken text, with its place in the spoken form. */
  readonly text: string
  readonly start: number
  readonly tone: Tone
  /** Silence and sounds before it, within the utterance. */
  readonly gap?: Gap
}

/** How a text is spoken. */
export interface Tone {
  readonly rate: number
  readonly pitchSemitones: number
  readonly range: number
  readonly gainDb: number
  readonly emphasis: string | null
  readonly language: string | null
  readonly voice: Readonly<Record<string, string>> | null
  readonly phoneme: { readonly id: string, readonly ph: string } | null
  readonly characters: boolean
}

export const plainTone: Tone = { rate: 1, pitchSemitones: 0, range: 1, gainDb: 0, emphasis: null, language: null, voice: null, phoneme: null, characters: false }

/** Silence, as a level. */
export const silentDb = -120

/**
 * The tone under directions, outermost first. A pace is a factor of the voice's own, so the innermost counts; pitch,
 * range and volume change what surrounds them (SSML 1.1, 3.2.4). What an engine cannot do changes nothing.
 */
export function toneOf(directions: readonly Direction[], outer: Tone = plainTone): Tone {
  let tone = outer
  for (const direction of directions) {
    switch (direction.kind) {
      case 'emphasis': tone = { ...tone, emphasis: direction.level === 'none' ? null : direction.level }; break
      case 'language': tone = { ...tone, language: direction.language === '' ? null : direction.language }; break
      case 'voice': tone = { ...tone, voice: Object.keys(direction.attributes).length === 0 ? null : direction.attributes }; break
      case 'phoneme': tone = isIpa(direction.alphabet) ? { ...tone, phoneme: { id: direction.id, ph: direction.ph } } : tone; break
      case 'sayAs': tone = { ...tone, characters: sayAsKind(direction.interpretAs) === 'characters' }; break
      case 'prosody': {
        const pitch = direction.pitch === undefined ? null : pitchOf(direction.pitch)
        tone = {
          ...tone,
          rate: (direction.rate === undefined ? null : rateFactor(direction.rate)) ?? tone.rate,
          pitchSemitones: tone.pitchSemitones + (pitch !== null && 'semitones' in pitch ? pitch.semitones : 0),
          range: tone.range * ((direction.range === undefined ? null : rangeFactor(direction.range)) ?? 1),
          gainDb: Math.max(silentDb, tone.gainDb + ((direction.volume === undefined ? null : volumeDb(direction.volume)) ?? 0)),
        }
        break
      }
    }
  }
  return tone
}

export function isIpa(alphabet: string | undefined): boolean {
  return alphabet === undefined || alphabet.toLowerCase() === 'ipa'
}

/** Where the assembler does something in an utterance. */
export interface Stretch {
  /** Place in the markup, in code points from 0, from which on it counts. */
  readonly place: number
  /** Sounds before it, and silence behind them, in ms. */
  readonly sounds?: readonly SoundPlay[]
  readonly restMs: number
  /** Against the level of its role. */
  readonly gainDb: number
}

export interface Markup {
  readonly markup: string
  /** Pace and pitch that all of it has in common, for the request itself. */
  readonly rate: number
  readonly pitchSemitones: number
  /** Words in order, three numbers each: place in the markup, start and end in the spoken form. */
  readonly words: readonly number[]
  /** At least one, from place 0. */
  readonly stretches: readonly Stretch[]
}

export function writeMarkup(segments: readonly Segment[]): Markup {
  const first = segments[0]!.tone
  const common = <K extends 'rate' | 'pitchSemitones'>(name: K, neutral: number): number => segments.every(segment => segment.tone[name] === first[name]) ? first[name] : neutral
  const [rate, pitchSemitones] = [common('rate', 1), common('pitchSemitones', 0)]
  let markup = ''
  let place = 0
  const put = (text: string): void => {
    markup += text
    place += lengthOf(text)
  }
  const words: number[] = []
  const stretches: Stretch[] = [{ place: 0, restMs: 0, gainDb: first.gainDb }]
  /** Open elements, outermost first: start tag and name. */
  let open: readonly (readonly [tag: string, name: string])[] = []
  let spaced = true
  let saidPhoneme: string | null = null
  put('<speak>')
  segments.forEach((segment, index) => {
    const { tone, gap } = segment
    const wanted = wrappers(tone, tone.rate / rate, tone.pitchSemitones - pitchSemitones)
    let same = 0
    while (same < open.length && same < wanted.length && open[same]![0] === wanted[same]![0]) same += 1
    for (const [, name] of open.slice(same).toReversed()) put(`</${name}>`)
    if (gap !== undefined || index > 0 && tone.gainDb !== stretches.at(-1)!.gainDb) {
      stretches.push({ place, restMs: gap?.restMs ?? 0, gainDb: tone.gainDb, ...(gap === undefined || gap.sounds.length === 0 ? {} : { sounds: gap.sounds }) })
      put(`<mark name="${gap === undefined ? 'g' : 'r'}"/>`)
    }
    for (const [tag] of wanted.slice(same)) put(tag)
    open = wanted
    if (tone.phoneme === null) {
      saidPhoneme = null
    } else {
      if (tone.phoneme.id === saidPhoneme) return
      saidPhoneme = tone.phoneme.id
    }
    for (const match of segment.text.matchAll(/\s+|\S+/gu)) {
      const isSpace = /^\s/u.test(match[0])
      if (isSpace && spaced) continue
      if (!isSpace) words.push(place, segment.start + match.index, segment.start + match.index + match[0].length)
      put(isSpace ? ' ' : escape(match[0]))
      spaced = isSpace
    }
  })
  for (const [, name] of open.toReversed()) put(`</${name}>`)
  put('</speak>')
  return { markup, rate, pitchSemitones, words, stretches }
}

function wrappers(tone: Tone, rate: number, semitones: number): [tag: string, name: string][] {
  const list: [tag: string, name: string][] = []
  if (tone.voice !== null) list.push([`<voice${attributesOf(Object.entries(tone.voice).sort(([a], [b]) => a < b ? -1 : 1))}>`, 'voice'])
  if (tone.language !== null) list.push([`<lang xml:lang="${escape(tone.language)}">`, 'lang'])
  const prosody: [string, string][] = [
    ...(Math.round(rate * 100) === 100 ? [] : [['rate', `${Math.round(rate * 100)}%`] as [string, string]]),
    ...(Math.abs(semitones) < 0.005 ? [] : [['pitch', `${semitones > 0 ? '+' : '-'}${Number(Math.abs(semitones).toFixed(2))}st`] as [string, string]]),
    ...(Math.round(tone.range * 100) === 100 ? [] : [['range', `${Math.round(tone.range * 100)}%`] as [string, string]]),
  ]
  if (prosody.length > 0) list.push([`<prosody${attributesOf(prosody)}>`, 'prosody'])
  if (tone.emphasis !== null) list.push([`<emphasis level="${tone.emphasis}">`, 'emphasis'])
  if (tone.phoneme !== null) list.push([`<phoneme ph="${escape(tone.phoneme.ph)}">`, 'phoneme'])
  else if (tone.characters) list.push(['<say-as interpret-as="characters">', 'say-as'])
  return list
}

function attributesOf(entries: readonly (readonly [string, string])[]): string {
  return entries.map(([name, value]) => ` ${name}="${escape(value)}"`).join('')
}

function escape(text: string): string {
  return /[&<>"]/u.test(text) ? text.replace(/&/gu, '&amp;').replace(/</gu, '&lt;').replace(/>/gu, '&gt;').replace(/"/gu, '&quot;') : text
}

/** In code points. */
function lengthOf(text: string): number {
  let length = text.length
  for (let i = 0; i < text.length; i += 1) if ((text.charCodeAt(i) & 0xfc00) === 0xd800 && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) length -= 1
  return length
}

/** The markup of a text without directions. */
export function plainMarkup(text: string): string {
  return writeMarkup([{ text, start: 0, tone: plainTone }]).markup
}
