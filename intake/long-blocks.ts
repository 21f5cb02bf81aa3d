import { sentenceSpans } from '#core/language/sentences'
import type { Block } from '#core/manuscript/manuscript'
import { fail, type Problem } from '#core/problem'
import { maximumPassageCharacters, sliceContent } from '#core/script/content'

/** A passage has at most so many characters: more is a text whose paragraphs were lost, which nobody could edit. */
const longest = 20_000
/** So many long paragraphs are told one by one. */
const mostTold = 5

/**
 * Blocks of which the very long ones are cut at the last end of a sentence that fits, and between words where a sentence is longer than that; with a note of each. Rows of tables stay whole,
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
    const pieces = piecesOf(text, block.language ?? language)
    if (block.dropped === undefined) {
      told += 1
      if (told <= mostTold) problems.push({ code: `paragraph-cut-${told}`, message: `The paragraph that begins with “${beginning(text)}” has ${text.length.toLocaleString('en')} characters. It is cut into ${pieces.length} passages, at ends of sentences.` })
    }
    return pieces.map((piece, index) => pieceOf(block, piece, pieces[index - 1]))
  })
  if (told > mostTold) problems.push({ code: 'paragraphs-cut', message: `${told - mostTold} more paragraphs have over ${longest.toLocaleString('en')} characters, and are cut at ends of sentences.` })
  return { blocks: cut, problems }
}

type Piece = readonly [start: number, end: number]

const beginning = (text: string): string => [...text.slice(0, 120)].slice(0, 60).join('')

/** Where the pieces of a text begin and end, without the white space between them. */
function piecesOf(text: string, language: string): Piece[] {
  const pieces: Piece[] = []
  let [from, last] = [0, 0]
  const close = (end: number, next: number): void => {
    pieces.push([from, end])
    from = next
  }
  for (const { start, end } of sentenceSpans(text, language)) {
    if (end - from > longest && last > from) close(last, start)
    while (end - from > longest) {
      const [wordsEnd, next] = betweenWords(text, from)
      close(wordsEnd, next)
    }
    last = end
  }
  close(text.length, text.length)
  return pieces
}

/** Where the words end that fit behind a place, and the next ones begin; within a word where there is no space. */
function betweenWords(text: string, from: number): readonly [end: number, next: number] {
  const most = from + longest
  const space = text.lastIndexOf(' ', most)
  if (space > from) return [space, space + 1]
  const isWithinSign = text.codePointAt(most - 1)! > 0xffff
  const end = most - (isWithinSign ? 1 : 0)
  return [end, end]
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
