import { primaryLanguage } from '../language/abbreviations'
import { trimSpan, type TextSpan } from '../language/sentences'
import { countWords, isSpeakable } from '../manuscript/manuscript'
import type { Direction } from '../script/directions'
import { writtenText } from '../script/content'
import { rolesOfPassage, type Part, type Passage, type PassageKind } from '../script/script'
import { restMsOfStrength } from '../script/ssml/values'
import { restBetween, sceneBreakMs, type HouseStyle } from '../style/house-style'
import { capabilitiesOf, castingOf, type Cast, type EngineCapabilities, type Engines } from './cast'
import { plainTone, segmentWords, toneOf, type Tone, type ToneSegment } from './tone'
import { pieces } from './pieces'
import { gapOf, playOf, type BedPlay, type GapItem, type Sound, type SoundPlay, type Sounds } from './sounds'
import type { WordFinder } from '../words/find-words'
import type { HitOff, RuleSet } from '../style/rule'
import { withWholeWords, type PlacedSegment } from './word-edges'
import { spokenForm, writtenSpan, type MadeText, type SpokenBy, type SpokenForm, type SpokenPoint, type SpokenSpan } from './spoken'

/** Part of every unit's input: a change of the compiler's results must change it. */
export const compilerVersion = 10

/** One request-sized piece of a score: a sentence, or a piece of one: too long for the engine, or of another role. */
export interface Utterance {
  readonly passageId: string
  /** Silence before it, in ms; 0 for the first of a part and between pieces of one sentence, unless a direction asks for one. */
  readonly restBeforeMs: number
  /** A direction asks for that rest, or for one before a sound. */
  readonly restIsDirected?: true
  /** Played before it, and before that rest. */
  readonly soundsBefore?: readonly SoundPlay[]
  readonly text: string
  /** Its span in the passage's written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
  /** False for the second and later pieces of one sentence. */
  readonly beginsSentence: boolean
  /** Who speaks it, unless the narrator does. */
  readonly role?: string
  /** At least one. */
  readonly segments: readonly ToneSegment[]
}

/** What one passage compiles to. */
export interface Unit {
  readonly passageId: string
  readonly utterances: readonly Utterance[]
  /** What directions put before its first and after its last utterance; all of it is `before` when there is none. */
  readonly before: readonly GapItem[]
  readonly after: readonly GapItem[]
  /** The rest of the house style before it, in ms. */
  readonly ruledBeforeMs: number
  /** Texts that rules made, and what the wordbooks said about them when it was compiled. */
  readonly made?: { readonly texts: readonly MadeText[], readonly said: string }
}

/** What a passage is compiled from, besides itself. */
export interface CompileContext extends Cast {
  /** Kind of the nearest spoken passage before it in its part; null for the first. */
  readonly previousKind: PassageKind | null
  readonly previousLevel?: number | undefined
  /** A scene break stands between the two. */
  readonly afterSceneBreak?: boolean
  readonly language: string
  readonly style: HouseStyle
  /** What the engines of the cast can do. */
  readonly engines: Engines
  /** The library of the production. */
  readonly sounds?: Sounds
  /** How words are said, where no direction says it. */
  readonly findWords?: WordFinder
  /** The rules of `style`, made ready. */
  readonly rules?: RuleSet
  /** Label of the passage's part. */
  readonly partLabel?: string
  /** Hits of rules that are switched off in a passage. */
  readonly off?: (passage: Passage) => readonly HitOff[]
}

/** The score of one part: its utterances in order. Deterministic: equal input, equal score. */
export interface PartScore {
  readonly partId: string
  readonly utterances: readonly Utterance[]
  /** Played after the last utterance; the silence behind it in ms. */
  readonly soundsAfter?: readonly SoundPlay[]
  readonly restAfterMs?: number
  /** Played under it. */
  readonly beds?: readonly BedPlay[]
  /** Under all of it and around it. */
  readonly roomTone?: Sound & { readonly name: string }
}

/** All that `compilePassage` reads, as text: units with equal inputs are equal. */
export function unitInput(passage: Passage, context: CompileContext): string {
  return JSON.stringify([compilerVersion, passage.id, passage.kind, passage.content, context.previousKind, passage.language ?? null, context.language, passage.role ?? null,
    ruledRests(passage, context), limitsRead(passage, context), soundsRead(passage, context), wordsRead(passage, context), rulesRead(passage, context)])
}

/** A piece of one sentence that one role speaks. */
interface Piece extends TextSpan {
  readonly role: string | null
  readonly beginsSentence: boolean
}

/** The spoken form of a passage in its surroundings. */
export function spokenOf(passage: Passage, context: Pick<CompileContext, 'language' | 'findWords' | 'rules' | 'partLabel' | 'off'>): SpokenForm {
  return spokenForm(passage.content, passage.language ?? context.language, spokenBy(passage, context))
}

