import { sayAsKind, sayAsWords } from '../language/say-as'
import { foreignRuns } from '../language/scripts'
import { sentenceSpans, trimSpan, type TextSpan } from '../language/sentences'
import { writtenText, type Content } from '../script/content'
import { isWordElement, type Direction, type DirectionOf } from '../script/directions'
import { noRules, type HitOff, type RuleSet, type RuleSubject } from '../style/rule'
import { applyRules } from './apply-rules'
import { isSentencePoint, partedAt, pointSegment, sentencePoint, textSegment, type Cause, type Segment, type Step } from './segments'
import type { WordFinder, WordHit } from '../words/find-words'

/**
 * One step of the map between what is written and what is spoken, in order. Together the groups cover
 * the spoken text; written text that is in no group is not spoken. Groups that follow each other can have one written span.
 */
export interface Group {
  readonly written: readonly [start: number, end: number]
  readonly spoken: readonly [start: number, end: number]
  /** Its spoken text is another than the written, or is said as a whole: the two go together as wholes only. */
  readonly replaced?: true
  /** What made it so, in order. */
  readonly by?: readonly Cause[]
}

export interface SpokenForm {
  readonly text: string
  readonly groups: readonly Group[]
  /** What is on the spoken text, outermost first. What is left out or replaced has done its work and is not among them. */
  readonly spans: readonly SpokenSpan[]
  /** Rests and sounds, as they stand. */
  readonly points: readonly SpokenPoint[]
  /** Its sentences: those of the text that the rules were given. */
  readonly sentences: readonly TextSpan[]
  /** All that directions, wordbooks and rules did, in the order in which they did it. */
  readonly steps: readonly Step[]
  /** What rules have made: the wordbooks are asked about each by itself. */
  readonly made: readonly MadeText[]
}

export interface SpokenSpan {
  readonly direction: Direction
  readonly start: number
  end: number
}

export interface SpokenPoint {
  readonly direction: Direction
  readonly at: number
  readonly writtenAt: number
  /** A rule has put it there: a rest that a direction asks for counts before it. */
  readonly ruled?: true
}

/** What a text is spoken by, besides its own directions. */
export interface SpokenBy {
  readonly findWords?: WordFinder
  readonly rules?: RuleSet
  /** What the rules ask about the passage. */
  readonly subject?: RuleSubject
  /** Hits of rules that are switched off. */
  readonly off?: readonly HitOff[]
}

/** Characters an engine must never see, or that carry no sound: controls, soft hyphens, joiners at word ends. */
const unspeakable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u00ad\u200b\u2060\ufeff\ufff9-\uffff]/gu

/**
 * The spoken form of a passage: what is left out removed, what is substituted or said as something in its words,
 * unspeakable characters dropped; the written text untouched. Words of `sayAs` are those of the passage's language (BCP 47)
 * or of the language set around it; where there are none, the text is spoken as it is written. What no direction decides the
 * wordbooks do, and what they leave open the rules of the house style, in order; words that a rule has made are looked up in the wordbooks again.
 */
export function spokenForm(content: Content, language: string, { findWords = () => [], rules = noRules, subject = { kind: 'paragraph' }, off = [] }: SpokenBy = {}): SpokenForm {
  const steps: Step[] = []
  const settled = settledSegments(content, language, findWords, steps)
  if (rules.rules.length === 0) {
    const form = laidOut(settled)
    return { ...form, sentences: sentenceSpans(form.text, language), steps, made: [] }
  }
  const ruled = applyRules(withSentences(settled, language), rules, subject, off, steps)
  const made = ruled.filter(isMade).map(({ text, language: own }): MadeText => ({ text, language: own }))
  const form = laidOut(lookUpAgain(ruled, findWords, steps))
  return { ...form, points: form.points.filter(point => !isSentencePoint(point)), sentences: betweenPoints(form), steps, made }
}

