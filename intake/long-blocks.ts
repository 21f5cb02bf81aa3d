import { sentenceSpans } from '#core/language/sentences'
import type { Block } from '#core/manuscript/manuscript'
import { fail } from '#core/problem'
import { maximumPassageCharacters } from '#core/script/content'

/** A paragraph longer than this, in characters, is a text whose paragraphs were lost: nobody edits it, and its sentences stand better by themselves. */
const longest = 20_000
/** About as long are the pieces of one. */
const usual = 2_000

/**
 * Blocks of which the very long ones are divided between sentences, and between words where a sentence is more than a passage can hold. Those that hold marks, cuts or directions are left: their
 * places would be others. Throws a problem when one of these is longer than a passage can be.
 */
export function withoutLongBlocks(blocks: readonly Block[], language: string): Block[] {
  return blocks.flatMap(block => {
    const { text, cuts, marks, emphasis, content, cells, note } = block
    if (text.length <= longest) return [block]
    if ([cuts, marks, emphasis, content, cells, note].some(each => each !== undefined)) {
      if (text.length > maximumPassageCharacters) fail('paragraph-too-long', `The paragraph that begins with “${text.slice(0, 60)}” has more than ${maximumPassageCharacters.toLocaleString('en')} characters. Divide it.`)
      return [block]
    }
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
  return [...pieces, text.slice(from)].flatMap(betweenWords)
}

/** A text in pieces that a passage can hold, between words where there are any. */
function betweenWords(text: string): string[] {
  const pieces: string[] = []
  let rest = text
  while (rest.length > maximumPassageCharacters) {
    const space = rest.lastIndexOf(' ', maximumPassageCharacters)
    const isWithinSign = rest.codePointAt(maximumPassageCharacters - 1)! > 0xffff
    const end = space > 0 ? space : maximumPassageCharacters - (isWithinSign ? 1 : 0)
    pieces.push(rest.slice(0, end))
    rest = rest.slice(end).trimStart()
  }
  return rest === '' ? pieces : [...pieces, rest]
}
