import { withoutTail } from '../../tail'
import { canonicalContent, type Content, type Run } from '../content'
import { emphasisLevels, maximumDirectedRestMs, restStrengths, type Attributes, type Direction, type DirectionValue, type EmphasisLevel, type PointWords, type RestStrength } from '../directions'
import { partKinds, passageKinds, type PartKind, type PassageKind } from '../script'
import { headElements } from './elements'
import { attributeOf, attributeOffset, foreignAttributes, ownAttributes, type SsmlElement, type SsmlNode, type SsmlProblem } from './tree'
import { scriptNamespace } from './vocabulary'
import { isIpa, timeMs } from './values'

/** A passage as SSML has it. */
export interface SsmlPassage {
  readonly kind: PassageKind
  readonly content: Content
  readonly language?: string
  readonly role?: string
  /** The part that begins with it, when the document says so. */
  readonly part?: { readonly label: string, readonly kind: PartKind }
}

export interface ReadSsml {
  /** BCP 47; null when the document does not say. */
  readonly language: string | null
  readonly passages: readonly SsmlPassage[]
  /** What a script cannot hold, with its place: it is not kept. */
  readonly lost: readonly SsmlProblem[]
}

/**
 * The passages of a checked document. Elements that the script knows become directions; others stay as `kept` and
 * `keptPoint`. White space is as XML has it in text: a run of it is one space, and there is none at a passage's edges.
 */
export function readSsml(root: SsmlElement, source: string): ReadSsml {
  return new ScriptReader(root, source).read()
}

/** The content of a fragment that is one passage, or a piece of one; null when it holds several. */
export function readFragment(root: SsmlElement, source: string): { readonly content: Content, readonly lost: readonly SsmlProblem[] } | null {
  const { passages, lost } = readSsml(root, source)
  if (passages.length > 1) return null
  return { content: passages[0]?.content ?? { version: 2, runs: [], directions: [] }, lost }
}

interface OpenPassage {
  readonly about: Omit<SsmlPassage, 'content'>
  readonly runs: Run[]
  readonly directions: Direction[]
  /** Whether the last run ends with white space, or there is none yet. */
  spaced: boolean
  /** It is a `p` element, not text that stands by itself. */
  readonly isElement: boolean
}

class ScriptReader {
  readonly #passages: SsmlPassage[] = []
  readonly #lost: SsmlProblem[] = []
  /** The directions that are open, outermost first. */
  readonly #open: { readonly value: DirectionValue, id: string | null }[] = []
  #passage: OpenPassage | null = null
  /** What is asked for where no voice speaks a language: it holds for all that is inside (SSML 1.1, 3.1.13). */
  #onFailure: string | undefined = undefined
  /** Points that stand before the first passage. */
  #waiting: DirectionValue[] = []
  #count = 0

  constructor(readonly root: SsmlElement, readonly source: string) {}

