import type { CastScore, CastUtterance } from '../score/request'
import type { BedPlay, SoundPlay } from '../score/sounds'
import type { OpenReference } from '../takes/choose'

/** A stretch of a score with the takes in which it is heard. */
export interface ScoreSpan<R extends OpenReference = OpenReference> {
  readonly score: CastScore
  readonly references: readonly R[]
  /** Utterances, up to and without `to`. No take lies on both sides of an end. */
  readonly from: number
  readonly to: number
}

/**
 * Stretches of scores as one score. One that begins within a part begins without a rest: margins are the file's own. Between two parts there is at least `restMs`. Sounds at the end of a part are
 * heard before what follows; a bed is heard as far as its utterances are there.
 */
export function joinSpans<R extends OpenReference>(spans: readonly ScoreSpan<R>[], restMs: number): { readonly score: CastScore, readonly references: R[] } {
  const utterances: CastUtterance[] = []
  const references: R[] = []
  const beds: BedPlay[] = []
  let soundsAfter: readonly SoundPlay[] = []
  let restAfterMs = 0
  for (const { score, references: all, from, to } of spans) {
    const shift = utterances.length - from
    const inside = score.utterances.slice(from, to)
    if (inside.length === 0) continue
    const [first, ...others] = inside as [CastUtterance]
    const entry = entryOf(first)
    const entryMs = utterances.length > 0 ? Math.max(entry, restAfterMs, from === 0 ? restMs : 0) : from === 0 ? entry : 0
    const opened = withEntry(first, entryMs)
    const soundsBefore = [...soundsAfter, ...(opened.soundsBefore ?? [])]
    utterances.push({ ...opened, ...(soundsBefore.length === 0 ? {} : { soundsBefore }) }, ...others)
    references.push(...all.filter(reference => reference.from >= from && reference.from < to).map(reference => ({ ...reference, from: reference.from + shift })))
    for (const bed of score.beds ?? []) {
      if (bed.to < from || bed.from >= to) continue
      beds.push({ ...bed, from: Math.max(bed.from, from) + shift, to: Math.min(bed.to, to - 1) + shift })
    }
    const reachesEnd = to === score.utterances.length
    soundsAfter = reachesEnd ? score.soundsAfter ?? [] : []
    restAfterMs = reachesEnd ? score.restAfterMs ?? 0 : 0
  }
  const roomTone = spans[0]?.score.roomTone
  return {
    score: {
      partId: spans[0]?.score.partId ?? '', utterances,
      ...(soundsAfter.length === 0 ? {} : { soundsAfter }), ...(restAfterMs === 0 ? {} : { restAfterMs }), ...(beds.length === 0 ? {} : { beds }), ...(roomTone === undefined ? {} : { roomTone }),
    },
    references,
  }
}

/** The rest that an utterance begins with: before its first sound, else before its first word; ms. */
export function entryOf({ soundsBefore, restBeforeMs }: CastUtterance): number {
  return soundsBefore?.[0]?.restBeforeMs ?? restBeforeMs
}

function withEntry(utterance: CastUtterance, restBeforeMs: number): CastUtterance {
  const [sound, ...others] = utterance.soundsBefore ?? []
  return sound === undefined ? { ...utterance, restBeforeMs } : { ...utterance, soundsBefore: [{ ...sound, restBeforeMs }, ...others] }
}
