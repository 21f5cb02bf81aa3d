import { onScopeDispose, ref, watch, type Ref } from 'vue'
import type { Equaliser } from '#core/mastering/equaliser'
import type { Page } from '#shared/api'
import { ask, askBytes } from '~/utils/api'
import { decodeWav } from '~/utils/wav'

/** Sentences that are heard, one after the other. */
const mostSentences = 4
/** From on to off and back, s. */
const crossfade = 0.02

/** Plays the beginning of a part with an equaliser and without, from one to the other while it sounds. The filters of browsers are by the same formulas as those of deliveries (Web Audio, Audio EQ Cookbook). */
export function useEqualisedVoice(equaliser: Ref<Equaliser>, isOn: Ref<boolean>) {
  const playing = ref(false)
  let context: AudioContext | null = null
  let sources: AudioBufferSourceNode[] = []
  let input: GainNode | null = null
  let [wet, dry]: (GainNode | null)[] = [null, null]
  let filters: BiquadFilterNode[] = []
  /** Counts what is played, so that one that was stopped while it loaded does not go on. */
  let run = 0

  function connect(): void {
    if (context === null || input === null) return
    input.disconnect()
    for (const filter of filters) filter.disconnect()
    const { highPassHz, bands } = equaliser.value
    filters = [
      ...(highPassHz === null ? [] : [new BiquadFilterNode(context, { type: 'highpass', frequency: highPassHz, Q: 20 * Math.log10(Math.SQRT1_2) })]),
      ...bands.map(({ hz, gainDb, q }) => new BiquadFilterNode(context!, { type: 'peaking', frequency: hz, gain: gainDb, Q: q })),
    ]
    const last = filters.reduce<AudioNode>((before, filter) => before.connect(filter), input)
    last.connect(wet!)
    input.connect(dry!)
  }

  function balance(): void {
    wet?.gain.setTargetAtTime(isOn.value ? 1 : 0, context!.currentTime, crossfade)
    dry?.gain.setTargetAtTime(isOn.value ? 0 : 1, context!.currentTime, crossfade)
  }

  watch(equaliser, connect)
  watch(isOn, balance)

  /** Plays the beginning of a part; what is not read yet is read. Rejects with a problem. */
  async function play(partId: string): Promise<void> {
    stop()
    const mine = ++run
    playing.value = true
    try {
      const { utterances } = await ask<Page>(`/api/parts/${partId}`)
      context ??= new AudioContext()
      await context.resume()
      if (mine !== run) return
      input = new GainNode(context)
      wet = new GainNode(context, { gain: isOn.value ? 1 : 0 })
      dry = new GainNode(context, { gain: isOn.value ? 0 : 1 })
      wet.connect(context.destination)
      dry.connect(context.destination)
      connect()
      let at = context.currentTime + crossfade
      for (const { key, restBeforeMs } of utterances.slice(0, mostSentences)) {
        const buffer = decodeWav(context, await askBytes(`/api/parts/${partId}/audio/${key}`))
        if (mine !== run) return
        const source = new AudioBufferSourceNode(context, { buffer })
        source.connect(input)
        at = Math.max(at + (sources.length === 0 ? 0 : restBeforeMs / 1000), context.currentTime)
        source.start(at)
        at += buffer.duration
        sources.push(source)
      }
      const last = sources.at(-1)
      if (mine !== run) return
      if (last === undefined) stop()
      else last.onended = stop
    } catch (error) {
      if (mine === run) stop()
      throw error
    }
  }

  function stop(): void {
    run += 1
    for (const source of sources) {
      source.onended = null
      source.stop()
    }
    sources = []
    playing.value = false
  }

  onScopeDispose(() => {
    stop()
    void context?.close()
  })
  return { playing, play, stop }
}
