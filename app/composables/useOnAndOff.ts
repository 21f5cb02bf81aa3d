import { onScopeDispose, ref, watch, type Ref } from 'vue'

/** From on to off and back, and before the first sound, s. */
export const crossfade = 0.02

/** What plays: a way for the changed sound and one for the sound as it was. */
export interface TwoWays {
  readonly context: AudioContext
  readonly changed: GainNode
  readonly plain: GainNode
  /** Keeps a source until all is stopped; false when that has happened already. */
  readonly keep: (source: AudioBufferSourceNode) => boolean
  readonly isStopped: () => boolean
}

/** Plays something with a change and without, from one to the other while it sounds. */
export function useOnAndOff(isOn: Ref<boolean>) {
  const playing = ref(false)
  let context: AudioContext | null = null
  let sources: AudioBufferSourceNode[] = []
  let [changed, plain]: (GainNode | null)[] = [null, null]
  /** Counts what is played, so that one that was stopped while it loaded does not go on. */
  let run = 0

  watch(isOn, () => {
    changed?.gain.setTargetAtTime(isOn.value ? 1 : 0, context!.currentTime, crossfade)
    plain?.gain.setTargetAtTime(isOn.value ? 0 : 1, context!.currentTime, crossfade)
  })

  /** Plays what `start` starts; the last source that it keeps ends it. Rejects like `start`. */
  async function play(start: (ways: TwoWays) => Promise<void>): Promise<void> {
    stop()
    const mine = ++run
    const isStopped = (): boolean => mine !== run
    playing.value = true
    try {
      context ??= new AudioContext()
      await context.resume()
      if (isStopped()) return
      changed = new GainNode(context, { gain: isOn.value ? 1 : 0 })
      plain = new GainNode(context, { gain: isOn.value ? 0 : 1 })
      for (const way of [changed, plain]) way.connect(context.destination)
      const keep = (source: AudioBufferSourceNode): boolean => {
        if (!isStopped()) sources.push(source)
        return !isStopped()
      }
      await start({ context, changed, plain, keep, isStopped })
      if (isStopped()) return
      const last = sources.at(-1)
      if (last === undefined) stop()
      else last.onended = stop
    } catch (error) {
      if (!isStopped()) stop()
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