function spokenBy(passage: Passage, { findWords, rules, partLabel, off }: Pick<CompileContext, 'findWords' | 'rules' | 'partLabel' | 'off'>): SpokenBy {
  const own = off?.(passage)
  return {
    subject: { kind: passage.kind, ...(partLabel === undefined ? {} : { partLabel }) }, ...(findWords === undefined ? {} : { findWords }), ...(rules === undefined ? {} : { rules }), ...(own === undefined ? {} : { off: own }),
  }
}

/** Compiles one passage. Gives no utterance when nothing in it can be spoken. */
export function compilePassage(passage: Passage, context: CompileContext): Unit {
  const language = passage.language ?? context.language
  const form = spokenOf(passage, context)
  const [ruledBeforeMs, sentenceRestMs] = ruledRests(passage, context)
  const spoken = piecesOf(form, passage, context)
  const points = pointsOf(form, context.sounds ?? {})
  const base: Tone = primaryLanguage(language) === primaryLanguage(context.language) ? plainTone : { ...plainTone, language }
  const utterances = spoken.map((piece, index): Utterance => {
    const segments = withWholeWords(segmentsOf(form, piece, points, base), language)
    const [start, end] = writtenSpan(form, piece.start, piece.end)
    const before = spoken[index - 1]
    return {
      passageId: passage.id, text: form.text.slice(piece.start, piece.end), start, end, beginsSentence: piece.beginsSentence,
      ...(before === undefined ? { restBeforeMs: ruledBeforeMs } : opening(itemsBetween(points, before.end, piece.start), piece.beginsSentence ? sentenceRestMs : 0)),
      ...(piece.role === null ? {} : { role: piece.role }),
      segments: segments.map(segment => withWords(form, segment)),
    }
  })
  const first = spoken[0]?.start ?? Number.POSITIVE_INFINITY
  const last = spoken.at(-1)?.end ?? Number.POSITIVE_INFINITY
  return {
    passageId: passage.id, utterances, ruledBeforeMs,
    ...(form.made.length === 0 ? {} : { made: { texts: form.made, said: saidOf(form.made, context) } }),
    before: points.filter(({ at }) => at <= first).map(({ item }) => item),
    after: points.filter(({ at }) => at >= last).map(({ item }) => item),
  }
}

/** How an utterance begins after what stands before it. */
function opening(items: readonly GapItem[], ruledMs: number): Pick<Utterance, 'restBeforeMs' | 'restIsDirected' | 'soundsBefore'> {
  const { sounds, restMs, isDirected } = gapOf(items, ruledMs)
  return { restBeforeMs: restMs, ...(isDirected ? { restIsDirected: true } : {}), ...(sounds.length === 0 ? {} : { soundsBefore: sounds }) }
}

/** The sentences of a passage in pieces: by role, by the engine's limit, and by the sentences that a file marks as such. */
function piecesOf(form: SpokenForm, passage: Passage, context: CompileContext): Piece[] {
  const roles = form.spans.filter(span => span.direction.kind === 'role')
  const marked = form.spans.filter(span => span.direction.kind === 'kept' && span.direction.element === 's')
  const result: Piece[] = []
  for (const sentence of cutAt(form.sentences, marked)) {
    let beginsSentence = true
    for (const turn of cutAt([sentence], roles)) {
      const role = (roles.findLast(span => span.start <= turn.start && span.end >= turn.end)?.direction as { role?: string } | undefined)?.role ?? passage.role ?? null
      const limit = engineOf(role, context).maximumCharacters
      const { start, end } = trimSpan(form.text, turn)
      for (const piece of pieces(form.text, { start, end }, limit)) {
        if (!isSpoken(passage, form.text.slice(piece.start, piece.end))) continue
        result.push({ ...piece, role, beginsSentence })
        beginsSentence = false
      }
    }
  }
  return result
}

/** An ornament is a sign that could be spoken; as a scene break it is not. */
function isSpoken({ kind }: Passage, text: string): boolean {
  return kind === 'sceneBreak' ? countWords(text) > 0 : isSpeakable(text)
}

/** Spans cut at the edges of others. */
function cutAt(spans: readonly TextSpan[], others: readonly SpokenSpan[]): TextSpan[] {
  if (others.length === 0) return [...spans]
  const edges = [...new Set(others.flatMap(({ start, end }) => [start, end]))].sort((a, b) => a - b)
  return spans.flatMap(({ start, end }) => {
    const own = [start, ...edges.filter(edge => edge > start && edge < end), end]
    return own.slice(1).map((edge, index) => ({ start: own[index]!, end: edge }))
  })
}

function engineOf(role: string | null, context: CompileContext): EngineCapabilities {
  return capabilitiesOf(context.engines, castingOf(context, role))
}

