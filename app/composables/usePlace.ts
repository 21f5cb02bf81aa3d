import { useDebounceFn, useEventListener } from '@vueuse/core'
import { nextTick, onBeforeUnmount, watch, type Ref } from 'vue'
import type { PageUtterance } from '#shared/api'
import { keepPlace, placeIn, type Place } from '~/utils/place'

interface Shown {
  readonly partId: Readonly<Ref<string | null>>
  readonly utterances: Readonly<Ref<readonly PageUtterance[]>>
  readonly current: Readonly<Ref<number | null>>
  readonly scroller: Readonly<Ref<HTMLElement | null>>
}

/** Keeps the part, sentence and scroll of a production in this browser, and gives them back. */
export function usePlace(editionId: string, { partId, utterances, current, scroller }: Shown) {
  /** Nothing is kept before the first part is open at its place, while another one is being opened, and after the page is left. */
  let isShown = false
  let isLeft = false
  let opening = 0

  function keep(): void {
    if (!isShown || isLeft || opening > 0 || partId.value === null) return
    const index = current.value ?? 0
    keepPlace(editionId, { partId: partId.value, sentence: utterances.value[index]?.key ?? null, index, scroll: scroller.value?.scrollTop ?? 0 })
  }

  const keepSoon = useDebounceFn(keep, 200)
  watch([partId, current], () => void keepSoon())
  useEventListener(scroller, 'scroll', () => void keepSoon(), { passive: true })
  useEventListener(window, 'pagehide', keep)
  onBeforeUnmount(() => {
    keep()
    isLeft = true
  })

  /** Opens a part, which gives the place in it to scroll back to. */
  async function open(part: () => Promise<Place | null>): Promise<void> {
    opening += 1
    try {
      await scrollBack(await part())
    } finally {
      opening -= 1
    }
    isShown = true
    keep()
  }

  /** The sentence of a place in the part that is shown; the first one where the place is in another part. */
  function sentenceOf(place: Place | null): number {
    if (place === null || place.partId !== partId.value) return 0
    const same = utterances.value.findIndex(utterance => utterance.key === place.sentence)
    return same >= 0 ? same : Math.max(0, Math.min(place.index, utterances.value.length - 1))
  }

  /** Scrolls back, as soon as the page is as long as it was. */
  async function scrollBack(place: Place | null): Promise<void> {
    if (place === null || place.partId !== partId.value || place.scroll === 0) return
    for (let frames = 0; !isLeft && frames < 60; frames += 1) {
      await nextTick()
      await new Promise(resolve => requestAnimationFrame(resolve))
      const box = scroller.value
      if (box === null) continue
      box.scrollTop = place.scroll
      if (Math.abs(box.scrollTop - place.scroll) < 2 && frames > 4) break
    }
  }

  return { last: () => placeIn(editionId), sentenceOf, open }
}
