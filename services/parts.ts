import { peaks, samplesToMs } from '#core/audio/pcm'
import { layTrack, sliceTrack, wordTimes, type PlayableTrack, type TimedUtterance, type Track } from '#core/audio/track'
import { fail } from '#core/problem'
import type { Casting } from '#core/score/cast'
import { soundNamesIn } from '#core/score/compile'
import type { CastScore, CastUtterance } from '#core/score/request'
import { writtenText } from '#core/script/content'
import type { Passage } from '#core/script/script'
import type { Reference } from '#core/takes/choose'
import type { KnownTake } from '#core/takes/take'
import type { Page, PagePeaks, SpokenWord } from '#shared/api'
import type { Database } from '#store/database'
import { pagePassage } from '#store/edits'
import { askedFor } from '#store/readings'
import { marksOf, profileOf } from '#store/run-sheet'
import { referencesOf, samplesOfPart, scoreEdition, summary, takesOfParts, trackOf, type ScoredEdition, type ScoredPart } from '#store/score'
import { loadTake, unlessDamaged } from '#takes/library'
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
  track: PlayableTrack | null
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
  const references = referencesOf(part, await library.index.find(takesOfParts([part])))
  const missing = references.filter(({ known }) => known === null).map(({ take }) => take)
  const asked = await askedFor(database, scored.edition.id, missing)
  const track = trackOf(part, references)
  const byTake = new Map(references.map(reference => [reference.take, reference]))
  const ms = (samples: number): number => samplesToMs(samples, track.sampleRate)
  // A reading took this part in, and what is missing now was not there then.
  const wasRead = asked.parts.has(part.row.id)
  return {
    part: summary(part, references, asked),
    passages: part.passages.map(pagePassage),
    utterances: track.timeline.map(({ utterance, take, restSample, leadSample, endSample }) => {
      const { known, isStale } = byTake.get(take)!
      return {
        key: utterance.key, passageId: utterance.passageId, start: utterance.start, end: utterance.end,
        startMs: ms(leadSample), durationMs: ms(endSample - leadSample), restBeforeMs: ms(leadSample - restSample), restIsDirected: utterance.restIsDirected === true,
        read: known !== null,
        stale: isStale || wasRead && known === null && !asked.keys.has(take),
        role: utterance.role ?? null,
      }
    }),
    announced: announcedIn(part),
    said: await saidPlaces(scored, part),
    fileMarks: Object.fromEntries([...await marksOf(database, scored.edition.id)].filter(([id]) => part.passages.some(passage => passage.id === id))),
  }
}

/** What is announced before and after the text of a part. */
function announcedIn({ spoken }: ScoredPart): Page['announced'] {
  const first = spoken.findIndex(({ announcement }) => announcement === undefined)
  const said = (passages: readonly Passage[]): string[] => passages.filter(({ announcement }) => announcement !== undefined && announcement.of !== 'sound').map(({ content }) => writtenText(content))
  return { before: said(spoken.slice(0, first)), after: said(spoken.slice(first)) }
}

/** An utterance, where it belongs, and the take in which it is heard. */
export interface FoundUtterance {
  readonly editionId: string
  readonly partId: string
  readonly utterance: CastUtterance
  readonly trackRate: number
  readonly reference: Omit<Reference, 'known'>
  /** All that are heard in that take, and the place of this one among them. */
  readonly together: readonly CastUtterance[]
  readonly place: number
}

/** An utterance of a part by its key. Throws a problem when the script has changed since. */
export async function utteranceOf({ database }: Place, { partId, key }: { readonly partId: string, readonly key: string }): Promise<FoundUtterance> {
  const { scored, part } = await scoredPart(database, partId)
  const at = part.score.utterances.findIndex(candidate => candidate.key === key)
  if (at < 0) fail('not-found', 'This sentence has changed. Load the page again.')
  const { known: _, ...reference } = referencesOf(part).find(({ from, count }) => at >= from && at < from + count)!
  const { from, count } = reference
  const together = part.score.utterances.slice(from, from + count)
  return { editionId: scored.edition.id, partId, utterance: part.score.utterances[at]!, trackRate: part.trackRate, reference, together, place: at - from }
}

/** When the words of an utterance begin; none while there is no take. */
export async function wordTimesOf(place: Place, asked: { readonly partId: string, readonly key: string }): Promise<SpokenWord[]> {
  const found = await utteranceOf(place, asked)
  const known = (await place.library.index.find([found.reference.take])).get(found.reference.take)
  if (known === undefined) return []
  const { track, reference } = alone(found, known)
  return wordTimes(track, track.timeline[found.place]!, reference).map(({ start, end, sample }) => ({ start, end, ms: samplesToMs(sample, track.sampleRate) }))
}

