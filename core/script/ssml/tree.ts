import { SaxesParser, type SaxesTagNS } from 'saxes'

/** An XML document as a tree, with the places of everything in its source (UTF-16 units from 0). */
export interface SsmlElement {
  readonly type: 'element'
  /** Without prefix. */
  readonly name: string
  /** As it is written. */
  readonly writtenName: string
  readonly namespace: string
  readonly attributes: readonly SsmlAttribute[]
  readonly children: SsmlNode[]
  readonly start: number
  /** Behind its start tag. */
  readonly contentStart: number
  contentEnd: number
  end: number
}

export interface SsmlAttribute {
  readonly name: string
  readonly writtenName: string
  /** Of the attribute itself: empty without a prefix. */
  readonly namespace: string
  readonly value: string
}

export interface SsmlText {
  readonly type: 'text'
  readonly text: string
  readonly start: number
}

/** A comment or processing instruction, as it is written. */
export interface SsmlAside {
  readonly type: 'aside'
  readonly xml: string
  readonly start: number
}

export type SsmlNode = SsmlElement | SsmlText | SsmlAside

/** A fault in the source. `note` is what was passed over on purpose. */
export interface SsmlProblem {
  readonly severity: 'error' | 'warning' | 'note'
  readonly code: string
  readonly message: string
  /** UTF-16 units from 0. */
  readonly offset: number
}

export interface ParsedXml {
  /** Null when the source is not well formed. */
  readonly root: SsmlElement | null
  readonly problems: readonly SsmlProblem[]
}

const maximumDepth = 256
const xmlNamespace = 'http://www.w3.org/XML/1998/namespace'
const xmlnsNamespace = 'http://www.w3.org/2000/xmlns/'

class Stop extends Error {}

/** Parses XML without ever expanding an entity of its own. The first fault in its form ends it. */
export function parseXmlTree(source: string): ParsedXml {
  const parser = new SaxesParser({ xmlns: true, position: true })
  const problems: SsmlProblem[] = []
  const open: SsmlElement[] = []
  let root: SsmlElement | null = null
  const stop = (code: string, message: string, offset: number): never => {
    problems.push({ severity: 'error', code, message, offset })
    throw new Stop()
  }
  const add = (node: SsmlNode): void => { open.at(-1)?.children.push(node) }
  const tagStart = (): number => source.lastIndexOf('<', parser.position - 1)

  parser.on('doctype', doctype => {
    const offset = source.lastIndexOf('<!DOCTYPE', parser.position)
    if (doctype.includes('[')) stop('ssml-subset', 'A document type with declarations of its own is refused: nothing is read that could expand. Take the <!DOCTYPE …> line out.', offset)
    problems.push({ severity: 'note', code: 'ssml-doctype', message: 'The document type is passed over: nothing is fetched, and the elements are checked against SSML 1.1 all the same.', offset })
  })
  parser.on('opentag', tag => {
    if (open.length >= maximumDepth) stop('ssml-depth', `Elements are nested more than ${maximumDepth} deep. Write it flatter.`, tagStart())
    const element: SsmlElement = {
      type: 'element', name: tag.local, writtenName: tag.name, namespace: tag.uri, attributes: attributesOf(tag), children: [],
      start: tagStart(), contentStart: parser.position, contentEnd: parser.position, end: parser.position,
    }
    if (open.length === 0) root = element
    add(element)
    open.push(element)
  })
  parser.on('closetag', tag => {
    const element = open.pop()!
    if (!tag.isSelfClosing) Object.assign(element, { contentEnd: tagStart(), end: parser.position })
  })
  const text = (value: string, end: number): void => {
    const last = open.at(-1)?.children.at(-1)
    if (last?.type === 'text') open.at(-1)!.children[open.at(-1)!.children.length - 1] = { ...last, text: last.text + value }
    else add({ type: 'text', text: value, start: last === undefined ? open.at(-1)?.contentStart ?? 0 : 'end' in last ? last.end : last.type === 'aside' ? last.start + last.xml.length : end })
  }
  parser.on('text', value => text(value, parser.position))
  parser.on('cdata', value => text(value, parser.position))
  parser.on('comment', value => add({ type: 'aside', xml: `<!--${value}-->`, start: tagStart() }))
  parser.on('processinginstruction', ({ target, body }) => add({ type: 'aside', xml: `<?${target}${body === '' ? '' : ` ${body}`}?>`, start: tagStart() }))
  parser.on('error', error => {
    // An ampersand by itself is taken for the beginning of a reference, and the fault is found where that does not end.
    const bare = ampersandIn(source.slice(0, parser.position))
    if (bare !== null) stop('ssml-ampersand', '“&” by itself is no text in XML. Write &amp; for it.', bare)
    stop('ssml-syntax', `${sentence(error.message.replace(/^\d+:\d+: /u, ''))} Correct it here, or just before.`, Math.max(0, Math.min(source.length, parser.position - 1)))
  })
  try {
    parser.write(source).close()
  } catch (error) {
    if (!(error instanceof Stop)) throw error
    root = null
  }
  return { root, problems }
}

