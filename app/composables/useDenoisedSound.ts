import type { Ref } from 'vue'
import { noiseOf, withoutNoise } from '#core/mastering/denoise'
import { askBytes } from '~/utils/api'
import { audioBuffer, samplesOfWav } from '~/utils/wav'
import { crossfade, useOnAndOff } from './useOnAndOff'

/** So much of a sound is heard, s. */
const mostSeconds = 30

/** Plays the beginning of a sound with its noise lowered as a delivery does it, and as it is, from one to the other while it sounds. */
export function useDenoisedSound(byDb: Ref<number>, isOn: Ref<boolean>) {
  const { playing, play: playBoth, stop } = useOnAndOff(isOn)
  /** Of the sound that was played last, dBFS; null where none can be told from the rest. */
  const noiseDb = ref<number | null | undefined>(undefined)

  /** Plays the sound at an address. Rejects with a problem. */
  function play(address: string): Promise<void> {
    return playBoth(async ({ context, changed, plain, keep, isStopped }) => {
      const { samples, sampleRate } = samplesOfWav(await askBytes(address))
      if (isStopped()) return
      const noise = noiseOf(samples, sampleRate)
      noiseDb.value = noise?.levelDb ?? null
      const heard = samples.subarray(0, mostSeconds * sampleRate)
      const less = noise === null ? heard : withoutNoise(heard, sampleRate, noise, byDb.value)
      const at = context.currentTime + crossfade
      for (const [way, sound] of [[changed, less], [plain, heard]] as const) {
        const source = new AudioBufferSourceNode(context, { buffer: audioBuffer(context, { samples: sound, sampleRate }) })
        if (!keep(source)) return
        source.connect(way)
        source.start(at)
      }
    })
  }

  return { playing, noiseDb, play, stop }
}
