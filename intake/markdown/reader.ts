import MarkdownIt, { type Token } from 'markdown-it'
import footnote from 'markdown-it-footnote'
import { isSpeakable, type Block } from '#core/manuscript/manuscript'
import { collapse, type Reader } from '../reader'
import { decodeText, requireText } from '../text/decode'
import { splitFrontMatter } from './front-matter'

/** Markdown (CommonMark with tables, strike-through and footnotes). Signs, link targets and footnotes are not read. */
export const markdownReader: Reader = {
  format: 'markdown',
  label: 'Markdown (MD)',
  version: 1,
  accepts: file => /\.(?:md|markdown|mdown|mkd)$/iu.test(file.name),
  read: async (file, { encoding }) => {
    requireText(file.bytes, file.name)
    const { meta, body } = splitFrontMatter(await decodeText(file.bytes, file.name, encoding), file.name)
    return { ...meta, blocks: markdownBlocks(body) }
  },
}

const parser = new MarkdownIt({ html: true, linkify: false, typographer: false }).use(footnote)
// Targets are never followed, and a refused link would be read out letter by letter.
parser.validateLink = () => true

function markdownBlocks(body: string): Block[] {
  const blocks: Block[] = []
  const around: string[] = []
  let row: string[] | null = null
  for (const token of parser.parse(body, {})) {
    if (around.includes('footnote_block') && token.type !== 'footnote_block_close') continue
    if (token.type === 'tr_open') row = []
    if (token.type === 'tr_close' && row !== null) {
      push(blocks, { kind: 'tableRow', text: row.filter(cell => cell !== '').join(', ') })
      row = null
    }
    if (token.type === 'inline') {
      const text = inlineText(token.children ?? [])
      if (row !== null) row.push(text)
      else push(blocks, blockFor(around, text))
    } else if (token.nesting === 1) {
      around.push(token.type === 'heading_open' ? token.tag : token.type.replace(/_open$/u, ''))
    } else if (token.nesting === -1) {
      around.pop()
    }
  }
  return blocks
}

function push(blocks: Block[], block: Block): void {
  if (isSpeakable(block.text)) blocks.push(block)
}

function blockFor(around: readonly string[], text: string): Block {
  if (around.includes('list_item')) return { kind: 'listItem', text: text.replace(/^\[[ xX]\]\s+/u, '') }
  if (around.includes('blockquote')) return { kind: 'quotation', text }
  const heading = /^h([1-6])$/u.exec(around.at(-1) ?? '')
  if (heading !== null) return { kind: 'heading', text, level: Number(heading[1]) }
  return { kind: 'paragraph', text }
}

/** Inline HTML, images, footnote marks and links that show nothing but their own target are left out. */
function inlineText(tokens: readonly Token[]): string {
  let text = ''
  let inAutolink = false
  for (const token of tokens) {
    if (token.type === 'link_open') inAutolink = token.markup === 'autolink'
    else if (token.type === 'link_close') inAutolink = false
    else if (token.type === 'softbreak' || token.type === 'hardbreak') text += ' '
    else if ((token.type === 'text' || token.type === 'code_inline') && !inAutolink) text += token.content
  }
  return collapse(text)
}
