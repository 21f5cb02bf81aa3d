import { onScopeDispose, readonly, ref, type Ref } from 'vue'
import type { PageUtterance, SpokenWord } from '#shared/api'
import { useNotices } from '~/stores/notices'
import { useFirstSteps } from './useFirstSteps'
import { ask, askBytes } from '~/utils/api'
import { decodeWav } from '~/utils/wav'

/** Utterances fetched ahead of the one that sounds. */
const ahead = 3
/** Less of a sentence than this is not gone on with, s. */
const leastLeft = 0.1
/** Time between scheduling and sounding, s. */
const lead = 0.03

interface Scheduled {
  readonly index: number
  readonly startsAt: number
  readonly endsAt: number
  readonly source: AudioBufferSourceNode
}

/**
 * Plays utterances of a part one after the other with their exact rests, each as soon as it is there: from
 * its take, or read at once. Takes in edits made while it plays, from the next utterance on.
 */
export function useListening(partId: Ref<string | null>, utterances: Ref<readonly PageUtterance[]>) {
  const notices = useNotices()
  const current = ref<number | null>(null)
  const playing = ref(false)
  /** Seconds into the current utterance. */
  const elapsed = ref(0)
  /** The word that sounds, by its place in the written text of its passage. */
  const word = ref<SpokenWord | null>(null)
  const words = new Map<string, readonly SpokenWord[]>()
  let context: AudioContext | null = null
  let scheduled: Scheduled[] = []
  let run = 0
  let frame = 0
  const firstSteps = useFirstSteps()
  const fetched = new Map<string, Promise<ArrayBuffer>>()

  /** Plays from an utterance on; with `until`, up to and including that one; with `at`, so many seconds into the first. */
  async function play(from: number, until = Number.POSITIVE_INFINITY, at = 0): Promise<void> {
    stop()
    const mine = ++run
    playing.value = true
    firstSteps.tick('heard')
    current.value = from
    elapsed.value = at
    // Under way while the audio device wakes.
    void prefetch(from)
    context ??= new AudioContext()
    await context.resume()
    let clock = context.currentTime + lead
    for (let index = from; index <= until; index += 1) {
      const utterance = utterances.value[index]
      if (utterance === undefined) break
      const buffer = await load(index).catch((error: Error) => {
        if (mine === run) notices.show(error.message)
        return null
      })
      if (mine !== run) return
      if (buffer === null) return stop()
      const rest = index === from ? 0 : utterance.restBeforeMs / 1000
      clock = Math.max(clock + rest, context.currentTime + lead)
      // What was changed since may be shorter.
      const offset = index === from && at < buffer.duration - leastLeft ? at : 0
      schedule(buffer, index, clock, offset)
      void loadWords(utterance.key)
      // Only now, so that nothing is asked for before the first sound but that.
      for (let next = index + 1; next <= Math.min(index + ahead, until); next += 1) void prefetch(next)
      clock += buffer.duration - offset
      // Not more than two utterances wait in the audio graph, so that an edit is heard soon.
      while (mine === run && scheduled.length > 2) await new Promise(resolve => setTimeout(resolve, 50))
      if (mine !== run) return
    }
    scheduled.at(-1)?.source.addEventListener('ended', () => { if (mine === run) end() })
    if (scheduled.length === 0) end()
  }

  /** Goes on where it was stopped. */
  const resume = (): Promise<void> => play(current.value ?? 0, Number.POSITIVE_INFINITY, elapsed.value)

  function schedule(buffer: AudioBuffer, index: number, at: number, offset: number): void {
    const source = context!.createBufferSource()
    source.buffer = buffer
    source.connect(context!.destination)
    source.start(at, offset)
    const startsAt = at - offset
    const entry = { index, startsAt, endsAt: startsAt + buffer.duration, source }
    scheduled.push(entry)
    source.addEventListener('ended', () => { scheduled = scheduled.filter(other => other !== entry) })
    if (frame === 0) follow()
  }

  function follow(): void {
    const now = context!.currentTime
    const sounding = scheduled.findLast(entry => entry.startsAt <= now)
    if (sounding !== undefined) {
      current.value = sounding.index
      elapsed.value = Math.min(now, sounding.endsAt) - sounding.startsAt
      const ms = elapsed.value * 1000
      word.value = words.get(utterances.value[sounding.index]?.key ?? '')?.findLast(each => each.ms <= ms) ?? null
    }
    frame = playing.value ? requestAnimationFrame(follow) : 0
  }

  /** At the end one begins anew. */
  function end(): void {
    stop()
    elapsed.value = 0
  }

  /** What sounds stops, and stays where it is. */
  function stop(): void {
    run += 1
    cancelAnimationFrame(frame)
    frame = 0
    for (const { source } of scheduled) source.stop()
    scheduled = []
    playing.value = false
    word.value = null
    fetched.clear()
    words.clear()
  }

  function prefetch(index: number): Promise<ArrayBuffer> | null {
    const utterance = utterances.value[index]
    if (utterance === undefined) return null
    let bytes = fetched.get(utterance.key)
    if (bytes === undefined) {
      bytes = askBytes(`/api/parts/${partId.value}/audio/${utterance.key}`)
      bytes.catch(() => fetched.delete(utterance.key))
      fetched.set(utterance.key, bytes)
    }
    return bytes
  }

  /** Only the light follows the words: without their times the sentence is lit all the same. */
  async function loadWords(key: string): Promise<void> {
    if (words.has(key)) return
    words.set(key, [])
    const found = await ask<SpokenWord[]>(`/api/parts/${partId.value}/words/${key}`).catch(() => [])
    if (words.has(key)) words.set(key, found)
  }

  async function load(index: number): Promise<AudioBuffer> {
    return decodeWav(context!, (await prefetch(index))!)
  }

  /** Chooses a sentence without playing it. */
  function select(index: number): void {
    if (playing.value || index === current.value) return
    current.value = index
    elapsed.value = 0
  }

  onScopeDispose(() => {
    stop()
    void context?.close()
  })

  return { current: readonly(current), word, playing, elapsed, play, resume, stop, select }
}
