import { sentenceSpans } from '#core/language/sentences'
import type { Block } from '#core/manuscript/manuscript'
import { fail, type Problem } from '#core/problem'
import { pieces } from '#core/score/pieces'
import { maximumPassageCharacters, sliceContent } from '#core/script/content'

/** A passage has at most so many characters: more is a text whose paragraphs were lost, which nobody could edit. */
const longest = 20_000
/** So many long paragraphs are told one by one. */
const mostTold = 5

/**
 * Blocks of which the very long ones are cut at the last end of a sentence that fits, and where the compiler cuts it where a sentence is longer than that; with a note of each. Rows of tables stay whole,
 * because their cells belong together. Throws a problem when one of these is longer than a passage can be.
 */
export function withoutLongBlocks(blocks: readonly Block[], language: string): { readonly blocks: Block[], readonly problems: Problem[] } {
  const problems: Problem[] = []
  let told = 0
  const cut = blocks.flatMap(block => {
    const { text, cells } = block
    if (text.length <= longest) return [block]
    if (cells !== undefined) {
      if (text.length > maximumPassageCharacters) fail('row-too-long', `The row that begins with “${beginning(text)}” has more than ${maximumPassageCharacters.toLocaleString('en')} characters. Divide it.`)
      return [block]
    }
    const own = piecesOf(text, block.language ?? language)
    if (block.dropped === undefined) {
      told += 1
      if (told <= mostTold) problems.push({ code: `paragraph-cut-${told}`, message: `The paragraph that begins with “${beginning(text)}” has ${text.length.toLocaleString('en')} characters. It is cut into ${own.length} passages, at ends of sentences.` })
    }
    return own.map((piece, index) => pieceOf(block, piece, own[index - 1]))
  })
  if (told > mostTold) problems.push({ code: 'paragraphs-cut', message: `${told - mostTold} more paragraphs have over ${longest.toLocaleString('en')} characters, and are cut at ends of sentences.` })
  return { blocks: cut, problems }
}

type Piece = readonly [start: number, end: number]

const beginning = (text: string): string => [...text.slice(0, 120)].slice(0, 60).join('')

/** Where the pieces of a text begin and end, without the white space between them. */
function piecesOf(text: string, language: string): Piece[] {
  const found: Piece[] = []
  let [from, last] = [0, 0]
  const close = (end: number, next: number): void => {
    found.push([from, end])
    from = next
  }
  for (const { start, end } of sentenceSpans(text, language)) {
    if (end - from > longest && last > from) close(last, start)
    const ofSentence = pieces(text, { start: from, end }, longest)
    for (const [index, piece] of ofSentence.slice(0, -1).entries()) close(piece.end, ofSentence[index + 1]!.start)
    last = end
  }
  close(text.length, text.length)
  return found
}

/** What stands before a block stands before its first piece; a heading is only that. Marks and cuts between two pieces belong to the first of them. */
function pieceOf(block: Block, [start, end]: Piece, before: Piece | undefined): Block {
  const { cuts = [], marks = [], emphasis = [], content, ...whole } = block
  const { page: _, after: __, emptyLines: ___, entry: ____, level: _____, ...later } = whole
  const own = <P extends { readonly at: number }>(places: readonly P[]): P[] =>
    places.filter(({ at }) => at <= end && (before === undefined || at > before[1])).map(place => ({ ...place, at: Math.max(0, place.at - start) }))
  const [ownCuts, ownMarks] = [own(cuts), own(marks)]
  const ownEmphasis = emphasis.filter(([from, to]) => to > start && from < end).map(([from, to]) => [Math.max(from, start) - start, Math.min(to, end) - start] as const)
  return {
    ...(before === undefined ? whole : { ...later, kind: later.kind === 'heading' ? 'paragraph' : later.kind }),
    text: block.text.slice(start, end),
    ...(ownCuts.length === 0 ? {} : { cuts: ownCuts }),
    ...(ownMarks.length === 0 ? {} : { marks: ownMarks }),
    ...(ownEmphasis.length === 0 ? {} : { emphasis: ownEmphasis }),
    ...(content === undefined ? {} : { content: sliceContent(content, start, end) }),
  }
}
