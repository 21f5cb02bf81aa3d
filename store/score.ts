import { createHash } from 'node:crypto'
import { samplesToMs } from '#core/audio/pcm'
import { layTrack, noMargins, type Margins, type Track } from '#core/audio/track'
import { countWords } from '#core/manuscript/manuscript'
import { trackRateOf } from '#core/score/cast'
import { compileSteps, type Unit, type UnitCache } from '#core/score/compile'
import type { CastScore } from '#core/score/request'
import { writtenText } from '#core/script/content'
import type { Part, Passage, Script } from '#core/script/script'
import { placeChoices, type PlacedChoice } from '#core/takes/choice'
import { choose, noTakes, takesOf, type Reference } from '#core/takes/choose'
import type { KnownTake } from '#core/takes/take'
import { addTo } from '#core/tally'
import type { PartState, PartSummary, WordsMaterial } from '#shared/api'
import { castSteps } from '#voices/cast-score'
import { announcing } from './announcements'
import { breather } from './breathe'
import type { Database } from './database'
import { contextOf, loadEdition, type LoadedEdition } from './editions'
import { PartRow, PassageRow } from './models'
import type { Asked } from './readings'
import { takeIndex } from './take-index'

/** A part with its passages, its score, and the takes that exist for it. */
export interface ScoredPart {
  readonly row: PartRow
  readonly passages: readonly PassageRow[]
  /** These, and what is said around them. */
  readonly spoken: readonly Passage[]
  readonly score: CastScore
  /** The takes that are chosen in it. */
  readonly choices: readonly PlacedChoice[]
  /** Hz, of its track. */
  readonly trackRate: number
}

export interface ScoredEdition extends LoadedEdition {
  /** What its parts were compiled with. */
  readonly context: ReturnType<typeof contextOf>
  readonly parts: readonly ScoredPart[]
}

const maximumUnits = 50_000

/** Compiled units of this process. The oldest go first. */
const units = new Map<string, Unit>()

/** Keeps the digests of the inputs, not these, which are as long as the book. */
const unitCache: UnitCache = {
  get: input => units.get(digest(input)),
  set: (input, unit) => {
    units.set(digest(input), unit)
    if (units.size > maximumUnits) units.delete(units.keys().next().value!)
  },
}

function digest(input: string): string {
  return createHash('sha256').update(input).digest('base64')
}

/** The script of an edition as it stands, without its score; each passage with its revision. */
export async function scriptOf({ edition, production }: LoadedEdition): Promise<Omit<Script, 'parts'> & Pick<WordsMaterial, 'parts'>> {
  const rows = await PartRow.findAll({ where: { editionId: edition.id }, order: [['rank', 'ASC']] })
  const byPart = groupByPart(await PassageRow.findAll({ where: { partId: rows.map(row => row.id) }, order: [['rank', 'ASC']] }))
  return {
    title: production.title, author: production.author, language: edition.language,
    parts: rows.map(({ id, kind, label, included }) => ({ id, kind, label, included, passages: (byPart.get(id) ?? []).map(row => ({ ...toPassage(row), revision: row.revision })) })),
  }
}

/** Loads an edition, or one part of it, and compiles it. */
export async function scoreEdition(editionId: string, partId?: string): Promise<ScoredEdition> {
  const loaded = await loadEdition(editionId)
  const rows = await PartRow.findAll({ where: { editionId, ...(partId === undefined ? {} : { id: partId }) }, order: [['rank', 'ASC']] })
  const byPart = groupByPart(await passagesOf(rows))
  const context = contextOf(loaded)
  const trackRate = trackRateOf(context, context.engines)
  const { announce, toned } = await announcing(loaded)
  const parts: ScoredPart[] = []
  const breathe = breather()
  for (const row of rows) {
    const own = byPart.get(row.id) ?? []
    const part = { id: row.id, kind: row.kind, label: row.label, included: row.included, passages: own.map(toPassage) }
    const announced = announce(part)
    parts.push({ row, passages: own, spoken: announced.passages, trackRate, choices: placeChoices(loaded.choices, part.passages), score: toned(await compileBreathing(announced, context, breathe)) })
  }
  return { ...loaded, context, parts }
}

/** Compiles a part for its cast, and lets others have their turn meanwhile. */
export async function compileBreathing(part: Part, context: ScoredEdition['context'], breathe: () => Promise<void>): Promise<CastScore> {
  return breathing(castSteps(await breathing(compileSteps(part, context, unitCache), breathe), context), breathe)
}

