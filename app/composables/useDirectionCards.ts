import type { Editor } from '@tiptap/vue-3'
import type { Node } from '@tiptap/pm/model'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { onMounted, type Ref } from 'vue'
import { wordsOf } from '#core/score/spoken'
import type { Support } from '#core/score/cast'
import { directionsIn, type PlacedDirection } from '~/editor/commands'

/** A direction on a line that is seen, for the margin. */
export interface DirectionCard {
  readonly placed: PlacedDirection
  /** Of its line, in px from the top of the window. */
  readonly top: number
  readonly text: string
  readonly unavailable: string | null
  /** The words that are spoken in place of the text. */
  readonly spoken: string | null
  readonly here: boolean
}

interface Judges {
  readonly supportAt: (placed: PlacedDirection, passage: Node | null) => Support
  readonly languageOf: (passage: Node | null) => string
  /** Whether the caret is in it. */
  readonly isHere: (placed: PlacedDirection) => boolean
}

/** About as wide as a sign of a spoken form, px. */
const signWidth = 6.5

/** A label that is left out where its role speaks needs no note: the role stands beside the passage. */
function isSpeakerLabel({ direction, from }: PlacedDirection, passage: Node, start: number, text: string): boolean {
  return direction.kind === 'leftOut' && passage.attrs.role !== null && from === start && text.trimEnd().endsWith(':')
}

/** Measures the directions of the lines that are seen, when the page moves and when it is asked to; gives the function that asks. */
export function useDirectionCards(editor: Editor, sheet: Ref<HTMLElement | null>, { supportAt, languageOf, isHere }: Judges, show: (cards: readonly DirectionCard[]) => void): () => void {
  let frame = 0
  function measureSoon(): void {
    cancelAnimationFrame(frame)
    frame = requestAnimationFrame(measure)
  }

  function measure(): void {
    const box = sheet.value?.parentElement?.getBoundingClientRect()
    if (box === undefined || editor.isDestroyed) return
    const { doc } = editor.state
    const first = editor.view.posAtCoords({ left: box.left + 90, top: box.top + 4 })?.pos ?? 0
    const last = editor.view.posAtCoords({ left: box.right - 60, top: box.bottom - 4 })?.pos ?? doc.content.size
    show(directionsIn(doc, Math.min(first, last), Math.max(first, last)).flatMap((placed): DirectionCard[] => {
      const { top, bottom } = editor.view.coordsAtPos(placed.from, 1)
      if (bottom < box.top || top > box.bottom) return []
      const { parent } = doc.resolve(placed.from)
      const passage = parent.isTextblock ? parent : null
      const { how, note } = supportAt(placed, passage)
      const text = doc.textBetween(placed.from, placed.to)
      if (passage !== null && isSpeakerLabel(placed, passage, doc.resolve(placed.from).start(), text)) return []
      return [{
        placed, top, text, unavailable: how === 'unavailable' ? note ?? '' : null,
        spoken: placed.direction.kind === 'sayAs' ? wordsOf(placed.direction, text, languageOf(passage)) : null,
        here: isHere(placed),
      }]
    }))
    makeRoom()
  }

  /** Spoken forms above neighbouring words share the room: the first ends before the next begins; the last of a line begins further left where it would not end in time. */
  function makeRoom(): void {
    const tags = [...editor.view.dom.querySelectorAll<HTMLElement>('.spoken-above')].map(tag => ({ tag, box: tag.getBoundingClientRect() }))
    const { right } = editor.view.dom.getBoundingClientRect()
    tags.forEach(({ tag, box }, index) => {
      const next = tags[index + 1]?.box
      const isBeside = next !== undefined && Math.abs(next.top - box.top) < 4 && next.left > box.left
      tag.style.setProperty('--room', isBeside ? `${next.left - box.left - 5}px` : 'none')
      tag.style.setProperty('--left', isBeside ? '0px' : `${Math.min(0, right - box.left - (tag.dataset['spoken'] ?? '').length * signWidth)}px`)
    })
  }

  onMounted(() => {
    const scroller = sheet.value?.parentElement
    measureSoon()
    useEventListener(scroller, 'scroll', measureSoon, { passive: true })
    useResizeObserver(scroller, measureSoon)
  })
  return measureSoon
}
