import { watch, type Ref } from 'vue'
import type { Equaliser } from '#core/mastering/equaliser'
import type { Page } from '#shared/api'
import { ask, askBytes } from '~/utils/api'
import { decodeWav } from '~/utils/wav'
import { crossfade, useOnAndOff, type TwoWays } from './useOnAndOff'

/** Sentences that are heard, one after the other. */
const mostSentences = 4

/** Plays the beginning of a part with an equaliser and without, from one to the other while it sounds. The filters of browsers are by the same formulas as those of deliveries (Web Audio, Audio EQ Cookbook). */
export function useEqualisedVoice(equaliser: Ref<Equaliser>, isOn: Ref<boolean>) {
  const { playing, play: playBoth, stop } = useOnAndOff(isOn)
  let ways: TwoWays | null = null
  let input: GainNode | null = null
  let filters: BiquadFilterNode[] = []

  function connect(): void {
    if (ways === null || input === null) return
    const { context, changed, plain } = ways
    input.disconnect()
    for (const filter of filters) filter.disconnect()
    const { highPassHz, bands } = equaliser.value
    filters = [
      ...(highPassHz === null ? [] : [new BiquadFilterNode(context, { type: 'highpass', frequency: highPassHz, Q: 20 * Math.log10(Math.SQRT1_2) })]),
      ...bands.map(({ hz, gainDb, q }) => new BiquadFilterNode(context, { type: 'peaking', frequency: hz, gain: gainDb, Q: q })),
    ]
    const last = filters.reduce<AudioNode>((before, filter) => before.connect(filter), input)
    last.connect(changed)
    input.connect(plain)
  }

  watch(equaliser, connect)

  /** Plays the beginning of a part; what is not read yet is read. Rejects with a problem. */
  function play(partId: string): Promise<void> {
    return playBoth(async begun => {
      const { context, keep, isStopped } = begun
      const { utterances } = await ask<Page>(`/api/parts/${partId}`)
      if (isStopped()) return
      ways = begun
      input = new GainNode(context)
      connect()
      let at = context.currentTime + crossfade
      for (const [index, { key, restBeforeMs }] of utterances.slice(0, mostSentences).entries()) {
        const buffer = decodeWav(context, await askBytes(`/api/parts/${partId}/audio/${key}`))
        const source = new AudioBufferSourceNode(context, { buffer })
        if (!keep(source)) return
        source.connect(input)
        at = Math.max(at + (index === 0 ? 0 : restBeforeMs / 1000), context.currentTime)
        source.start(at)
        at += buffer.duration
      }
    })
  }

  return { playing, play, stop }
}
