import type { PassageKind } from '../script/script'
import { addTo } from '../tally'
import type { Choices } from './choices'
import { isSpeakable, type Block, type Cut, type DropKind, type Manuscript } from './manuscript'

/** Something of the manuscript that is not read, or would not be if it were not restored. */
export interface Drop {
  /** `12` for a block, `12.0` for the first cut of it. */
  readonly id: string
  readonly kind: DropKind
  readonly text: string
  /** The block that it is or stands in. */
  readonly block: number
  readonly restored: boolean
}

/** A block as it is read. */
export interface Arranged {
  readonly kind: PassageKind
  readonly text: string
  /** Index of the block in the manuscript. */
  readonly block: number
  readonly source: Block
  readonly emphasis: readonly (readonly [start: number, end: number])[]
}

export interface Arrangement {
  /** Blocks that are read, in order, without the notes. */
  readonly blocks: readonly Arranged[]
  /** The blocks of each note that is read. */
  readonly notes: ReadonlyMap<string, readonly Arranged[]>
  readonly drops: readonly Drop[]
}

/** What of a manuscript is read, and what is not, by the choices that need no parts. */
export function arrange(manuscript: Manuscript, choices: Choices): Arrangement {
  const restoredKinds = new Set(choices.restoredKinds)
  const restored = new Set(choices.restored)
  const reads = (kind: DropKind, id: string): boolean =>
    restored.has(id) || restoredKinds.has(kind) || (kind === 'image' && choices.images === 'read') || (kind === 'table' && choices.tables !== 'leave-out')
  const blocks: Arranged[] = []
  const notes = new Map<string, Arranged[]>()
  const drops: Drop[] = []
  const droppedNotes = new Set<string>()
  manuscript.blocks.forEach((block, index) => {
    const id = String(index)
    const kind = dropOf(block, choices)
    const isRead = kind === null || reads(kind, id)
    // A note counts once, however many paragraphs it has.
    const isMore = kind === 'footnote' && block.note !== undefined && droppedNotes.has(block.note)
    if (kind === 'footnote' && block.note !== undefined) droppedNotes.add(block.note)
    if (kind !== null && !(isRead && kind === 'table') && !isMore) drops.push({ id, kind, text: block.text, block: index, restored: isRead })
    const arranged = withRestored(block, index, (cut, number) => {
      const cutId = `${index}.${number}`
      const cutIsRead = reads(cut.kind, cutId)
      drops.push({ id: cutId, kind: cut.kind, text: cut.text, block: index, restored: cutIsRead })
      return cutIsRead
    })
    if (!isRead) return
    const shown = withColumns(arranged, choices)
    if (!isSpeakable(shown.text) && shown.kind !== 'sceneBreak') return
    if (block.note === undefined) blocks.push(shown)
    else addTo(notes, block.note, { ...shown, kind: 'note' })
  })
  return { blocks, notes, drops }
}

/** Why a block is not read by these choices; null when it is. */
function dropOf(block: Block, choices: Choices): DropKind | null {
  if (block.dropped !== undefined) return block.dropped
  if (block.note !== undefined && choices.footnotes === 'leave-out') return 'footnote'
  if (block.layer === 'slide' && choices.from === 'notes') return 'slide-text'
  if (block.layer === 'notes' && choices.from === 'slide') return 'notes'
  return block.kind === 'tableRow' ? 'table' : null
}

/** A block with those of its cuts put back that are to be read. */
function withRestored(block: Block, index: number, isRead: (cut: Cut, number: number) => boolean): Arranged {
  const back = (block.cuts ?? []).filter(isRead)
  const emphasis = block.emphasis ?? []
  if (back.length === 0) return { kind: block.kind, text: block.text, block: index, source: block, emphasis }
  const shifts: { at: number, by: number }[] = []
  let text = ''
  let from = 0
  for (const cut of back) {
    text += block.text.slice(from, cut.at)
    from = cut.at
    const piece = `${/\S$/u.test(text) && /^[\p{L}\p{N}]/u.test(cut.text) ? ' ' : ''}${cut.text}${/^[\p{L}\p{N}]/u.test(block.text.slice(from)) ? ' ' : ''}`
    text += piece
    shifts.push({ at: cut.at, by: piece.length })
  }
  const moved = (at: number): number => at + shifts.filter(shift => shift.at <= at).reduce((sum, shift) => sum + shift.by, 0)
  return { kind: block.kind, text: text + block.text.slice(from), block: index, source: block, emphasis: emphasis.map(([start, end]) => [moved(start), moved(end)] as const) }
}

/** A table row in which every cell follows the name of its column, when that is chosen. */
function withColumns(arranged: Arranged, { tables }: Choices): Arranged {
  const { cells, columns } = arranged.source
  if (tables !== 'with-headers' || cells === undefined || columns === undefined) return arranged
  const named = cells.flatMap((cell, index) => cell === '' ? [] : [columns[index] === undefined || columns[index] === '' ? cell : `${columns[index]}: ${cell}`])
  return { ...arranged, text: named.join(', '), emphasis: [] }
}

/** How often each kind of thing is not read, in the order in which they first occur. */
export function countDrops(drops: readonly Drop[]): { kind: DropKind, count: number, restored: number }[] {
  const counts = new Map<DropKind, { kind: DropKind, count: number, restored: number }>()
  for (const { kind, restored } of drops) {
    const known = counts.get(kind) ?? { kind, count: 0, restored: 0 }
    known.count += 1
    if (restored) known.restored += 1
    counts.set(kind, known)
  }
  return [...counts.values()]
}
