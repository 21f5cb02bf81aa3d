import { Extension } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { Plugin, PluginKey } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'
import type { PassageKind } from '#core/script/script'
import { restBetween, type HouseStyle } from '#core/style/house-style'
import type { PageUtterance } from '#shared/api'

/** What is drawn over the text. None of it is in the document. */
export interface Overlay {
  readonly style: HouseStyle
  readonly utterances: readonly PageUtterance[]
  /** The sentence that sounds or is chosen. */
  readonly lit: number | null
  /** Whether sentences without a take are marked: not in a part that was never read. */
  readonly markStale: boolean
}

const key = new PluginKey<DecorationSet>('overlay')

/** A second is this high on the page. */
const pixelsPerSecond = 24
const longestDrawnMs = 3000
const smallestBracket = 9

export const OverlayExtension: Extension = Extension.create({
  name: 'overlay',
  addProseMirrorPlugins: () => [new Plugin({
    key,
    state: {
      init: () => DecorationSet.empty,
      apply: (transaction, decorations) => {
        const next = transaction.getMeta(key) as Overlay | undefined
        return next === undefined ? decorations.map(transaction.mapping, transaction.doc) : draw(transaction.doc, next)
      },
    },
    props: { decorations: state => key.getState(state) },
  })],
})

/** The transaction metadata that changes the overlay. */
export const overlayKey: PluginKey = key

function draw(doc: Node, { style, utterances, lit, markStale }: Overlay): DecorationSet {
  const decorations: Decoration[] = []
  const starts = new Map<string, { from: number, size: number }>()
  let previous: PassageKind | null = null
  doc.forEach((node, offset) => {
    starts.set(String(node.attrs.id), { from: offset + 1, size: node.content.size })
    const kind = node.attrs.kind as PassageKind
    if (previous !== null) decorations.push(restAbove(offset, node.nodeSize, restBetween(style, previous, kind)))
    previous = kind
  })
  utterances.forEach((utterance, index) => {
    const passage = starts.get(utterance.passageId)
    if (passage === undefined) return
    const from = passage.from + utterance.start
    const to = passage.from + Math.min(utterance.end, passage.size)
    if (to <= from) return
    if (index === lit) decorations.push(Decoration.inline(from, to, { class: 'lit' }))
    else if (markStale && !utterance.read) decorations.push(Decoration.inline(from, to, { class: 'stale-sentence', title: 'Not read since it was changed' }))
  })
  return DecorationSet.create(doc, decorations)
}

/** The space above a passage is the rest before it, and a bracket in the gutter says how long it is. */
function restAbove(offset: number, nodeSize: number, restMs: number): Decoration {
  const gap = Math.min(restMs, longestDrawnMs) * pixelsPerSecond / 1000
  return Decoration.node(offset, offset + nodeSize, {
    'style': `--rest-gap: ${gap}px; --bracket: ${Math.max(gap, smallestBracket)}px`,
    'data-rest': String(restMs),
    ...(restMs > longestDrawnMs ? { 'data-rest-broken': '' } : {}),
  })
}