/** The first ampersand of a text that begins no reference, outside of comments and CDATA; null where there is none. */
function ampersandIn(text: string): number | null {
  const bare = /<!--[\s\S]*?(?:-->|$)|<!\[CDATA\[[\s\S]*?(?:\]\]>|$)|&(?!(?:[a-z_][\w.-]{0,60}|#\d{1,8}|#x[\da-f]{1,6});)/giu
  for (const { 0: found, index } of text.matchAll(bare)) if (found === '&') return index
  return null
}

function sentence(text: string): string {
  const whole = `${text.charAt(0).toUpperCase()}${text.slice(1)}`
  return /[.!?]$/u.test(whole) ? whole : `${whole}.`
}

function attributesOf(tag: SaxesTagNS): SsmlAttribute[] {
  return Object.values(tag.attributes).map(({ name, local, uri, value }) => ({ name: uri === xmlNamespace ? `xml:${local}` : local, writtenName: name, namespace: uri, value }))
}

/** Attributes of an element that belong to SSML: its own and those of XML. */
export function ownAttributes(element: SsmlElement): SsmlAttribute[] {
  return element.attributes.filter(attribute => attribute.namespace === '' && attribute.writtenName !== 'xmlns' || attribute.namespace === xmlNamespace)
}

/** Attributes of other namespaces; declarations of namespaces are none. */
export function foreignAttributes(element: SsmlElement): SsmlAttribute[] {
  return element.attributes.filter(({ namespace, writtenName }) => namespace !== '' && namespace !== xmlNamespace && namespace !== xmlnsNamespace && writtenName !== 'xmlns')
}

/** The value of an attribute; undefined where there is none. */
export function attributeOf(element: SsmlElement, name: string): string | undefined {
  return element.attributes.find(attribute => attribute.name === name)?.value
}

/** Where an attribute stands in the source; the element's start when it is not there. */
export function attributeOffset(source: string, element: SsmlElement, writtenName: string): number {
  const tag = source.slice(element.start, element.contentStart)
  for (const match of tag.matchAll(/\s([^\s=/>]+)\s*=\s*(?:"[^"]*"|'[^']*')/gu)) {
    if (match[1] === writtenName) return element.start + match.index + 1
  }
  return element.start
}

/** Lines of a source, to turn offsets into places. */
export class LineMap {
  readonly #starts: number[] = [0]

  constructor(readonly source: string) {
    for (const match of source.matchAll(/\r\n|\r|\n/gu)) this.#starts.push(match.index + match[0].length)
  }

  /** Line and column, both from 1; a column counts characters, not UTF-16 units. */
  place(offset: number): { line: number, column: number } {
    let low = 0
    let high = this.#starts.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if (this.#starts[middle]! <= offset) low = middle
      else high = middle - 1
    }
    return { line: low + 1, column: [...this.source.slice(this.#starts[low]!, offset)].length + 1 }
  }
}
