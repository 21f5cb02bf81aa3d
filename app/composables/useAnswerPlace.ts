import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch, type ComputedRef, type Ref } from 'vue'

/** Room that is left below an answer, px. */
const gap = 12

/** Where an answer about a word stands in the margin: beside the word's line, as far as all of it is in view. `lineTop` gives that line in px from the top of the window. */
export function useAnswerPlace(word: Readonly<Ref<object | null>>, lineTop: () => number | null): {
  readonly margin: Ref<HTMLElement | null>
  readonly answer: Ref<HTMLElement | null>
  readonly top: ComputedRef<number>
  /** Looks again, when the page has moved. */
  readonly find: () => void
} {
  const margin = ref<HTMLElement | null>(null)
  const answer = ref<HTMLElement | null>(null)
  const { height: room } = useElementSize(margin)
  const { height } = useElementSize(answer, undefined, { box: 'border-box' })
  const line = ref(0)

  function find(): void {
    const top = lineTop()
    if (top !== null && margin.value !== null) line.value = top - margin.value.getBoundingClientRect().top
  }
  watch(word, () => void nextTick(find))
  return { margin, answer, find, top: computed(() => Math.max(0, Math.min(line.value, room.value - height.value - gap))) }
}