/** A rest or a sound, and where it stands in the spoken form. */
interface Point {
  readonly at: number
  readonly item: Exclude<GapItem, 'ruled'>
}

function pointsOf(form: SpokenForm, sounds: Sounds): Point[] {
  return countingPoints(form).flatMap(({ direction, at, ruled }): Point[] => {
    if (direction.kind === 'rest') {
      const ms = 'ms' in direction ? direction.ms : restMsOfStrength[direction.strength]
      return [{ at, item: ruled === true ? { ruledMs: ms } : { restMs: ms } }]
    }
    const sound = direction.kind === 'sound' ? playOf(direction, sounds) : null
    return sound === null ? [] : [{ at, item: { sound } }]
  })
}

/** Of the rests with no word between them, one that a direction asks for counts before those of rules; of these the longest does. */
function countingPoints({ points, text }: SpokenForm): SpokenPoint[] {
  if (!points.some(point => point.ruled === true)) return [...points]
  const places: SpokenPoint[][] = []
  for (const point of points) {
    const place = places.at(-1)
    if (place !== undefined && !/[\p{L}\p{N}]/u.test(text.slice(place.at(-1)!.at, point.at))) place.push(point)
    else places.push([point])
  }
  const msOf = (point: SpokenPoint): number => point.direction.kind === 'rest' && 'ms' in point.direction ? point.direction.ms : 0
  return places.flatMap(place => {
    const directed = place.some(point => point.direction.kind === 'rest' && point.ruled !== true)
    const longest = place.filter(point => point.ruled === true).reduce<SpokenPoint | null>((best, point) => best === null || msOf(point) > msOf(best) ? point : best, null)
    return place.filter(point => point.ruled !== true || !directed && point === longest)
  })
}

/** What stands between two pieces. What stands right behind the first comes before the ruled rest. */
function itemsBetween(points: readonly Point[], from: number, to: number): GapItem[] {
  const own = points.filter(({ at }) => at >= from && at <= to)
  return [...own.filter(({ at }) => at === from).map(({ item }) => item), 'ruled', ...own.filter(({ at }) => at > from).map(({ item }) => item)]
}

/** A piece in segments of one tone each. */
function segmentsOf(form: SpokenForm, { start, end }: Piece, points: readonly Point[], base: Tone): PlacedSegment[] {
  const spans = form.spans.filter(span => span.start < end && span.end > start)
  const inner = points.filter(({ at }) => at > start && at < end)
  const edges = [...new Set([start, end, ...spans.flatMap(span => [span.start, span.end]), ...inner.map(({ at }) => at)])].filter(edge => edge >= start && edge <= end).sort((a, b) => a - b)
  return edges.slice(1).map((edge, index): PlacedSegment => {
    const from = edges[index]!
    const directions = spans.filter(span => span.start <= from && span.end >= edge).map((span): Direction => span.direction)
    const items = inner.filter(({ at }) => at === from).map(({ item }) => item)
    const gap = gapOf(items, 0)
    return { text: form.text.slice(from, edge), start: from, tone: toneOf(directions, base), ...(gap.restMs > 0 || gap.sounds.length > 0 || items.length > 0 && isAtMark(form.text, from) ? { gap } : {}) }
  })
}

/** Where a voice may pause by itself: at a mark of punctuation. A rest of no length there takes its pause away; between words that it speaks as one there is none. */
function isAtMark(text: string, at: number): boolean {
  return /[.,;:!?…—–)\]}”"»]\s*$/u.test(text.slice(Math.max(0, at - 4), at)) || /^\s*[.,;:!?…—–([{“"«]/u.test(text.slice(at, at + 4))
}

/** A segment with the written spans of its words. */
function withWords(form: SpokenForm, { text, start, tone, gap }: PlacedSegment): ToneSegment {
  const words: number[] = []
  for (const { 0: word, index } of text.matchAll(segmentWords)) {
    const [from, to] = writtenSpan(form, start + index, start + index + word.length)
    words.push(from, to)
  }
  return { text, tone, ...(gap === undefined ? {} : { gap }), words }
}

/** A memo for units, by input. */
export interface UnitCache {
  get: (input: string) => Unit | undefined
  set: (input: string, unit: Unit) => void
}

/** Compiles a part passage by passage; a unit found in the cache is not compiled again. */
export function compilePart(...given: Parameters<typeof compileSteps>): PartScore {
  const steps = compileSteps(...given)
  for (;;) {
    const { done, value } = steps.next()
    if (done === true) return value
  }
}