  read(): ReadSsml {
    for (const { name, writtenName } of ownAttributes(this.root)) {
      if (!['version', 'xml:lang', 'onlangfailure'].includes(name)) this.#lose(this.root, writtenName)
    }
    this.#children(this.root)
    this.#end()
    const language = attributeOf(this.root, 'xml:lang') ?? ''
    return { language: language === '' ? null : language, passages: this.#passages, lost: this.#lost }
  }

  #lose(element: SsmlElement, attribute: string): void {
    this.#lost.push({
      severity: 'warning', code: 'ssml-not-kept', offset: attributeOffset(this.source, element, attribute),
      message: `The script has no place for ${attribute} of <${element.writtenName}>: it is not kept.`,
    })
  }

  #children(element: SsmlElement): void {
    const outer = this.#onFailure
    this.#onFailure = this.#failureIn(element)
    for (const child of element.children) this.#node(child)
    this.#onFailure = outer
  }

  #failureIn(element: SsmlElement): string | undefined {
    return attributeOf(element, 'onlangfailure') ?? this.#onFailure
  }

  /** The language of an element, with what holds where no voice speaks it. */
  #languageOf(element: SsmlElement, language: string): DirectionValue {
    const failure = this.#failureIn(element)
    return { kind: 'language', language, ...(failure === undefined ? {} : { onlangfailure: failure }) }
  }

  #node(node: SsmlNode): void {
    if (node.type === 'text') this.#text(node.text)
    else if (node.type === 'aside') this.#point({ kind: 'keptPoint', xml: node.xml })
    else this.#element(node)
  }

  #begin(about: Omit<SsmlPassage, 'content'>, isElement: boolean): OpenPassage {
    const passage: OpenPassage = { about, runs: [], directions: [], spaced: true, isElement }
    this.#passage = passage
    for (const each of this.#open) each.id = null
    for (const value of this.#waiting.splice(0)) this.#point(value)
    return passage
  }

  #end(): void {
    const passage = this.#passage
    this.#passage = null
    if (passage === null) return
    const content = canonicalContent({ version: 2, runs: trimmed(passage.runs), directions: passage.directions })
    if (!passage.isElement && !content.runs.some(run => run.text !== '')) {
      // Points between paragraphs belong to the end of the one before.
      const values = content.directions.map(direction => withoutId(direction))
      const last = this.#passages.at(-1)
      if (last === undefined) this.#waiting.push(...values)
      else this.#passages[this.#passages.length - 1] = { ...last, content: withPoints(last.content, values, () => this.#nextId()) }
      return
    }
    this.#passages.push({ ...passage.about, content })
  }

  #nextId(): string {
    this.#count += 1
    return `d${String(this.#count).padStart(4, '0')}`
  }

  /** Ids of the open directions in this passage. */
  #on(passage: OpenPassage): string[] {
    return this.#open.map(each => {
      if (each.id === null) {
        each.id = this.#nextId()
        passage.directions.push({ id: each.id, ...each.value })
      }
      return each.id
    })
  }

  #text(text: string): void {
    const collapsed = text.replace(/[ \t\r\n]+/gu, ' ')
    if (this.#passage === null) {
      if (collapsed === ' ' || collapsed === '') return
      this.#begin({ kind: 'paragraph' }, false)
    }
    const passage = this.#passage!
    const kept = passage.spaced && collapsed.startsWith(' ') ? collapsed.slice(1) : collapsed
    if (kept === '') return
    passage.runs.push({ text: kept, on: this.#on(passage) })
    passage.spaced = kept.endsWith(' ')
  }

  #point(value: DirectionValue): void {
    const passage = this.#passage ?? this.#begin({ kind: 'paragraph' }, false)
    const on = this.#on(passage)
    const id = this.#nextId()
    passage.directions.push({ id, ...value })
    passage.runs.push({ text: '', on, point: id })
  }

  #span(value: DirectionValue, element: SsmlElement): void {
    this.#open.push({ value, id: null })
    this.#children(element)
    this.#open.pop()
  }

  #element(element: SsmlElement): void {
    if (element.namespace === scriptNamespace && element.name === 'left-out') return this.#span({ kind: 'leftOut' }, element)
    if (element.namespace !== this.root.namespace) return this.#keep(element)
    if (element.name === 'p') return this.#paragraph(element)
    const value = element.name === 'lang' ? this.#languageOf(element, attributeOf(element, 'xml:lang') ?? '') : directionOf(element, this.source)
    if (/^(?:s|w|token)$/u.test(element.name)) {
      // Sentences are parted, whether or not there is white space between their elements.
      if (element.name === 's') this.#text(' ')
      this.#keepInItsLanguage(element)
      if (element.name === 's') this.#text(' ')
      return
    }
    if (value === null) return this.#keep(element)
    if (value.kind !== 'rest' && value.kind !== 'sound' && isEmpty(element)) return this.#keep(element, saysOf(value))
    const foreign = foreignAttributes(element).filter(attribute => !(attribute.namespace === scriptNamespace && element.name === 'voice'))
    for (const { writtenName } of foreign) this.#lose(element, writtenName)
    if (value.kind === 'rest' || value.kind === 'sound') this.#point(value)
    else this.#span(value, element)
  }

  /** A sentence or a word; where it has a language of its own, that is a direction around the element. */
  #keepInItsLanguage(element: SsmlElement): void {
    const language = attributeOf(element, 'xml:lang')
    if (language === undefined) return this.#keep(element)
    this.#open.push({ value: this.#languageOf(element, language), id: null })
    this.#keep({ ...element, attributes: element.attributes.filter(({ name }) => name !== 'xml:lang' && name !== 'onlangfailure') })
    this.#open.pop()
  }

  #paragraph(element: SsmlElement): void {
    this.#end()
    const script = (name: string): string | undefined => element.attributes.find(attribute => attribute.namespace === scriptNamespace && attribute.writtenName.endsWith(`:${name}`))?.value
    const language = attributeOf(element, 'xml:lang')
    for (const { name, writtenName } of ownAttributes(element)) if (name !== 'xml:lang' && name !== 'onlangfailure') this.#lose(element, writtenName)
    for (const { namespace, writtenName } of foreignAttributes(element)) if (namespace !== scriptNamespace) this.#lose(element, writtenName)
    const role = script('role')
    const part = script('part')
    this.#begin({
      kind: among(passageKinds, script('kind')) ?? 'paragraph',
      ...(language === undefined || language === '' ? {} : { language }),
      ...(role === undefined ? {} : { role }),
      ...(part === undefined ? {} : { part: { label: part, kind: among(partKinds, script('part-kind')) ?? 'chapter' } }),
    }, true)
    // A passage has a language and nothing that is asked for where no voice speaks it: that stands on a direction in it.
    const isAsked = language !== undefined && language !== '' && language !== attributeOf(this.root, 'xml:lang') && this.#failureIn(element) !== undefined
    if (isAsked) this.#span(this.#languageOf(element, language), element)
    else this.#children(element)
    this.#end()
  }

  /** An element that the script does not know: around its text when it has any, as it is written when not. */
  #keep(element: SsmlElement, says?: PointWords): void {
    const speaks = !headElements.has(element.name) && holdsText(element)
    const attributes: Record<string, string> = Object.fromEntries(element.attributes.map(({ writtenName, value }) => [writtenName, value]))
    const prefixes = new Set([element.writtenName, ...element.attributes.map(attribute => attribute.writtenName)].flatMap(name => /^(?!xml(?:ns)?:)([^:]+):/u.exec(name)?.[1] ?? []))
    const declared: [string, string][] = []
    for (const prefix of prefixes) {
      const uri = element.writtenName.startsWith(`${prefix}:`) ? element.namespace : element.attributes.find(attribute => attribute.writtenName.startsWith(`${prefix}:`))!.namespace
      if (!(`xmlns:${prefix}` in attributes)) declared.push([`xmlns:${prefix}`, uri])
    }
    if (speaks) return this.#span({ kind: 'kept', element: element.writtenName, attributes: { ...attributes, ...Object.fromEntries(declared) } }, element)
    const xml = this.source.slice(element.start, element.end)
    const name = `<${element.writtenName}`
    this.#point({ kind: 'keptPoint', xml: name + declared.map(([key, uri]) => ` ${key}="${uri}"`).join('') + xml.slice(name.length), ...(says === undefined ? {} : { says }) })
  }
}

