import { canonicalContent, type Content } from '../content'
import { directionRules, type Direction, type DirectionOf } from '../directions'
import type { Part, Passage, PassageKind } from '../script'
import { ssmlNamespace } from './elements'
import { scriptNamespace, scriptPrefix } from './vocabulary'

// SSML of a script, in the one form that `docs/formats.md` calls canonical.

type Pairs = readonly (readonly [name: string, value: string | undefined])[]

export interface SsmlDocument {
  /** BCP 47 */
  readonly language: string
  readonly parts: readonly Pick<Part, 'kind' | 'label' | 'passages'>[]
}

/** A whole document; each part's first passage names the part. `isPart` leaves that out: it is one part, or a piece of one. */
export function writeSsml({ language, parts }: SsmlDocument, { isPart = false }: { readonly isPart?: boolean } = {}): string {
  const heads: string[] = []
  const body = parts.flatMap(part => part.passages.map((passage, index) => {
    const content = withoutHead(passage.content, heads)
    const about: Pairs = isPart || index > 0 ? [] : [[`${scriptPrefix}:part`, part.label], [`${scriptPrefix}:part-kind`, part.kind === 'chapter' ? undefined : part.kind]]
    return `  ${writePassage({ ...passage, content }, about)}\n`
  })).join('')
  const uses = body.includes(`${scriptPrefix}:`)
  const root = tag('speak', [['version', '1.1'], ['xmlns', ssmlNamespace], [`xmlns:${scriptPrefix}`, uses ? scriptNamespace : undefined], ['xml:lang', language]])
  return `<?xml version="1.0" encoding="UTF-8"?>\n${root}\n${heads.map(head => `  ${head}\n`).join('')}${body}</speak>\n`
}

/** One passage as a `p` element. */
export function writePassage(passage: Pick<Passage, 'content' | 'language' | 'role'> & { readonly kind: PassageKind }, more: Pairs = []): string {
  return `${tag('p', [
    [`${scriptPrefix}:kind`, passage.kind === 'paragraph' ? undefined : passage.kind], [`${scriptPrefix}:role`, passage.role], ...more, ['xml:lang', passage.language],
  ])}${writeContent(passage.content)}</p>`
}

/** The text of a passage with its directions as elements. */
export function writeContent(content: Content): string {
  const { runs, directions } = canonicalContent(content)
  const byId = new Map(directions.map(direction => [direction.id, direction]))
  const holding = new Set(runs.flatMap(run => run.on.slice(0, -1).concat(run.point === undefined ? [] : run.on)))
  const elements = new Map(directions.filter(direction => !directionRules[direction.kind].point).map(direction => [direction.id, elementOf(direction, holding.has(direction.id))]))
  const open: string[] = []
  let xml = ''
  const close = (to: number): void => { while (open.length > to) xml += `</${elements.get(open.pop()!)![0]}>` }
  for (const run of runs) {
    let same = 0
    while (same < open.length && open[same] === run.on[same]) same += 1
    close(same)
    for (const id of run.on.slice(same)) {
      xml += tag(...elements.get(id)!)
      open.push(id)
    }
    xml += run.point === undefined ? escapeText(run.text) : pointXml(byId.get(run.point)!)
  }
  close(0)
  return xml
}

/** Name and attributes of the element that a direction on a span is. */
function elementOf(direction: Direction, holdsElements: boolean): [name: string, attributes: Pairs] {
  switch (direction.kind) {
    case 'leftOut': return holdsElements ? [`${scriptPrefix}:left-out`, []] : ['sub', [['alias', '']]]
    case 'emphasis': return ['emphasis', [['level', direction.level]]]
    case 'sayAs': return ['say-as', [['interpret-as', direction.interpretAs], ['format', direction.format], ['detail', direction.detail]]]
    case 'substitute': return ['sub', [['alias', direction.alias]]]
    case 'phoneme': return ['phoneme', [['alphabet', direction.alphabet], ['type', direction.type], ['ph', direction.ph]]]
    case 'prosody': return ['prosody', (['rate', 'pitch', 'range', 'volume', 'contour', 'duration'] as const).map(name => [name, direction[name]] as const)]
    case 'language': return ['lang', [['xml:lang', direction.language], ['onlangfailure', direction.onlangfailure]]]
    case 'role': return ['voice', [[`${scriptPrefix}:role`, direction.role]]]
    case 'voice': return ['voice', Object.entries(direction.attributes).sort(byName)]
    case 'kept': return [direction.element, Object.entries(direction.attributes).sort(byName)]
    default: throw new Error(`A ${direction.kind} stands at a point.`)
  }
}

function pointXml(direction: Direction): string {
  switch (direction.kind) {
    case 'rest': return tag('break', 'ms' in direction ? [['time', `${direction.ms}ms`]] : [['strength', direction.strength]], true)
    case 'sound': return soundXml(direction)
    case 'keptPoint': return direction.xml
    default: throw new Error(`A ${direction.kind} covers a span.`)
  }
}

function soundXml({ sound, attributes = {}, inner = '' }: DirectionOf<'sound'>): string {
  const open: Pairs = [['src', sound], ...Object.entries(attributes).sort(byName)]
  return inner === '' ? tag('audio', open, true) : `${tag('audio', open)}${inner}</audio>`
}

const headStart = /^<(?:meta|metadata|lexicon)[\s/>]/u

/** Elements that stand before all text in a document go to its head. */
function withoutHead(content: Content, heads: string[]): Content {
  const points = new Map(content.directions.map(direction => [direction.id, direction]))
  const runs = content.runs.filter(run => {
    const point = run.point === undefined ? undefined : points.get(run.point)
    const isHead = point?.kind === 'keptPoint' && headStart.test(point.xml)
    if (isHead) heads.push(point.xml)
    return !isHead
  })
  return runs.length === content.runs.length ? content : { ...content, runs }
}

function byName([a]: readonly [string, string], [b]: readonly [string, string]): number {
  return a < b ? -1 : 1
}

function tag(name: string, attributes: Pairs, isEmpty = false): string {
  const written = attributes.filter(([, value]) => value !== undefined).map(([key, value]) => ` ${key}="${escapeAttribute(value!)}"`).join('')
  return `<${name}${written}${isEmpty ? '/>' : '>'}`
}

export function escapeText(text: string): string {
  return text.replace(/&/gu, '&amp;').replace(/</gu, '&lt;').replace(/>/gu, '&gt;').replace(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '')
}

function escapeAttribute(text: string): string {
  return escapeText(text).replace(/"/gu, '&quot;').replace(/\t/gu, '&#9;').replace(/\n/gu, '&#10;').replace(/\r/gu, '&#13;')
}
