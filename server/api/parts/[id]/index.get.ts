import { samplesToMs } from '#core/audio/pcm'
import type { Page } from '#shared/api'
import { pagePassage } from '#store/edits'
import { askedFor } from '#store/readings'
import { summarise, trackOf } from '#store/score'
import { scorePart } from '../../../utils/part'
import { idParam, route } from '../../../utils/route'
import { saidPlaces } from '../../../utils/said-words'

/** A part with its passages and the utterances they are spoken in. */
export default route(async (event, { database, library }): Promise<Page> => {
  const { scored, part } = await scorePart(idParam(event))
  const takes = await library.index.find(part.score.utterances.map(utterance => utterance.key))
  const [summary] = await summarise(database, library.index, scored)
  const track = trackOf(part, takes)
  const missing = part.score.utterances.filter(utterance => !takes.has(utterance.key)).map(utterance => utterance.key)
  const { parts, keys } = await askedFor(database, scored.edition.id, missing)
  // A reading took this part in, and what is missing now was not there then.
  const wasRead = parts.has(part.row.id)
  return {
    part: summary!,
    passages: part.passages.map(pagePassage),
    utterances: track.timeline.map(({ utterance, leadSample, endSample }) => ({
      key: utterance.key, passageId: utterance.passageId, start: utterance.start, end: utterance.end,
      restBeforeMs: utterance.soundsBefore?.[0]!.restBeforeMs ?? utterance.restBeforeMs,
      durationMs: samplesToMs(endSample - leadSample, track.sampleRate),
      read: takes.has(utterance.key),
      stale: wasRead && !takes.has(utterance.key) && !keys.has(utterance.key),
    })),
    said: saidPlaces(scored, part),
  }
})