/** Nothing stands in it, and white space alone. */
function isEmpty(element: SsmlElement): boolean {
  return element.children.every(child => child.type === 'text' && !/[^ \t\r\n]/u.test(child.text))
}

/** What an element says although nothing stands in it (SSML 1.1, 3.1.10, 3.1.11). */
function saysOf(value: DirectionValue): PointWords | undefined {
  if (value.kind === 'substitute') return { alias: value.alias }
  return value.kind === 'phoneme' && isIpa(value.alphabet) ? { ph: value.ph } : undefined
}

function holdsText(element: SsmlElement): boolean {
  return element.children.some(child => child.type === 'element' ? holdsText(child) : child.type === 'text' && /[^ \t\r\n]/u.test(child.text))
}

/** The direction that an element of SSML is; null for one that the script does not know. */
export function directionOf(element: SsmlElement, source: string): DirectionValue | null {
  const own = new Map(ownAttributes(element).map(({ name, value }) => [name, value]))
  const optional = <const N extends string>(...names: N[]): Partial<Record<N, string>> =>
    Object.fromEntries(names.flatMap(name => own.has(name) ? [[name, own.get(name)!]] : [])) as Partial<Record<N, string>>
  const rest = (...names: string[]): Attributes => Object.fromEntries([...own].filter(([name]) => !names.includes(name)))
  switch (element.name) {
    case 'break': {
      const ms = timeMs(own.get('time') ?? '')
      if (ms !== null) return { kind: 'rest', ms: Math.min(maximumDirectedRestMs, Math.round(ms)) }
      // Without attributes a break is of medium strength (3.2.3).
      return { kind: 'rest', strength: among(restStrengths, own.get('strength')) ?? ('medium' satisfies RestStrength) }
    }
    case 'emphasis': return { kind: 'emphasis', level: among(emphasisLevels, own.get('level')) ?? ('moderate' satisfies EmphasisLevel) }
    case 'say-as': return { kind: 'sayAs', interpretAs: own.get('interpret-as') ?? '', ...optional('format', 'detail') }
    case 'sub': return (own.get('alias') ?? '').trim() === '' ? { kind: 'leftOut' } : { kind: 'substitute', alias: own.get('alias')! }
    case 'phoneme': return { kind: 'phoneme', ph: own.get('ph') ?? '', ...optional('alphabet', 'type') }
    case 'prosody': return { kind: 'prosody', ...optional('rate', 'pitch', 'range', 'volume', 'contour', 'duration') }
    case 'lang': return { kind: 'language', language: own.get('xml:lang') ?? '', ...optional('onlangfailure') }
    case 'voice': {
      const role = element.attributes.find(attribute => attribute.namespace === scriptNamespace && attribute.writtenName.endsWith(':role'))?.value
      return role === undefined ? { kind: 'voice', attributes: rest() } : { kind: 'role', role }
    }
    case 'audio': {
      const inner = source.slice(element.contentStart, element.contentEnd).trim()
      const attributes = rest('src')
      return { kind: 'sound', sound: own.get('src') ?? '', ...(Object.keys(attributes).length === 0 ? {} : { attributes }), ...(inner === '' ? {} : { inner }) }
    }
    default: return null
  }
}

