import { applyGain, msToSamples } from '#core/audio/pcm'
import { countsTwice, type DeliveryProfile } from '#core/delivery/profile'
import { throughEqualiser } from '#core/mastering/equaliser'
import { levelBy, measureForLevel, powerDb, silenceDb, type LevelParts } from '#core/mastering/measure'
import type { LevelSample } from '#core/runsheet/level-sample'

/** Rests are not loud, but count where a block of 400 ms has speech in it, too (ITU-R BS.1770-4). */
const restMs = 400

/**
 * The level of a production before it is mastered, by a sample of its takes at a rate (Hz): loudness (LUFS), or RMS (dBFS) with the rests and margins of its files. Null where there is nothing to
 * measure. `load` gives null for a take that does not count. Rejects like `load`.
 */
export async function productionLevel({ takes, speechShare }: LevelSample, { target, ...profile }: DeliveryProfile, load: (take: string) => Promise<Int16Array | null>, sampleRate: number): Promise<number | null> {
  if (target === null) return null
  const measures: LevelParts[] = []
  let [energy, speech] = [0, 0]
  for (const { take, gainDb, times } of takes) {
    const samples = await load(take)
    if (samples === null || samples.length === 0) continue
    const rested = new Int16Array(samples.length + msToSamples(restMs, sampleRate))
    rested.set(applyGain(samples, gainDb))
    const measured = measureForLevel(throughEqualiser(rested, profile.equaliser, sampleRate), sampleRate, target.measure)
    measures.push(...Array<LevelParts>(times).fill(measured))
    energy += measured.energy * times
    speech += samples.length * times
  }
  const levelDb = target.measure === 'integrated' ? levelBy('integrated', measures, countsTwice(profile)) : powerDb(energy / Math.max(1, speech) * speechShare)
  return levelDb <= silenceDb ? null : levelDb
}
