import { onScopeDispose, shallowRef } from 'vue'
import type { WordsAnswer, WordsQuestion } from '~/workers/words.worker'

/** Questions over the whole script, answered by a worker so that the page stays quick. */
export function useWords(editionId: string) {
  const worker = new Worker(new URL('../workers/words.worker.ts', import.meta.url), { type: 'module' })
  const waiting = new Map<number, { readonly take: (value: unknown) => void, readonly done: (value: unknown) => void, readonly fail: (error: Error) => void }>()
  let last = 0
  worker.onmessage = ({ data }: MessageEvent<WordsAnswer>) => {
    const asked = waiting.get(data.id)
    if (asked === undefined) return
    if ('problem' in data) asked.fail(new Error(data.problem))
    else if (data.done) asked.done(data.value)
    else asked.take(data.value)
    if (data.done) waiting.delete(data.id)
  }
  worker.onerror = event => {
    for (const asked of waiting.values()) asked.fail(new Error(event.message || 'The script could not be looked through. Load the page again.'))
    waiting.clear()
  }
  onScopeDispose(() => worker.terminate())

  /** Asks; `take` is given what is known before the whole answer. */
  function askWorker<T>(question: WordsQuestion, take: (value: T) => void = () => undefined): Promise<T> {
    last += 1
    const id = last
    return new Promise<T>((resolve, reject) => {
      waiting.set(id, { take: value => take(value as T), done: value => resolve(value as T), fail: reject })
      // What is reactive cannot be handed over as it is.
      worker.postMessage({ id, question: JSON.parse(JSON.stringify(question)) as WordsQuestion })
    })
  }

  const opened = shallowRef(false)
  /** Loads the script again, as it is now. */
  async function open(): Promise<void> {
    await askWorker({ ask: 'open', editionId })
    opened.value = true
  }
  return { ask: askWorker, open, opened }
}
