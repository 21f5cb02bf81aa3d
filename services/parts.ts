import { peaks, samplesToMs } from '#core/audio/pcm'
import { layTrack, wordTimes, type Track } from '#core/audio/track'
import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { soundNamesIn } from '#core/score/compile'
import type { CastScore, CastUtterance } from '#core/score/request'
import type { Page, PagePeaks, SpokenWord } from '#shared/api'
import type { Database } from '#store/database'
import { profileOf } from '#store/deliveries'
import { pagePassage } from '#store/edits'
import { askedFor } from '#store/readings'
import { keysOf, scoreEdition, summary, trackOf, type ScoredEdition, type ScoredPart } from '#store/score'
import { loadTake, unlessDamaged } from '#takes/library'
import type { TakeRecord } from '#takes/take'
import type { Place } from './place'
import { saidPlaces } from './said-words'
import { whyAt, type WhyAt } from './why'

/** One part, compiled. */
interface LoadedPart {
  /** Of its edition when it was loaded. */
  readonly revision: number
  readonly scored: ScoredEdition
  readonly part: ScoredPart
  /** Laid out as it is delivered, when all of its takes are there. */
  track: Track | null
}

/** Utterances of parts that are kept compiled: listeners ask for pieces of the same ones again and again. */
const mostUtterances = 10_000
/** The parts used last, the oldest first. */
const loadedParts = new Map<string, Promise<LoadedPart>>()

/** One part, compiled. Throws a problem when there is no such part. */
async function scoredPart(database: Database, partId: string): Promise<LoadedPart> {
  const [row] = await database.rows<{ editionId: string, revision: number }>(
    'SELECT e.id AS "editionId", e.revision FROM parts p JOIN editions e ON e.id = p.edition_id WHERE p.id = $1', [partId])
  if (row === undefined) gone()
  const known = loadedParts.get(partId)
  const isCurrent = known !== undefined && await known.then(part => part.revision === row.revision, () => false)
  const loaded = isCurrent ? known : load(partId, row.editionId, row.revision)
  loadedParts.delete(partId)
  loadedParts.set(partId, loaded)
  await loaded.catch((error: unknown) => {
    if (loadedParts.get(partId) === loaded) loadedParts.delete(partId)
    throw error
  })
  await dropOldest()
  return loaded
}

async function load(partId: string, editionId: string, revision: number): Promise<LoadedPart> {
  const scored = await scoreEdition(editionId, partId)
  return { revision, scored, part: scored.parts[0] ?? gone(), track: null }
}

async function dropOldest(): Promise<void> {
  let utterances = 0
  for (const [id, loaded] of [...loadedParts].reverse()) {
    utterances += await loaded.then(({ part }) => part.score.utterances.length, () => 0)
    if (utterances > mostUtterances && id !== [...loadedParts.keys()].at(-1)) loadedParts.delete(id)
  }
}

function gone(): never {
  return fail('not-found', 'This part is no longer in the script. Load the page again.')
}

/** A part with its passages and the utterances they are spoken in. */
export async function pageOf({ database, library }: Place, { partId }: { readonly partId: string }): Promise<Page> {
  const { scored, part } = await scoredPart(database, partId)
  const takes = await library.index.find(keysOf([part]))
  const missing = part.score.utterances.filter(utterance => !takes.has(utterance.key)).map(utterance => utterance.key)
  const asked = await askedFor(database, scored.edition.id, missing)
  const track = trackOf(part, takes)
  // A reading took this part in, and what is missing now was not there then.
  const wasRead = asked.parts.has(part.row.id)
  return {
    part: summary(part, takes, asked),
    passages: part.passages.map(pagePassage),
    utterances: track.timeline.map(({ utterance, leadSample, endSample }) => ({
      key: utterance.key, passageId: utterance.passageId, start: utterance.start, end: utterance.end,
      restBeforeMs: utterance.soundsBefore?.[0]!.restBeforeMs ?? utterance.restBeforeMs,
      durationMs: samplesToMs(endSample - leadSample, track.sampleRate),
      read: takes.has(utterance.key),
      stale: wasRead && !takes.has(utterance.key) && !asked.keys.has(utterance.key),
    })),
    said: await saidPlaces(scored, part),
  }
}