function among<const T extends string>(values: readonly T[], value: string | undefined): T | undefined {
  return values.find(each => each === value)
}

function withoutId(direction: Direction): DirectionValue {
  const { id: _, ...value } = direction
  return value as DirectionValue
}

function withPoints(content: Content, values: readonly DirectionValue[], nextId: () => string): Content {
  const points = values.map((value): Direction => ({ id: nextId(), ...value }))
  return canonicalContent({
    version: 2, runs: [...content.runs, ...points.map((point): Run => ({ text: '', on: [], point: point.id }))], directions: [...content.directions, ...points],
  })
}

/** Without white space at the end; there is none at the beginning. */
function trimmed(runs: readonly Run[]): Run[] {
  const last = runs.findLastIndex(run => run.text.trim() !== '')
  return runs.map((run, index) => index < last || run.point !== undefined ? run : { ...run, text: withoutTail(run.text, /[ \t\r\n]/u) })
}

/** A content as SSML gives it back: white space as `readSsml` has it, and what says nothing to the voice in its one form. */
export function spacedLikeSsml(content: Content): Content {
  const { runs, directions } = canonicalContent(content)
  let spaced = true
  const collapsed = runs.map((run): Run => {
    if (run.point !== undefined) return run
    const text = run.text.replace(/[ \t\r\n]+/gu, ' ')
    const kept = spaced && text.startsWith(' ') ? text.slice(1) : text
    if (kept !== '') spaced = kept.endsWith(' ')
    return { ...run, text: kept }
  })
  return canonicalContent({ version: 2, runs: trimmed(collapsed), directions })
}
