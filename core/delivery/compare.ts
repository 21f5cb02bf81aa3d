import { inCommon } from './in-common'
import type { ManifestSentence } from './manifest'

/** A file of a delivery, as it was noted. */
export interface DeliveredBefore {
  readonly name: string
  readonly title: string
  /** Where it begins; null where that is gone. */
  readonly key: string | null
  readonly sha256: string
  readonly durationMs: number
  readonly gainDb: number | null
  readonly sentences: readonly ManifestSentence[]
}

/** What a delivery has otherwise than the one before it. */
export interface DeliveryChanges {
  readonly files: readonly FileChange[]
  /** Files that have the same bytes. */
  readonly same: number
}

export interface FileChange {
  readonly kind: 'new' | 'changed' | 'renamed' | 'gone'
  readonly name: string
  readonly title: string
  /** Its name before, where that was another. */
  readonly nameBefore: string | null
  readonly durationMs: number
  /** Of a changed file, how much longer it is. */
  readonly longerMs: number
  /** The first of the sentences that differ. */
  readonly sentences: readonly SentenceChange[]
  /** How many differ. */
  readonly sentenceCount: number
  /** How much louder it was made, where that is all that has changed, dB; 0 where it is something else, as its tags. */
  readonly louderDb: number | null
}

/** Where both are the same words, they sound otherwise. */
export interface SentenceChange {
  readonly before: string | null
  readonly after: string | null
  /** Where it is heard in the file; null for one that is gone. */
  readonly atMs: number | null
}

/** Sentences that are told of a file. */
const mostSentences = 50

/** A sentence that was not read again has the same length, to a sample. */
const sameLengthMs = 0.5

/** Compares the files of two deliveries: those that begin at the same place, else those of the same name. */
export function compareDeliveries(before: readonly DeliveredBefore[], after: readonly DeliveredBefore[]): DeliveryChanges {
  const left = new Set(before)
  const pairs = new Map<DeliveredBefore, DeliveredBefore>()
  for (const markOf of [({ key }: DeliveredBefore) => key, ({ name }: DeliveredBefore) => name, ({ sha256 }: DeliveredBefore) => sha256]) {
    const byMark = new Map([...left].map(file => [markOf(file), file]))
    for (const file of after.filter(each => !pairs.has(each) && markOf(each) !== null)) {
      const old = byMark.get(markOf(file))
      if (old !== undefined && left.delete(old)) pairs.set(file, old)
    }
  }
  const files = after.flatMap((file): FileChange[] => {
    const old = pairs.get(file)
    if (old === undefined) return [{ ...plain(file), kind: 'new' }]
    const nameBefore = old.name === file.name ? null : old.name
    if (old.sha256 !== file.sha256) return [{ ...plain(file), ...changeOf(old, file), kind: 'changed', nameBefore }]
    return nameBefore === null ? [] : [{ ...plain(file), kind: 'renamed', nameBefore }]
  })
  const gone = before.filter(file => left.has(file)).map((file): FileChange => ({ ...plain(file), kind: 'gone' }))
  return { files: [...files, ...gone], same: after.length - files.length }
}

function plain({ name, title, durationMs }: DeliveredBefore): Omit<FileChange, 'kind'> {
  return { name, title, nameBefore: null, durationMs, longerMs: 0, sentences: [], sentenceCount: 0, louderDb: null }
}

function changeOf(old: DeliveredBefore, file: DeliveredBefore): Pick<FileChange, 'longerMs' | 'sentences' | 'sentenceCount' | 'louderDb'> {
  const sentences = sentenceChanges(old.sentences, file.sentences)
  return {
    longerMs: file.durationMs - old.durationMs, sentences: sentences.slice(0, mostSentences), sentenceCount: sentences.length,
    louderDb: sentences.length > 0 || old.gainDb === null || file.gainDb === null ? null : file.gainDb - old.gainDb,
  }
}

function sentenceChanges(before: readonly ManifestSentence[], after: readonly ManifestSentence[]): SentenceChange[] {
  const changes: SentenceChange[] = []
  const lengthOf = ({ startMs, endMs }: ManifestSentence): number => endMs - startMs
  let [atBefore, atAfter] = [0, 0]
  const differing = (toBefore: number, toAfter: number): void => {
    for (; atBefore < toBefore || atAfter < toAfter; atBefore += 1, atAfter += 1) {
      const [old, now] = [atBefore < toBefore ? before[atBefore]! : null, atAfter < toAfter ? after[atAfter]! : null]
      changes.push({ before: old?.text ?? null, after: now?.text ?? null, atMs: now?.startMs ?? null })
    }
    atBefore = toBefore
    atAfter = toAfter
  }
  for (const [oldAt, nowAt] of inCommon(before.map(({ text }) => text), after.map(({ text }) => text))) {
    differing(oldAt, nowAt)
    const [old, now] = [before[atBefore++]!, after[atAfter++]!]
    if (Math.abs(lengthOf(old) - lengthOf(now)) > sameLengthMs) changes.push({ before: old.text, after: now.text, atMs: now.startMs })
  }
  differing(before.length, after.length)
  return changes
}