async function breathing<T>(steps: Generator<undefined, T>, breathe: () => Promise<void>): Promise<T> {
  for (;;) {
    const { done, value } = steps.next()
    if (done === true) return value
    await breathe()
  }
}

/** Rows that are made at once: making them keeps everyone else waiting. */
const rowsAtOnce = 1_000

/** The passages of parts, in their order. */
async function passagesOf(parts: readonly PartRow[]): Promise<PassageRow[]> {
  const passages: PassageRow[] = []
  for (;;) {
    const found = await PassageRow.findAll({ where: { partId: parts.map(part => part.id) }, order: [['partId', 'ASC'], ['rank', 'ASC'], ['id', 'ASC']], offset: passages.length, limit: rowsAtOnce })
    passages.push(...found)
    if (found.length < rowsAtOnce) return passages
  }
}

function groupByPart(passages: readonly PassageRow[]): Map<string, PassageRow[]> {
  const groups = new Map<string, PassageRow[]>()
  for (const passage of passages) addTo(groups, passage.partId, passage)
  return groups
}

/** A passage as the compiler takes it. */
export function toPassage({ id, kind, level, content, language, role }: Pick<PassageRow, 'id' | 'kind' | 'level' | 'content' | 'language' | 'role'>): Passage {
  return { id, kind, content, ...(level === null || level === undefined ? {} : { level }), ...(language === null ? {} : { language }), ...(role === null ? {} : { role }) }
}

/** The takes in which a part is heard, of those that exist. */
export function referencesOf({ score, choices }: Pick<ScoredPart, 'score' | 'choices'>, takes: ReadonlyMap<string, KnownTake> = noTakes): Reference[] {
  return choose(score, takes, choices)
}

/** The ids of all takes in which parts are heard, whether they exist or not. */
export function takesOfParts(parts: readonly Pick<ScoredPart, 'score' | 'choices'>[]): string[] {
  return [...new Set(parts.flatMap(part => takesOf(referencesOf(part))))]
}

/** A part's track; where a take is missing its length is estimated. */
export function trackOf(part: ScoredPart, references: readonly Reference[], margins: Margins = noMargins): Track {
  return layTrack(part.score, references, part.trackRate, margins)
}

/** Length of a part in samples as it is now, without margins. */
export async function samplesOfPart(database: Database, editionId: string, partId: string): Promise<number> {
  const { parts } = await scoreEdition(editionId, partId)
  return parts[0] === undefined ? 0 : trackOf(parts[0], referencesOf(parts[0], await takeIndex(database).find(takesOfParts(parts)))).sampleCount
}

/** Length and state of one part. */
export function summary(part: ScoredPart, references: readonly Reference[], asked: Asked): PartSummary {
  const { row, score, passages } = part
  const missing = references.filter(({ known }) => known === null)
  const track = trackOf(part, references)
  const wasAsked = ({ take }: Reference): boolean => asked.keys.has(take)
  return {
    id: row.id, kind: row.kind, label: row.label, included: row.included, about: row.about, revision: row.revision,
    words: passages.reduce((sum, passage) => sum + countWords(writtenText(passage.content)), 0),
    sentences: score.utterances.filter(utterance => utterance.beginsSentence).length,
    utterances: score.utterances.length,
    missing: missing.length,
    durationMs: Math.round(samplesToMs(track.sampleCount, track.sampleRate)),
    exact: missing.length === 0,
    state: stateOf({
      utterances: references.length, missing: missing.length, allAsked: missing.every(wasAsked), anyAsked: missing.some(wasAsked), isRunning: asked.parts.get(row.id)?.running ?? null,
    }),
  }
}

/** What decides the state of a part. */
export interface PartCounts {
  readonly utterances: number
  /** Those without a take. */
  readonly missing: number
  /** Whether a reading was to make all of the missing ones, or any; null where none is missing. */
  readonly allAsked: boolean | null
  readonly anyAsked: boolean | null
  /** Whether a reading that took the part in is running; null when none has taken it in. */
  readonly isRunning: boolean | null
}

export function stateOf({ utterances, missing, allAsked, anyAsked, isRunning }: PartCounts): PartState {
  if (utterances === 0) return 'silent'
  if (missing === 0) return 'read'
  if (isRunning === true && anyAsked === true) return 'beingRead'
  if (missing === utterances) return 'unread'
  // Without a reading of its own, what is there was only listened to, or is shared with another part.
  return isRunning === null || allAsked === true ? 'partly' : 'stale'
}
