import { createHash } from 'node:crypto'
import { msToSamples, samplesToMs } from '#core/audio/pcm'
import { lengthOf } from '#core/audio/track'
import { countWords } from '#core/manuscript/manuscript'
import { divided } from '#core/runsheet/units'
import { trackRateOf } from '#core/score/cast'
import { compilerVersion } from '#core/score/compile'
import { examinedIn } from '#core/score/examined'
import { shortcomingsOf } from '#core/score/shortcomings'
import type { CastUtterance, EngineRequest } from '#core/score/request'
import { unreadIn, type UnreadText } from '#core/score/warnings'
import { writtenText } from '#core/script/content'
import { labelsIn } from '#core/script/dialogue'
import { rolesOfPassage, type Part, type Passage } from '#core/script/script'
import { placeChoices } from '#core/takes/choice'
import { count } from '#core/tally'
import type { PartSummary, ToRead } from '#shared/api'
import { readsLetters } from '#voices/registry'
import { breather } from './breathe'
import { announcing, type Announced } from './announcements'
import type { Database } from './database'
import { contextOf, loadEdition, type LoadedEdition } from './editions'
import { keptDivision } from './run-sheet'
import { samplesAtSql } from './take-index'
import { compileBreathing, referencesOf, samplesOfPart, stateOf, toPassage, type PartCounts } from './score'

/** What lists and warnings need of a part, besides its takes. */
export interface PartFacts {
  readonly words: number
  readonly sentences: number
  /** Of rests and sounds, in samples; the speech comes to it. */
  readonly otherSamples: number
  /** Hz */
  readonly sampleRate: number
  /** Passages that the narrator speaks, and in which each role does. */
  readonly narrated: number
  readonly roles: Readonly<Record<string, number>>
  readonly speakerLabels: Readonly<Record<string, number>>
  /** Those of them that alternate. */
  readonly alternating: readonly string[]
  /** How often each sound of the library is asked for. */
  readonly sounds: Readonly<Record<string, number>>
  readonly unread: UnreadText | null
  /** What the engines cannot do of its directions, told without asking them; the first places. */
  readonly cannot: readonly { readonly text: string, readonly message: string }[]
  /** What the engine is asked about, one utterance of each sort. */
  readonly examined: readonly { readonly sort: string, readonly text: string, readonly request: EngineRequest }[]
}

/** To be changed when the facts of a part change though its script does not. */
const factsVersion = 9

const digest = (text: string): string => createHash('sha256').update(text).digest('base64')

/** All that the parts of an edition are compiled with, as a digest. */
function contextDigest({ edition, style, roles, sounds, wordbooks, decisions, choices }: LoadedEdition): string {
  return digest(JSON.stringify([factsVersion, compilerVersion, edition.language, style, roles, sounds, wordbooks.map(book => book.entries), decisions, choices]))
}

interface StalePart extends Omit<Part, 'passages'> {
  readonly bytes: number
}

/** All that a passage `s` in the database says; its digest tells whether it has changed. */
const passageText = 'ROW(s.id, s.kind, s.level, s.language, s.role, s.content)::text'

/** Digest of all that a part is compiled from; `text` is that of its passages, `announced` of what is said around them. */
function readOf(context: string, announced: Announced, { id, label }: Pick<Part, 'id' | 'label'>, text: string): string {
  return digest(JSON.stringify([context, label, text, announced.mark(id)]))
}

/** The parts whose summaries were made of something else than what there is now. */
async function stalePartsOf(database: Database, loaded: LoadedEdition, announced: Announced): Promise<StalePart[]> {
  const rows = await database.rows<StalePart & { readonly text: string, readonly known: string | null }>(
    'SELECT p.id, p.kind, p.label, p.included, m.read AS known, coalesce(sum(octet_length(t.whole)) FILTER (WHERE s.id IS NOT NULL), 0)::double precision AS bytes, '
    + 'md5(coalesce(string_agg(md5(t.whole), \',\' ORDER BY s.rank, s.id) FILTER (WHERE s.id IS NOT NULL), \'\')) AS text '
    // OFFSET 0 keeps the text from being made twice.
    + `FROM parts p LEFT JOIN passages s ON s.part_id = p.id CROSS JOIN LATERAL (SELECT ${passageText} AS whole OFFSET 0) t LEFT JOIN part_summaries m ON m.part_id = p.id WHERE p.edition_id = $1 GROUP BY p.id, m.read ORDER BY p.rank`, [loaded.edition.id])
  const context = contextDigest(loaded)
  return rows.flatMap(({ text, known, ...part }) => readOf(context, announced, part, text) === known ? [] : [part])
}