/** The segments with a point before each sentence but the first. */
function withSentences(segments: readonly Segment[], language: string): Segment[] {
  const starts = sentenceSpans(segments.map(({ text }) => text).join(''), language).slice(1).map(({ start }) => start)
  const result: Segment[] = []
  let offset = 0
  let next = 0
  for (const segment of segments) {
    const end = offset + segment.text.length
    let rest = segment
    while (next < starts.length && starts[next]! < end) {
      const at = starts[next]!
      next += 1
      const length = at - (end - rest.text.length)
      // What is spoken in place of something else is not parted: a sentence that begins within it begins with it.
      const [left, right] = length === 0 || segment.replaced ? [null, rest] : partedAt(rest, length)
      if (left !== null) result.push(left)
      result.push(sentencePoint(right.written[0]))
      rest = right
    }
    result.push(rest)
    offset = end
  }
  return result
}

function betweenPoints({ text, points }: Pick<SpokenForm, 'text' | 'points'>): TextSpan[] {
  const starts = [0, ...points.filter(isSentencePoint).map(({ at }) => at)]
  return starts.map((start, index) => trimSpan(text, { start, end: starts[index + 1] ?? text.length })).filter(({ start, end }) => end > start)
}

/** A text that rules have made. */
export interface MadeText {
  readonly text: string
  /** BCP 47 */
  readonly language: string
}

function isMade(segment: Segment): boolean {
  return segment.replaced && !segment.settled && segment.text !== ''
}

/** What is spoken before any rule: the text in pieces, those on which a direction or a wordbook has decided settled. */
function settledSegments(content: Content, language: string, findWords: WordFinder, steps: Step[]): Segment[] {
  const byId = new Map(content.directions.map(direction => [direction.id, direction]))
  const segments: Segment[] = []
  const whole = writtenText(content)
  let written = 0
  /** The direction whose words have been spoken: all of its text is done with. */
  let replacing: string | null = null

  content.runs.forEach((run, index) => {
    const on = run.on.map(id => byId.get(id)!)
    const start = written
    written += run.text.length
    if (run.point !== undefined) {
      const direction = byId.get(run.point)!
      const isSaid = direction.kind === 'keptPoint' && direction.says !== undefined && !on.some(({ kind }) => kind === 'leftOut')
      segments.push(...isSaid ? saidAtPoint(direction, whole, textSegment([start, start], '', languageAt(on, language), index, on), steps) : [pointSegment(direction, start)])
      return
    }
    if (on.some(direction => direction.kind === 'leftOut')) return
    const wording = on.find(direction => direction.kind === 'substitute' || direction.kind === 'sayAs')
    if (wording !== undefined && wording.id === replacing) return
    replacing = null
    const own = languageAt(on, language)
    const covered = wording === undefined ? '' : coveredBy(content, wording.id)
    const words = wording === undefined ? null : wordsOf(wording, covered, own)
    if (words !== null) {
      replacing = wording!.id
      const by = { direction: wording!.id }
      const end = start + covered.length
      steps.push({ by, written: [start, end], from: covered, to: words })
      segments.push({ ...textSegment([start, end], words, own, index, on.filter(direction => direction !== wording)), replaced: true, settled: true, by: [by] })
      return
    }
    const isSaid = wording !== undefined || on.some(direction => direction.kind === 'phoneme')
    /** Text without the characters that cannot be spoken. */
    const addPlain = (from: number, to: number): void => {
      let at = from
      for (const match of [...whole.slice(from, to).matchAll(unspeakable), { index: to - from, 0: '' }]) {
        if (from + match.index > at) segments.push(...inOwnScripts({ ...textSegment([at, from + match.index], whole.slice(at, from + match.index), own, index, on), settled: isSaid }))
        at = from + match.index + match[0].length
      }
    }
    let at = start
    for (const hit of isSaid ? [] : findWords(whole, start, written, own, roleAt(on))) {
      addPlain(at, hit.start)
      segments.push(...said(hit, whole.slice(hit.start, hit.end), textSegment([hit.start, hit.end], '', own, index, on), steps))
      at = hit.end
    }
    addPlain(at, written)
  })
  return segments
}

/** A piece of text, its words in another script in the language of that script: no voice reads the letters of all. */
function inOwnScripts(segment: Segment): Segment[] {
  if (segment.settled) return [segment]
  const pieces: Segment[] = []
  let rest = segment
  let at = 0
  for (const { start, end, language } of foreignRuns(segment.text, segment.language)) {
    const [before, behind] = partedAt(rest, start - at)
    const [words, after] = partedAt(behind, end - start)
    if (before.text !== '') pieces.push(before)
    pieces.push({ ...words, language, on: [...words.on, { id: `script ${words.written[0]}`, kind: 'language', language }] })
    rest = after
    at = end
  }
  return rest.text === '' ? pieces : [...pieces, rest]
}