/** The same in steps, a passage each, so that other work can be done between them. */
export function* compileSteps(part: Part, context: Omit<CompileContext, 'previousKind' | 'previousLevel' | 'afterSceneBreak'>, cache?: UnitCache): Generator<undefined, PartScore> {
  const utterances: Utterance[] = []
  let previous: Passage | null = null
  let afterSceneBreak = false
  /** What directions have put behind the last utterance, and before the next. */
  let behind: readonly GapItem[] = []
  let ahead: readonly GapItem[] = []
  for (const passage of part.passages) {
    yield
    const unit = compileCached(passage, { ...context, previousKind: previous?.kind ?? null, previousLevel: previous?.level, afterSceneBreak, partLabel: part.label }, cache)
    ahead = [...ahead, ...unit.before]
    if (unit.utterances.length === 0) {
      afterSceneBreak ||= passage.kind === 'sceneBreak'
      continue
    }
    const [first, ...others] = unit.utterances
    utterances.push({ ...first!, ...opening([...behind, 'ruled', ...ahead], unit.ruledBeforeMs) }, ...others)
    behind = unit.after
    ahead = []
    previous = passage
    afterSceneBreak = false
  }
  // Behind the last word only what a direction asks for.
  const end = gapOf([...behind, ...ahead].filter(item => item === 'ruled' || !('ruledMs' in item)), 0)
  return {
    partId: part.id, utterances,
    ...(utterances.length === 0 || end.sounds.length === 0 ? {} : { soundsAfter: end.sounds }),
    ...(utterances.length === 0 || end.restMs === 0 ? {} : { restAfterMs: end.restMs }),
  }
}

/** The sounds that a score plays: their names by the keys of their takes. */
export function soundNamesIn({ utterances, soundsAfter = [], beds = [], roomTone }: PartScore): Map<string, string> {
  const plays = [...utterances.flatMap(({ soundsBefore = [], segments }) => [...soundsBefore, ...segments.flatMap(({ gap }) => gap?.sounds ?? [])]), ...soundsAfter, ...beds, ...(roomTone === undefined ? [] : [roomTone])]
  return new Map(plays.map(({ key, name }) => [key, name]))
}

function compileCached(passage: Passage, context: CompileContext, cache: UnitCache | undefined): Unit {
  if (cache === undefined) return compilePassage(passage, context)
  const input = unitInput(passage, context)
  const known = cache.get(input)
  if (known !== undefined && (known.made === undefined || known.made.said === saidOf(known.made.texts, context))) return known
  const unit = compilePassage(passage, context)
  cache.set(input, unit)
  return unit
}

/** The rests that a house style gives before a passage and between its sentences, in ms. */
export function ruledRests(passage: Pick<Passage, 'kind' | 'level'>, { previousKind, previousLevel, afterSceneBreak = false, style }: Pick<CompileContext, 'previousKind' | 'previousLevel' | 'afterSceneBreak' | 'style'>): [passageRestMs: number, sentenceRestMs: number] {
  if (previousKind === null) return [0, style.sentenceRestMs]
  const between = restBetween(style, { kind: previousKind, ...(previousLevel === undefined ? {} : { level: previousLevel }) }, passage)
  return [afterSceneBreak ? Math.max(between, sceneBreakMs(style)) : between, style.sentenceRestMs]
}

/** What is read of the engines of a passage's roles. */
function limitsRead(passage: Passage, context: CompileContext): number[] {
  return [null, ...rolesOfPassage(passage)].map(role => engineOf(role, context).maximumCharacters)
}

/** What the wordbooks say about the words of a passage. Where a direction speaks for a word they are not asked, but reading a little too much does no harm. */
function wordsRead({ content, language }: Passage, context: CompileContext): unknown[] {
  if (context.findWords === undefined) return []
  const text = writtenText(content)
  const languages = [language ?? context.language, ...content.directions.flatMap(direction => direction.kind === 'language' && direction.language !== '' ? [direction.language] : [])]
  return [...new Set(languages)].map(each => context.findWords!(text, 0, text.length, each).map(({ start, end, said }) => [start, end, said]))
}

/** What the rules read, besides the text. */
function rulesRead(passage: Passage, { rules, off, partLabel }: CompileContext): unknown[] {
  if (rules === undefined || rules.input === '') return []
  return [rules.input, off?.(passage) ?? [], ...(rules.readsLabels ? [partLabel] : [])]
}

function saidOf(texts: readonly MadeText[], { findWords = () => [] }: CompileContext): string {
  return JSON.stringify(texts.map(({ text, language }) => findWords(text, 0, text.length, language).map(({ start, end, said }) => [start, end, said])))
}

/** The sounds of the library that a passage asks for. */
function soundsRead({ content }: Passage, { sounds = {} }: CompileContext): unknown[] {
  return content.directions.flatMap(direction => direction.kind === 'sound' && Object.hasOwn(sounds, direction.sound) ? [[direction.sound, sounds[direction.sound]]] : [])
}