/** Brings the summaries of stale parts up to date somewhere else. */
export type SummariseElsewhere = (editionId: string, bytes: number) => Promise<boolean>

/** Finds the length of a part in samples as it is now. */
export type SamplesOf = (editionId: string, partId: string) => Promise<number>

const here: SummariseElsewhere = () => Promise.resolve(false)

/** What is kept of an edition is current while this is noted with it: `touch` makes a new revision for everything that a score reads. */
const stampSql = `'${factsVersion}.${compilerVersion} ' || e.revision`

/** Whether the summaries of an edition `e` are not up to date. */
export const isStaleSql = `(e.summarised IS DISTINCT FROM ${stampSql})`

/**
 * Begins a statement that does not wait until the disk has what it writes, so that nobody else waits for that either. What is kept here can be lost: it is made again then.
 * To be named among the tables of the statement.
 */
const quickly = 'WITH quick AS (SELECT set_config(\'synchronous_commit\', \'off\', true)) '

/** Updates that run in this process, by edition: whoever wants the same waits for it. */
const updates = new Map<string, Promise<void>>()
/** With edits that come all the time somebody else's update, and one of one's own, are recent enough. */
const mostWaits = 2

/**
 * Brings the summaries of an edition up to date. `elsewhere` may take it over, by how many bytes of text there are to be compiled. An edit that comes meanwhile is for the
 * next time. Throws a problem when there is no such edition, or it is broken.
 */
export async function bringUpToDate(database: Database, editionId: string, elsewhere = here): Promise<LoadedEdition> {
  for (let waits = 0; ; waits += 1) {
    const loaded = await loadEdition(editionId)
    const [stale] = await database.rows(`SELECT e.id FROM editions e WHERE e.id = $1 AND ${isStaleSql}`, [editionId])
    if (stale === undefined || waits > mostWaits) return loaded
    const running = updates.get(editionId)
    if (running !== undefined) {
      await running.catch(() => undefined)
      continue
    }
    const update = updateSummaries(database, loaded, elsewhere).finally(() => { updates.delete(editionId) })
    updates.set(editionId, update)
    await update
    return loaded
  }
}

async function updateSummaries(database: Database, loaded: LoadedEdition, elsewhere: SummariseElsewhere): Promise<void> {
  const { id, revision } = loaded.edition
  const announced = await announcing(loaded)
  const stale = await stalePartsOf(database, loaded, announced)
  const bytes = stale.reduce((sum, part) => sum + part.bytes, 0)
  if (stale.length > 0 && !await elsewhere(id, bytes)) await summariseParts(database, loaded, stale, announced)
  // With an edit that came meanwhile the revision is another one, and the next call looks again.
  await database.rows(`${quickly}UPDATE editions e SET summarised = ${stampSql} FROM quick WHERE e.id = $1 AND e.revision = $2 RETURNING e.id`, [id, revision])
}

