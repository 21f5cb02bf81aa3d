import { isOrnament, isSpeakable, type Block } from '#core/manuscript/manuscript'
import { joinerOf, wordsOf } from '../line-ends'
import { beginning, type Reader } from '../reader'
import { collapse, TextBuilder } from '../text-builder'
import { layoutOf, paragraphsOf } from './layout'
import { looksLikeText, openText } from './decode'

/** Plain text: paragraphs stand between empty lines, or where its layout says so. */
export const textReader: Reader = {
  format: 'text',
  label: 'plain text (TXT)',
  extensions: ['.txt', '.text'],
  version: 5,
  // XML of no known kind would be read with its tags.
  accepts: file => /\.(?:txt|text)$/iu.test(file.name) || (looksLikeText(file.bytes) && !beginning(file).startsWith('<?xml')),
  read: async (file, { encoding }) => {
    const decoded = await openText(file, encoding)
    return { title: null, author: null, language: null, blocks: textBlocks(decoded.text), problems: decoded.problems, encoding: decoded.encoding }
  },
}

/** The paragraphs of plain text, with the rules, page breaks and empty lines before them. */
export function textBlocks(text: string): Block[] {
  const blocks: Block[] = []
  let lines: string[] = []
  let emptyLines = 0
  let after: Block['after']
  const all = text.split(/[\n\f]/u).map(line => line.trimEnd())
  const layout = layoutOf(all)
  const join = joinerOf(all, wordsOf(all))
  const flush = (): void => {
    for (const { kind, lines: own } of paragraphsOf(lines, layout)) {
      const paragraph = own.map(collapse).reduce(join)
      if (!isSpeakable(paragraph)) continue
      blocks.push({ ...emphasised(paragraph).block({ kind }), ...(after === undefined ? {} : { after }), ...(emptyLines < 2 ? {} : { emptyLines }) })
      after = undefined
      emptyLines = 0
    }
    lines = []
  }
  for (const line of text.split('\n')) {
    const [first, ...pages] = line.split('\f')
    takeLine(first!)
    for (const page of pages) {
      flush()
      after = 'page'
      takeLine(page)
    }
  }
  flush()
  return blocks

  function takeLine(line: string): void {
    if (line.trim() === '') {
      flush()
      emptyLines += 1
    } else if (isOrnament(line)) {
      flush()
      after = 'rule'
      emptyLines = 0
    } else {
      lines.push(line)
    }
  }
}

/** Words between underscores, which are set in italics where there are any. Names such as `a_b` have none around them. */
const underscored = /(?<![\p{L}\p{N}_])_(?=[^\s_])([^_]{1,300})(?<=[^\s_])_(?![\p{L}\p{N}_])/gu

function emphasised(text: string): TextBuilder {
  const builder = new TextBuilder()
  let from = 0
  for (const { index, 0: whole, 1: words } of text.matchAll(underscored)) {
    builder.add(text.slice(from, index))
    builder.openEmphasis()
    builder.add(words!)
    builder.closeEmphasis()
    from = index + whole.length
  }
  builder.add(text.slice(from))
  return builder
}