/** What an element without text says: other words, or sounds; apart from the words beside it. */
function saidAtPoint({ id, says }: DirectionOf<'keptPoint'> & Direction, whole: string, base: Segment, steps: Step[]): Segment[] {
  const words = (says !== undefined && 'alias' in says ? says.alias : says?.ph ?? '').replace(unspeakable, '')
  const [at] = base.written
  const by = { direction: id }
  const said: Segment = { ...base, replaced: true, settled: true, by: [by] }
  const space: readonly Segment[] = [{ ...said, text: ' ' }]
  steps.push({ by, written: base.written, from: '', to: words })
  const on = says !== undefined && 'ph' in says ? [...base.on, { id: `says ${id}`, kind: 'phoneme' as const, ph: says.ph }] : base.on
  return [.../\S$/u.test(whole.slice(0, at)) ? space : [], { ...said, text: words, on }, .../^[\p{L}\p{N}]/u.test(whole.slice(at)) ? space : []]
}

/** What a wordbook has a word said as; of other words, each that an entry speaks for by itself. */
function said(hit: WordHit, written: string, base: Segment, steps: Step[]): Segment[] {
  const by = { word: hit.entry }
  const text = 'words' in hit.said ? hit.said.words.replace(unspeakable, '') : written.replace(unspeakable, '')
  const id = `word ${hit.entry} ${base.written[0]} ${steps.length}`
  const direction: Direction | null = 'words' in hit.said ? null : 'ph' in hit.said ? { id, kind: 'phoneme', ph: hit.said.ph } : { id, kind: 'sayAs', interpretAs: 'characters' }
  steps.push({ by, written: base.written, from: written, to: text, ...(direction === null ? {} : { on: [direction] }) })
  const whole: Segment = { ...base, text, replaced: true, settled: true, by: [...base.by, by], on: direction === null ? base.on : [...base.on, direction] }
  return 'words' in hit.said && hit.said.within !== undefined ? saidWithin(hit.said.words, hit.said.within, whole, steps) : [whole]
}

/** A segment in pieces where entries of the wordbooks speak for its words. */
function saidWithin(text: string, hits: readonly WordHit[], whole: Segment, steps: Step[]): Segment[] {
  const pieces: Segment[] = []
  let at = 0
  for (const hit of hits) {
    if (hit.start > at) pieces.push({ ...whole, text: text.slice(at, hit.start).replace(unspeakable, '') })
    pieces.push(...said(hit, text.slice(hit.start, hit.end), whole, steps))
    at = hit.end
  }
  return at === text.length ? pieces : [...pieces, { ...whole, text: text.slice(at).replace(unspeakable, '') }]
}

/** Words that rules have made, as the wordbooks have them: each by itself, without its neighbours. */
function lookUpAgain(segments: readonly Segment[], findWords: WordFinder, steps: Step[]): Segment[] {
  return segments.flatMap(segment => {
    if (!isMade(segment)) return [segment]
    const hits = findWords(segment.text, 0, segment.text.length, segment.language)
    return hits.length === 0 ? [segment] : saidWithin(segment.text, hits, segment, steps)
  })
}

function laidOut(segments: readonly Segment[]): Omit<SpokenForm, 'steps' | 'made' | 'sentences'> {
  const groups: Group[] = []
  const spans = new Map<string, SpokenSpan>()
  const points: SpokenPoint[] = []
  let text = ''
  for (const { written, text: own, replaced, by, on, point } of segments) {
    if (point !== undefined) {
      points.push({ ...point, at: text.length, writtenAt: written[0] })
      continue
    }
    const from = text.length
    text += own
    const last = groups.at(-1)
    if (!replaced && last !== undefined && last.replaced !== true && last.written[1] === written[0] && last.spoken[1] === from) {
      groups[groups.length - 1] = { written: [last.written[0], written[1]], spoken: [last.spoken[0], text.length] }
    } else {
      groups.push({ written, spoken: [from, text.length], ...(replaced ? { replaced, by } : {}) })
    }
    for (const direction of on) {
      const span = spans.get(direction.id)
      if (span === undefined) spans.set(direction.id, { direction, start: from, end: text.length })
      else span.end = text.length
    }
  }
  return { text, groups, spans: [...spans.values()].filter(span => span.end > span.start), points }
}