async function summariseParts(database: Database, loaded: LoadedEdition, stale: readonly StalePart[], announced: Announced): Promise<void> {
  const [context, readContext] = [contextOf(loaded), contextDigest(loaded)]
  const rate = trackRateOf(context, context.engines)
  const breathe = breather()
  for (const part of stale) {
    // Text and digest in one statement: an edit that comes meanwhile must not put the facts of one text under the digest of another.
    const passages = await database.rows<Parameters<typeof toPassage>[0] & { readonly mark: string }>(
      `SELECT s.id, s.kind, s.level, s.content, s.language, s.role, md5(${passageText}) AS mark FROM passages s WHERE s.part_id = $1 ORDER BY s.rank, s.id`, [part.id])
    const read = readOf(readContext, announced, part, createHash('md5').update(passages.map(passage => passage.mark).join(',')).digest('hex'))
    const own = passages.map(toPassage)
    const whole = announced.announce({ ...part, passages: own })
    const score = announced.toned(await compileBreathing(whole, context, breathe))
    const references = referencesOf({ score, choices: placeChoices(loaded.choices, own) })
    const samples = references.map(reference => lengthOf(reference, score.utterances.slice(reference.from, reference.from + reference.count), rate))
    const division = keptDivision(divided(score, references, whole.passages, rate), samples)
    const { units, end } = division
    const facts: PartFacts = {
      ...textFacts(own), cannot: cannotIn(own, context, loaded.sounds),
      sentences: score.utterances.filter(utterance => utterance.beginsSentence).length,
      otherSamples: units.reduce((sum, unit) => sum + unit.otherSamples, end.soundSamples + msToSamples(end.restMs, rate)),
      sampleRate: rate, unread: unreadIn(score, readsLetters),
      examined: examinedIn<CastUtterance>(score, context).map(({ sort, utterance: { text, request } }) => ({ sort, text: text.slice(0, 200), request })),
    }
    await database.rows(
      `${quickly}INSERT INTO part_summaries (part_id, read, facts, takes, samples, sheet) SELECT $1, $2, $3, $4::text[], $5::integer[], $6 FROM quick `
      + 'WHERE EXISTS (SELECT 1 FROM parts WHERE id = $1) '
      + 'ON CONFLICT (part_id) DO UPDATE SET read = $2, facts = $3, takes = $4::text[], samples = $5::integer[], sheet = $6 RETURNING part_id',
      [part.id, read, JSON.stringify(facts), references.map(({ take }) => take), samples, JSON.stringify(division)])
  }
}

const mostCannot = 50

function cannotIn(passages: readonly Passage[], context: ReturnType<typeof contextOf>, sounds: LoadedEdition['sounds']): PartFacts['cannot'] {
  const found: { text: string, message: string }[] = []
  for (const passage of passages) {
    for (const { start, end, message } of shortcomingsOf(passage, context, context.engines, context.language, Object.keys(sounds))) {
      if (found.length === mostCannot) return found
      found.push({ text: writtenText(passage.content).slice(start, end).slice(0, 200), message })
    }
  }
  return found
}

function textFacts(passages: readonly Passage[]): Pick<PartFacts, 'words' | 'narrated' | 'roles' | 'speakerLabels' | 'alternating' | 'sounds'> {
  const [roles, sounds] = [new Map<string, number>(), new Map<string, number>()]
  const labels = labelsIn(passages)
  for (const passage of passages) {
    for (const role of rolesOfPassage(passage)) count(roles, role)
    for (const direction of passage.content.directions) if (direction.kind === 'sound') count(sounds, direction.sound)
  }
  return {
    words: passages.reduce((sum, passage) => sum + countWords(writtenText(passage.content)), 0),
    narrated: passages.filter(passage => passage.role === undefined).length,
    roles: Object.fromEntries(roles), speakerLabels: Object.fromEntries(labels.counts), alternating: [...labels.alternating], sounds: Object.fromEntries(sounds),
  }
}

/** The ids of all takes in which an edition is heard, in order. */
export async function takesOfEdition(database: Database, editionId: string): Promise<string[]> {
  const rows = await database.rows<{ takes: string[] }>('SELECT m.takes FROM parts p JOIN part_summaries m ON m.part_id = p.id WHERE p.edition_id = $1 ORDER BY p.rank', [editionId])
  return rows.flatMap(row => row.takes)
}

/** What a reading of an edition that is up to date would make now, of all parts that are not left out or of some of them. */
export async function toReadIn(database: Database, editionId: string, partIds: readonly string[] | null): Promise<ToRead> {
  const [row] = await database.rows<{ sentences: number, repeats: number, ms: number }>(
    'SELECT count(*)::integer AS sentences, coalesce(sum(k.times - 1), 0)::integer AS repeats, coalesce(sum(k.ms), 0)::double precision AS ms FROM ('
    + 'SELECT u.take, count(*) AS times, max(u.samples * 1000.0 / (m.facts->>\'sampleRate\')::integer) AS ms FROM parts p JOIN part_summaries m ON m.part_id = p.id CROSS JOIN LATERAL unnest(m.takes, m.samples) AS u(take, samples) '
    + 'LEFT JOIN takes t ON t.id = u.take WHERE p.edition_id = $1 AND p.included AND ($2::uuid[] IS NULL OR p.id = ANY($2)) AND t.id IS NULL GROUP BY u.take) k', [editionId, partIds === null ? null : [...partIds]])
  return { sentences: row!.sentences, repeats: row!.repeats, ms: Math.round(row!.ms) }
}

