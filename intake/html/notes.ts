import type { Block } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { addTo } from '#core/tally'

/** A block with what is needed to find the notes among its fellows. */
export interface Draft {
  readonly block: Block
  /** Ids of the elements it stands in or holds. */
  readonly ids: readonly string[]
  /** Of the list number that its text begins with. */
  readonly markerLength: number
  /** It is a note, whether a mark leads to it or not. */
  readonly isNote: boolean
}

/** Most blocks that one note has; a target with more is a section, not a note. */
const mostBlocksOfNote = 25

/** Finds the blocks that note marks lead to. They stay where they are. */
export function resolveNotes(drafts: readonly Draft[]): Block[] {
  const noteOf = new Map<number, string>()
  const drop = new Map<number, Set<string>>()
  const holders = new Map<string, number[]>()
  drafts.forEach(({ ids }, index) => {
    for (const id of new Set(ids)) addTo(holders, id, index)
  })
  drafts.forEach(({ block }, index) => {
    for (const { note } of block.marks ?? []) {
      const targets = holders.get(note) ?? []
      const isBackLink = noteOf.has(index)
      const leadsToNote = !isBackLink && targets.length > 0 && targets.length <= mostBlocksOfNote && !targets.includes(index)
        && targets.every(target => drafts[target]!.block.level === undefined && (noteOf.get(target) ?? note) === note)
      if (!leadsToNote) {
        const own = drop.get(index) ?? new Set()
        own.add(note)
        drop.set(index, own)
      } else {
        for (const target of targets) noteOf.set(target, note)
      }
    }
  })
  return drafts.map(({ block, markerLength, isNote }, index) => {
    const kept = withoutMarks(block, drop.get(index))
    const note = noteOf.get(index)
    if (note !== undefined) return { ...withoutNumber(kept, markerLength), note }
    if (isNote && block.level === undefined) return { ...kept, dropped: kept.dropped ?? 'footnote' }
    // The heading of a list of notes goes with them.
    return noteOf.has(index + 1) && block.level === undefined && block.dropped === undefined && matterOf(block.text) === 'notes' ? { ...kept, dropped: 'footnote-mark' } : kept
  })
}

function withoutMarks(block: Block, dropped: ReadonlySet<string> | undefined): Block {
  if (dropped === undefined) return block
  const marks = block.marks!.filter(({ note }) => !dropped.has(note))
  const { marks: _, ...rest } = block
  return marks.length === 0 ? rest : { ...rest, marks }
}

/** A note in a numbered list: its number is the mark over again. */
function withoutNumber(block: Block, length: number): Block {
  if (length === 0) return block
  return {
    ...block, kind: 'paragraph', text: block.text.slice(length),
    ...(block.cuts === undefined ? {} : { cuts: block.cuts.map(cut => ({ ...cut, at: cut.at - length })) }),
    ...(block.emphasis === undefined ? {} : { emphasis: block.emphasis.map(([start, end]) => [start - length, end - length] as const) }),
  }
}
