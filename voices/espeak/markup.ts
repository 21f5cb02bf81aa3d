import { hash } from '#core/hash'
import { within, type Casting } from '#core/score/cast'
import { stretchAt, type Stretch, type WrittenRequest } from '#core/score/request'
import { spacesAndWords, type Tone, type ToneSegment } from '#core/score/tone'
import { capabilities } from './capabilities'

/**
 * What the engine is asked for: a small dialect of SSML as a tree. Its elements, each at most once around a text and in this order: `voice` (properties), `lang` (BCP 47; with `onlangfailure` where nothing is said without a voice),
 * `prosody` (`rate` in whole %, `pitch` in signed st, `range` in whole %, each against the request's), `emphasis`, and `phoneme` (IPA) or `say-as` (characters).
 * Text is as it is said, white space collapsed. A mark for a rest is where the assembler puts a rest or a sound, one for a level where it changes the level. No mark stands
 * where nothing is to happen: it would part words that the voice speaks as one.
 */
export type MarkupNode = string | MarkupElement | MarkupMark

export interface MarkupElement {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  readonly content: readonly MarkupNode[]
}

export interface MarkupMark {
  readonly mark: 'rest' | 'level'
}

/** A piece of the markup as it is written down, in order. */
export type MarkupToken = { readonly text: string, readonly source: string }
  | { readonly open: MarkupElement, readonly source: string }
  | { readonly close: MarkupElement, readonly source: string }
  | { readonly mark: MarkupMark['mark'], readonly source: string }

const root = (content: readonly MarkupNode[]): MarkupElement => ({ name: 'speak', attributes: {}, content })

/** The markup as SSML, piece by piece. Places in it are counted in code points of this, from 0. */
export function tokensOf(content: readonly MarkupNode[]): MarkupToken[] {
  const tokens: MarkupToken[] = []
  const write = (node: MarkupNode): void => {
    if (typeof node === 'string') {
      tokens.push({ text: node, source: escaped(node) })
    } else if ('mark' in node) {
      tokens.push({ mark: node.mark, source: markTag(node) })
    } else {
      tokens.push({ open: node, source: startTag(node) })
      node.content.forEach(write)
      tokens.push({ close: node, source: endTag(node) })
    }
  }
  write(root(content))
  return tokens
}

/** The same in one piece, for the key: a book has too many tokens to make them only to put them together. */
function sourceOf(node: MarkupNode): string {
  if (typeof node === 'string') return escaped(node)
  if ('mark' in node) return markTag(node)
  let inside = ''
  for (const each of node.content) inside += sourceOf(each)
  return `${startTag(node)}${inside}${endTag(node)}`
}

const endTag = ({ name }: Pick<MarkupElement, 'name'>): string => `</${name}>`

const markTag = ({ mark }: MarkupMark): string => `<mark name="${mark === 'rest' ? 'r' : 'g'}"/>`

/** Properties of a voice are written in alphabetical order, those of prosody as they are listed here. */
const prosodyOrder = ['rate', 'pitch', 'range']

function startTag({ name, attributes }: MarkupElement): string {
  const names = name === 'prosody' ? prosodyOrder.filter(each => each in attributes) : Object.keys(attributes).sort()
  return `<${name}${names.map(each => ` ${each}="${escaped(attributes[each]!)}"`).join('')}>`
}

const signs: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' }

function escaped(text: string): string {
  return /[&<>"]/u.test(text) ? text.replace(/[&<>"]/gu, sign => signs[sign]!) : text
}

/** In code points. */
export function lengthOf(text: string): number {
  let length = text.length
  for (let i = 0; i < text.length; i += 1) if ((text.charCodeAt(i) & 0xfc00) === 0xd800 && (text.charCodeAt(i + 1) & 0xfc00) === 0xdc00) length -= 1
  return length
}

/** What is sent for the places from `from` up to `to`, with the elements around it, without marks. */
export function excerptOf(content: readonly MarkupNode[], from: number, to: number): string {
  let place = 0
  /** Start tags that nothing has been written in yet. */
  const waiting: string[] = []
  const open: boolean[] = []
  let out = ''
  for (const token of tokensOf(content)) {
    const signsOf = [...token.source]
    if ('text' in token) {
      const piece = signsOf.slice(Math.max(0, from - place), Math.max(0, to - place)).join('')
      if (piece !== '') {
        out += waiting.splice(0).join('') + piece
        open.fill(true)
      }
    } else if ('open' in token) {
      waiting.push(token.open.name === 'speak' ? '' : token.source)
      open.push(false)
    } else if ('close' in token) {
      if (open.pop() === true) out += token.close.name === 'speak' ? '' : token.source
      else waiting.pop()
    }
    place += signsOf.length
  }
  return out.trim()
}

interface Wrapper {
  readonly name: string
  readonly attributes: Readonly<Record<string, string>>
  /** Equal wrappers that follow each other are one element. */
  readonly tag: string
}

function wrapper(name: string, attributes: Readonly<Record<string, string>>): Wrapper {
  return { name, attributes, tag: startTag({ name, attributes, content: [] }) }
}