interface SummaryRow extends Pick<PartSummary, 'id' | 'kind' | 'label' | 'included' | 'about' | 'revision'>, PartCounts {
  readonly editionId: string
  readonly facts: PartFacts
  readonly speech: number
  /** Utterances whose take has no sound. */
  readonly silent: number
}

/** A part as lists show it, with what is kept of it. */
export interface SummarisedPart {
  readonly summary: PartSummary
  readonly facts: PartFacts
  /** Its length as it is now. */
  readonly samples: number
}

/** Lengths and states of the parts of editions that are up to date, in order, by edition. */
export async function summariesOf(
  database: Database, editionIds: readonly string[], samplesOf: SamplesOf = (editionId, partId) => samplesOfPart(database, editionId, partId),
): Promise<Map<string, SummarisedPart[]>> {
  const rows = await database.rows<SummaryRow>(
    'WITH asked AS (SELECT DISTINCT r.edition_id, u.key FROM readings r JOIN reading_utterances u ON u.reading_id = r.id WHERE r.edition_id = ANY($1)), '
    + 'taken AS (SELECT u.part_id, bool_or(r.state = \'running\') AS running FROM readings r JOIN reading_utterances u ON u.reading_id = r.id WHERE r.edition_id = ANY($1) GROUP BY u.part_id), '
    + 'spoken AS (SELECT p.id, count(*)::integer AS utterances, count(*) FILTER (WHERE t.id IS NULL)::integer AS missing, '
    + `sum(coalesce(${samplesAtSql('k.rate')}, k.samples))::double precision AS speech, `
    + 'count(*) FILTER (WHERE t.sample_count = 0)::integer AS silent, bool_and(a.key IS NOT NULL) FILTER (WHERE t.id IS NULL) AS all_asked, bool_or(a.key IS NOT NULL) FILTER (WHERE t.id IS NULL) AS any_asked '
    + 'FROM parts p JOIN part_summaries m ON m.part_id = p.id CROSS JOIN LATERAL (SELECT (m.facts->>\'sampleRate\')::integer AS rate, u.* FROM unnest(m.takes, m.samples) AS u(take, samples)) k '
    + 'LEFT JOIN takes t ON t.id = k.take LEFT JOIN asked a ON a.edition_id = p.edition_id AND a.key = k.take WHERE p.edition_id = ANY($1) GROUP BY p.id) '
    + 'SELECT p.edition_id AS "editionId", p.id, p.kind, p.label, p.included, p.about, p.revision, m.facts, coalesce(s.utterances, 0) AS utterances, coalesce(s.missing, 0) AS missing, coalesce(s.speech, 0) AS speech, '
    + 'coalesce(s.silent, 0) AS silent, s.all_asked AS "allAsked", s.any_asked AS "anyAsked", n.running AS "isRunning" '
    + 'FROM parts p JOIN part_summaries m ON m.part_id = p.id LEFT JOIN spoken s ON s.id = p.id LEFT JOIN taken n ON n.part_id = p.id WHERE p.edition_id = ANY($1) ORDER BY p.rank', [[...editionIds]])
  const summaries = new Map<string, SummarisedPart[]>(editionIds.map(id => [id, []]))
  for (const row of rows) summaries.get(row.editionId)!.push(await summaryOf(row, samplesOf))
  return summaries
}

async function summaryOf(row: SummaryRow, samplesOf: SamplesOf): Promise<SummarisedPart> {
  const { id, kind, label, included, about, revision, utterances, missing, facts } = row
  // Around a take without sound the longest of the rests counts, which only the whole part tells.
  const samples = row.silent > 0 ? await samplesOf(row.editionId, id) : row.speech + facts.otherSamples
  const durationMs = Math.round(samplesToMs(samples, facts.sampleRate))
  const { words, sentences } = facts
  return { facts, samples, summary: { id, kind, label, included, about, revision, words, sentences, utterances, missing, durationMs, exact: missing === 0, state: stateOf(row) } }
}