/** The written text that a direction covers. */
function coveredBy(content: Content, id: string): string {
  return content.runs.filter(run => run.on.includes(id)).map(run => run.text).join('')
}

function languageAt(on: readonly Direction[], language: string): string {
  return on.findLast((direction): direction is Direction & DirectionOf<'language'> => direction.kind === 'language' && direction.language !== '')?.language ?? language
}

/** What SSML has as the role of the word that a text is. */
function roleAt(on: readonly Direction[]): string | undefined {
  const word = on.findLast((direction): direction is Direction & DirectionOf<'kept'> => direction.kind === 'kept' && isWordElement(direction.element))
  return word?.attributes['role']
}

/** The words that are spoken in place of a text; null when it is spoken as it stands. */
export function wordsOf(direction: Direction, text: string, language: string): string | null {
  if (direction.kind === 'substitute') return direction.alias.replace(unspeakable, '')
  if (direction.kind !== 'sayAs' || sayAsKind(direction.interpretAs) === 'characters') return null
  const words = sayAsWords(text, direction.interpretAs, direction.format, language)
  return 'words' in words ? words.words : null
}

/** Index of the first value of which something is so that is so of all behind it; their number where it is so of none. */
function firstIndex<T>(values: readonly T[], isSo: (value: T) => boolean): number {
  let [from, to] = [0, values.length]
  while (from < to) {
    const middle = (from + to) >> 1
    if (isSo(values[middle]!)) to = middle
    else from = middle + 1
  }
  return from
}

/** The written span that a spoken span comes from. */
export function writtenSpan(form: SpokenForm, start: number, end: number): [start: number, end: number] {
  const first = form.groups[firstIndex(form.groups, group => group.spoken[1] > start)]
  let at = firstIndex(form.groups, group => group.spoken[0] >= end) - 1
  while (at >= 0 && form.groups[at]!.spoken[1] === form.groups[at]!.spoken[0]) at -= 1
  const last = form.groups[at]
  if (first === undefined || last === undefined) return [0, 0]
  return [
    first.replaced === true ? first.written[0] : first.written[0] + Math.max(0, start - first.spoken[0]),
    last.replaced === true ? last.written[1] : last.written[0] + Math.min(end, last.spoken[1]) - last.spoken[0],
  ]
}

/** Written text on which no direction and no wordbook has decided. What rules have made of it is looked at by itself. */
export function openSpans(form: SpokenForm): TextSpan[] {
  const settled = form.spans.filter(({ direction }) => (direction.kind === 'sayAs' || direction.kind === 'phoneme') && !direction.id.startsWith('rule '))
  return form.groups.filter(group => group.by === undefined || group.by.every(cause => 'rule' in cause)).flatMap(({ written: [start, end], spoken: [from], replaced }) => {
    if (replaced === true) return [{ start, end }]
    const holes = settled.map(span => ({ start: start + span.start - from, end: start + span.end - from })).filter(hole => hole.end > start && hole.start < end).sort((a, b) => a.start - b.start)
    const spans: TextSpan[] = []
    let at = start
    for (const hole of holes) {
      if (hole.start > at) spans.push({ start: at, end: hole.start })
      at = Math.max(at, hole.end)
    }
    return at < end ? [...spans, { start: at, end }] : spans
  }).reduce<TextSpan[]>((joined, span) => {
    const last = joined.at(-1)
    if (last !== undefined && last.end >= span.start) joined[joined.length - 1] = { start: last.start, end: Math.max(last.end, span.end) }
    else joined.push(span)
    return joined
  }, [])
}

/** What is spoken for a span of the written text. What is said as a whole counts as a whole. */
export function spokenBetween({ groups, text }: SpokenForm, start: number, end: number): string {
  return groups.filter(({ written }) => written[0] < end && written[1] > start).map(({ replaced, written, spoken }) => replaced === true
    ? text.slice(...spoken)
    : text.slice(spoken[0] + Math.max(0, start - written[0]), spoken[0] + Math.min(end, written[1]) - written[0])).join('')
}
