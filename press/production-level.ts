import { applyGain, msToSamples } from '#core/audio/pcm'
import { countsTwice, type DeliveryProfile } from '#core/delivery/profile'
import { throughEqualiser } from '#core/mastering/equaliser'
import { levelsOf, measure, type Measure } from '#core/mastering/measure'
import type { LevelSample } from '#core/runsheet/level-sample'

/** Rests are not loud, but count where a block of 400 ms has speech in it, too (ITU-R BS.1770-4). */
const restMs = 400

/**
 * The level of a production before it is mastered, by a sample of its takes at a rate (Hz): loudness (LUFS), or RMS (dBFS) with the rests and margins of its files. Null where there is nothing to
 * measure. `load` gives null for a take that does not count. Rejects like `load`.
 */
export async function productionLevel({ takes, speechShare }: LevelSample, { target, ...profile }: DeliveryProfile, load: (take: string) => Promise<Int16Array | null>, sampleRate: number): Promise<number | null> {
  const measures: Measure[] = []
  let [energy, speech] = [0, 0]
  for (const { take, gainDb, times } of takes) {
    const samples = await load(take)
    if (samples === null || samples.length === 0) continue
    const rested = new Int16Array(samples.length + msToSamples(restMs, sampleRate))
    rested.set(applyGain(samples, gainDb))
    const measured = measure(throughEqualiser(rested, profile.equaliser, sampleRate), sampleRate)
    measures.push(...Array<Measure>(times).fill(measured))
    energy += measured.energy * times
    speech += samples.length * times
  }
  if (target === null || energy === 0) return null
  return target.measure === 'integrated' ? levelsOf(measures, { dualMono: countsTwice(profile) }).integratedDb : 10 * Math.log10(energy / speech * speechShare)
}