/** How the embedded engine is asked to say some segments in the voice of a casting. */
export function writeRequest(casting: Casting, segments: readonly ToneSegment[]): WrittenRequest {
  const first = segments[0]!.tone
  const common = <K extends 'rate' | 'pitchSemitones'>(name: K, neutral: number): number => segments.every(segment => segment.tone[name] === first[name]) ? first[name] : neutral
  const [rate, pitchSemitones] = [common('rate', 1), common('pitchSemitones', 0)]
  const { content, ...places } = writeMarkup(segments, rate, pitchSemitones)
  const { engine, voice, voiceRevision } = casting
  const request = {
    engine, voice, voiceRevision, body: content,
    wordsPerMinute: rate === 1 ? casting.wordsPerMinute : within(capabilities.wordsPerMinute, casting.wordsPerMinute * rate),
    pitchSemitones: pitchSemitones === 0 ? casting.pitchSemitones : within(capabilities.pitchSemitones, casting.pitchSemitones + pitchSemitones),
  }
  const markup = sourceOf(root(content))
  return { request, key: hash([engine, voice, voiceRevision, request.wordsPerMinute, request.pitchSemitones, markup]), ...places }
}

/** `rate` and `pitchSemitones` are what all segments have in common: the request itself has it. */
function writeMarkup(segments: readonly ToneSegment[], rate: number, pitchSemitones: number): Pick<WrittenRequest, 'words' | 'stretches' | 'length'> & { readonly content: readonly MarkupNode[] } {
  const content: MarkupNode[] = []
  let place = lengthOf(startTag(root([])))
  const words: number[] = []
  const stretches: Stretch[] = [{ place: 0, restMs: 0, gainDb: segments[0]!.tone.gainDb }]
  /** Open elements, outermost first, and where their content goes. */
  let open: readonly Wrapper[] = []
  const into: MarkupNode[][] = [content]
  let spaced = true
  let saidPhoneme: string | null = null
  const put = (node: MarkupNode, length: number): void => {
    into.at(-1)!.push(node)
    place += length
  }
  const close = (count: number): void => {
    for (const element of open.slice(open.length - count)) {
      into.pop()
      place += endTag(element).length
    }
  }
  segments.forEach((segment, index) => {
    const { tone, gap } = segment
    const wanted = wrappers(tone, tone.rate / rate, tone.pitchSemitones - pitchSemitones)
    let same = 0
    while (same < open.length && same < wanted.length && open[same]!.tag === wanted[same]!.tag) same += 1
    close(open.length - same)
    if (gap !== undefined || index > 0 && tone.gainDb !== stretches.at(-1)!.gainDb) {
      stretches.push(stretchAt(place, segment))
      const mark: MarkupMark = { mark: gap === undefined ? 'level' : 'rest' }
      put(mark, markTag(mark).length)
    }
    for (const { name, attributes, tag } of wanted.slice(same)) {
      const inside: MarkupNode[] = []
      put({ name, attributes, content: inside }, lengthOf(tag))
      into.push(inside)
    }
    open = wanted
    if (tone.phoneme === null) {
      saidPhoneme = null
    } else {
      if (tone.phoneme.id === saidPhoneme) return
      saidPhoneme = tone.phoneme.id
    }
    let text = ''
    let word = 0
    let at = place
    const isPlain = !/[&<>"\u{10000}-\u{10ffff}]/u.test(segment.text)
    for (const { 0: piece, 1: space } of segment.text.matchAll(spacesAndWords)) {
      const isSpace = space !== undefined
      if (isSpace && spaced) continue
      if (!isSpace && word < segment.words.length) words.push(at, segment.words[word]!, segment.words[word + 1]!)
      if (!isSpace) word += 2
      text += isSpace ? ' ' : piece
      at += isSpace ? 1 : isPlain ? piece.length : lengthOf(escaped(piece))
      spaced = isSpace
    }
    if (text === '') return
    const before = into.at(-1)!.at(-1)
    if (typeof before === 'string') into.at(-1)!.pop()
    put(typeof before === 'string' ? before + text : text, at - place)
  })
  close(open.length)
  return { content, words, stretches, length: place + endTag(root([])).length }
}

function wrappers(tone: Tone, rate: number, semitones: number): Wrapper[] {
  const list: Wrapper[] = []
  if (tone.voice !== null) list.push(wrapper('voice', tone.voice))
  if (tone.language !== null) list.push(wrapper('lang', { 'xml:lang': tone.language, ...(tone.orUnspoken === true ? { onlangfailure: 'ignoretext' } : {}) }))
  const prosody = {
    ...(Math.round(rate * 100) === 100 ? {} : { rate: `${Math.round(rate * 100)}%` }),
    ...(Math.abs(semitones) < 0.005 ? {} : { pitch: `${semitones > 0 ? '+' : '-'}${Number(Math.abs(semitones).toFixed(2))}st` }),
    ...(Math.round(tone.range * 100) === 100 ? {} : { range: `${Math.round(tone.range * 100)}%` }),
  }
  if (Object.keys(prosody).length > 0) list.push(wrapper('prosody', prosody))
  if (tone.emphasis !== null) list.push(wrapper('emphasis', { level: tone.emphasis }))
  if (tone.phoneme !== null) list.push(wrapper('phoneme', { ph: tone.phoneme.ph }))
  else if (tone.characters) list.push(wrapper('say-as', { 'interpret-as': 'characters' }))
  return list
}
