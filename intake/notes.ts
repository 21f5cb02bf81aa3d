import type { Block } from '#core/manuscript/manuscript'

/** Puts the blocks of each note behind the block that has its mark; those without a mark come last. */
export function placeNotes(blocks: readonly Block[], notes: ReadonlyMap<string, readonly Block[]>): Block[] {
  const placed = new Set<string>()
  const result: Block[] = []
  for (const block of blocks) {
    result.push(block)
    for (const { note } of block.marks ?? []) {
      if (placed.has(note)) continue
      placed.add(note)
      for (const each of notes.get(note) ?? []) result.push(ofNote(each, note))
    }
  }
  for (const [note, own] of notes) if (!placed.has(note)) for (const each of own) result.push(ofNote(each, note))
  return result
}

function ofNote(block: Block, note: string): Block {
  const { level, ...rest } = block
  return { ...rest, kind: level === undefined ? block.kind : 'paragraph', note }
}