/** An utterance and where it belongs. */
export interface FoundUtterance {
  readonly editionId: string
  readonly partId: string
  readonly utterance: CastUtterance
}

/** An utterance of a part by its key. Throws a problem when the script has changed since. */
export async function utteranceOf({ database }: Place, { partId, key }: { readonly partId: string, readonly key: string }): Promise<FoundUtterance> {
  const { scored, part: { score } } = await scoredPart(database, partId)
  const utterance = score.utterances.find(candidate => candidate.key === key)
  if (utterance === undefined) fail('not-found', 'This sentence has changed. Load the page again.')
  return { editionId: scored.edition.id, partId, utterance }
}

/** When the words of an utterance begin; none while there is no take. */
export async function wordTimesOf(place: Place, asked: { readonly partId: string, readonly key: string }): Promise<SpokenWord[]> {
  const { utterance } = await utteranceOf(place, asked)
  const take = (await place.library.index.find([utterance.key])).get(utterance.key)
  if (take === undefined) return []
  return wordTimes(utterance, take, take.sampleRate).map(({ start, end, sample }) => ({ start, end, ms: samplesToMs(sample, take.sampleRate) }))
}

const peaksPerSecond = 20

/** The waveform of a part, take by take. */
export async function peaksOf({ database, library }: Place, { partId }: { readonly partId: string }): Promise<PagePeaks> {
  const { part } = await scoredPart(database, partId)
  const takes = await library.index.find(keysOf([part]))
  const result: Record<string, number[]> = {}
  for (const take of takes.values()) {
    // One that is damaged counts as not read now, and has no peaks.
    const samples = await unlessDamaged(loadTake(library, take))
    if (samples === null) continue
    const count = Math.max(1, Math.round(samples.length / take.sampleRate * peaksPerSecond))
    result[take.key] = peaks(samples, count).map(peak => Math.round(peak * 100) / 100)
  }
  return result
}

/** A part as it goes into a delivery, with the names of its sounds by the keys of their takes. */
export interface LaidPart {
  readonly track: Omit<Track, 'timeline'>
  readonly sounds: readonly (readonly [key: string, name: string])[]
}

/** Lays a part out. Throws a problem while something in it is not read. */
export async function layPart({ database, library }: Place, { partId }: { readonly partId: string }): Promise<LaidPart> {
  const loaded = await scoredPart(database, partId)
  const { scored, part } = loaded
  if (loaded.track === null) {
    const takes = await library.index.find(keysOf([part]))
    const missing = part.score.utterances.filter(utterance => !takes.has(utterance.key)).length
    if (missing > 0) fail('not-read', `${missing} sentences of this part are not read yet. Read them first.`)
    loaded.track = trackOf(part, takes, profileOf(scored))
  }
  const { timeline: _, ...track } = loaded.track
  return { track, sounds: [...soundNamesIn(part.score)] }
}

/** The utterance alone, with its sounds, rests and levels, beginning at once. */
export function trackOfUtterance({ utterance, partId }: FoundUtterance, shape: Pick<TakeRecord, 'sampleCount' | 'wordMarks' | 'sampleRate'>): { readonly track: Track, readonly score: CastScore } {
  const [first, ...others] = utterance.soundsBefore ?? []
  const alone = first === undefined ? { ...utterance, restBeforeMs: 0 } : { ...utterance, soundsBefore: [{ ...first, restBeforeMs: 0 }, ...others] }
  const score = { partId, utterances: [alone] }
  return { track: layTrack(score, () => shape, shape.sampleRate, { headMs: 0, tailMs: 0 }), score }
}

/** Why a place of a part is said as it is, without how the voice reads it. */
export async function whyOf({ database }: Place, { partId, passage, start, end }: { readonly partId: string, readonly passage: string, readonly start: number, readonly end: number }): Promise<WhyAt & { readonly casting: Casting }> {
  const { scored, part } = await scoredPart(database, partId)
  const why = whyAt(scored, part, passage, start, end) ?? fail('not-found', 'This passage is gone. Open the part again.')
  return { ...why, casting: scored.casting }
}