/** Length of a part in samples as it is now, without margins. */
export function samplesOf({ database }: Place, { editionId, partId }: { readonly editionId: string, readonly partId: string }): Promise<number> {
  return samplesOfPart(database, editionId, partId)
}

const peaksPerSecond = 20

/** The waveform of a part, take by take. */
export async function peaksOf({ database, library }: Place, { partId }: { readonly partId: string }): Promise<PagePeaks> {
  const { part } = await scoredPart(database, partId)
  const takes = await library.index.find(takesOfParts([part]))
  const references = referencesOf(part, takes)
  const result: Record<string, number[]> = {}
  const track = trackOf(part, references)
  for (const { take, timeline } of heardIn(track)) {
    const known = takes.get(take)
    if (known === undefined) continue
    // One that is damaged counts as not read now, and has no peaks.
    const samples = await unlessDamaged(loadTake(library, known))
    if (samples === null) continue
    const [first, last] = [timeline[0]!.startSample, timeline.at(-1)!.endSample]
    for (const { utterance, startSample, endSample } of timeline) {
      const share = (sample: number): number => Math.round((sample - first) / Math.max(1, last - first) * samples.length)
      const own = timeline.length === 1 ? samples : samples.subarray(share(startSample), share(endSample))
      const count = Math.max(1, Math.round(own.length / known.sampleRate * peaksPerSecond))
      result[utterance.key] ??= peaks(own, count).map(peak => Math.round(peak * 100) / 100)
    }
  }
  return result
}

/** A part as it goes into a delivery, with the names of its sounds by the keys of their takes. */
export interface LaidPart {
  readonly track: PlayableTrack
  readonly sounds: readonly (readonly [key: string, name: string])[]
}

/** Lays a part out. Throws a problem while something in it is not read. */
export async function layPart({ database, library }: Place, { partId }: { readonly partId: string }): Promise<LaidPart> {
  const loaded = await scoredPart(database, partId)
  const { scored, part } = loaded
  if (loaded.track === null) {
    const references = referencesOf(part, await library.index.find(takesOfParts([part])))
    const missing = references.filter(({ known }) => known === null).length
    if (missing > 0) fail('not-read', `${missing} sentences of this part are not read yet. Read them first.`)
    const { timeline: _, ...track } = trackOf(part, references, profileOf(scored))
    loaded.track = track
  }
  return { track: loaded.track, sounds: [...soundNamesIn(part.score)] }
}

/** The track of a take by itself, as it is laid in its part. */
function alone({ partId, together, trackRate, reference }: FoundUtterance, known: KnownTake): { readonly track: Track, readonly reference: Reference, readonly score: CastScore } {
  const score = { partId, utterances: together }
  const own = { ...reference, from: 0, known }
  return { track: layTrack(score, [own], trackRate), reference: own, score }
}

/** An utterance as it sounds in its part, with its sounds, rests and levels, beginning at once. */
export function heardAlone(found: FoundUtterance, known: KnownTake): { readonly track: PlayableTrack, readonly score: CastScore } {
  const { track, score } = alone(found, known)
  const { leadSample, endSample } = track.timeline[found.place]!
  return { track: sliceTrack(track, leadSample, endSample), score }
}

/** The utterances of a track by the take in which they are heard: those that share one in a row together. */
function heardIn({ timeline }: Track): { readonly take: string, readonly timeline: readonly TimedUtterance[] }[] {
  const groups: { readonly take: string, readonly timeline: TimedUtterance[] }[] = []
  for (const timed of timeline) {
    const last = groups.at(-1)
    if (last?.take === timed.take && last.timeline.at(-1)!.endSample === timed.startSample && timed.restSample === timed.startSample) last.timeline.push(timed)
    else groups.push({ take: timed.take, timeline: [timed] })
  }
  return groups
}

/** Why a place of a part is said as it is, without how the voice reads it. */
export async function whyOf({ database }: Place, { partId, passage, start, end }: { readonly partId: string, readonly passage: string, readonly start: number, readonly end: number }): Promise<WhyAt & { readonly casting: Casting }> {
  const { scored, part } = await scoredPart(database, partId)
  const why = whyAt(scored, part, passage, start, end) ?? fail('not-found', 'This passage is gone. Open the part again.')
  return { ...why, casting: scored.casting }
}
