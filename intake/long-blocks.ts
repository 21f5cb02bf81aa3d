import { sentenceSpans } from '#core/language/sentences'
import type { Block } from '#core/manuscript/manuscript'

/** A paragraph longer than this, in characters, is a text whose paragraphs were lost: nobody edits it, and its sentences stand better by themselves. */
const longest = 20_000
/** About as long are the pieces of one. */
const usual = 2_000

/** Blocks of which the very long ones are divided between sentences; one without any is left whole. Those that hold marks, cuts or directions are left too: their places would be others. */
export function withoutLongBlocks(blocks: readonly Block[], language: string): Block[] {
  return blocks.flatMap(block => {
    const { text, cuts, marks, emphasis, content, cells, note } = block
    if (text.length <= longest || [cuts, marks, emphasis, content, cells, note].some(each => each !== undefined)) return [block]
    const { page: _, after: __, emptyLines: ___, entry: ____, ...rest } = block
    return divided(text, language).map((piece, index) => index === 0 ? { ...block, text: piece } : { ...rest, text: piece })
  })
}

function divided(text: string, language: string): string[] {
  const pieces: string[] = []
  let [from, last] = [0, 0]
  for (const { start, end } of sentenceSpans(text, language)) {
    if (end - from > usual && last > from) {
      pieces.push(text.slice(from, last))
      from = start
    }
    last = end
  }
  return [...pieces, text.slice(from)]
}
