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
/** Between two spoken forms, px. */
const gap = 5
/** Tops that differ by less are of one line, px. */
const sameLine = 4

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

  /**
   * What stands above neighbouring words shares the room: a spoken form begins behind the rest of a rule, and ends before the next of both begins; the last of a line begins
   * further left where it would not end in time.
   */
  function makeRoom(): void {
    const tags = [...editor.view.dom.querySelectorAll<HTMLElement>('.spoken-above, .ruled-rest')].map(tag => ({ tag, box: tag.getBoundingClientRect() }))
    const { right } = editor.view.dom.getBoundingClientRect()
    tags.forEach(({ tag, box }, index) => {
      const { spoken } = tag.dataset
      if (spoken === undefined) return
      const [before, next] = [tags[index - 1], tags[index + 1]]
      const rest = before?.tag.dataset['rest']
      const isBehindRest = rest !== undefined && Math.abs(before!.box.top - box.top) < sameLine && before!.box.left <= box.left
      const left = isBehindRest ? Math.max(0, before!.box.left + (rest!.length + 2) * signWidth - box.left) : 0
      const isBeside = next !== undefined && Math.abs(next.box.top - box.top) < sameLine && next.box.left > box.left
      tag.style.setProperty('--room', isBeside ? `${next.box.left - box.left - left - gap}px` : 'none')
      tag.style.setProperty('--left', isBeside ? `${left}px` : `${Math.min(left, right - box.left - spoken.length * signWidth)}px`)
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
