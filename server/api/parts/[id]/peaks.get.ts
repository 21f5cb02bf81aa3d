import { peaks } from '#core/audio/pcm'
import type { PagePeaks } from '#shared/api'
import { isDamage, loadTake } from '#takes/library'
import { scorePart } from '../../../utils/part'
import { idParam, route } from '../../../utils/route'

const peaksPerSecond = 20

/** The waveform of a part, take by take. */
export default route(async (event, { library }): Promise<PagePeaks> => {
  const { part } = await scorePart(idParam(event))
  const takes = await library.index.find(part.score.utterances.map(utterance => utterance.key))
  const result: Record<string, number[]> = {}
  for (const take of takes.values()) {
    // One that is damaged counts as not read now, and has no peaks.
    const samples = await loadTake(library, take).catch((error: unknown) => {
      if (!isDamage(error)) throw error
      return null
    })
    if (samples === null) continue
    const count = Math.max(1, Math.round(samples.length / take.sampleRate * peaksPerSecond))
    result[take.key] = peaks(samples, count).map(peak => Math.round(peak * 100) / 100)
  }
  return result
})
