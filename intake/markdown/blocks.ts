import MarkdownIt, { type Token } from 'markdown-it'
import deflist from 'markdown-it-deflist'
import footnote from 'markdown-it-footnote'
import { isOfUse, type Block } from '#core/manuscript/manuscript'
import type { Problem } from '#core/problem'
import { addTo } from '#core/tally'
import { htmlBlocks } from '../html/blocks'
import { closeLink, isUnsafe, unsafeLinks } from '../links'
import { placeNotes } from '../notes'
import { rowBlock, TextBuilder, type Point } from '../text-builder'
import { maths, pageMark, withoutAttributes, withoutMarkup } from './extensions'

const parser = new MarkdownIt({ html: true, linkify: false, typographer: false }).use(footnote).use(deflist).use(maths)
// It takes time that grows with the square of the notes, which are found here where they stand.
parser.core.ruler.disable('footnote_tail')
// Targets are never followed, and a refused link would be read out letter by letter.
parser.validateLink = () => true

/** The blocks of Markdown in reading order. */
export function markdownBlocks(body: string, place: string): { blocks: Block[], problems: Problem[] } {
  return new MarkdownReader(body, place).read()
}

class MarkdownReader {
  readonly #blocks: Block[] = []
  readonly #notes = new Map<string, Block[]>()
  readonly #problems: Problem[] = []
  #unsafeLinks = 0
  readonly #lines: readonly string[]
  readonly #around: { name: string, counter?: number }[] = []
  #note: string | null = null
  #row: TextBuilder[] | null = null
  #header: string[] | null = null
  #after: Block['after']
  #emptyLines = 0
  /** The number of the list item that begins. */
  #marker: string | null = null

  #footnotes: Footnotes = {}

  constructor(body: string, readonly place: string) {
    this.#lines = withoutMarkup(body).split('\n')
  }

  read(): { blocks: Block[], problems: Problem[] } {
    const env: { footnotes?: Footnotes } = {}
    const tokens = parser.parse(this.#lines.join('\n'), env)
    this.#footnotes = env.footnotes ?? {}
    for (const token of tokens) this.#take(token)
    for (const [id, { tokens: own }] of (this.#footnotes.list ?? []).entries()) {
      if (own === undefined) continue
      this.#note = noteOf(id)
      this.#inline(own)
    }
    return { blocks: placeNotes(this.#blocks, this.#notes), problems: [...this.#problems, ...unsafeLinks(this.#unsafeLinks, this.place)] }
  }

  #take(token: Token): void {
    if (token.map !== null && token.nesting >= 0) this.#emptyLines = Math.max(this.#emptyLines, this.#emptyBefore(token.map[0]))
    switch (token.type) {
      case 'footnote_reference_open': this.#note = this.#noteNamed(token); break
      case 'footnote_reference_close': this.#note = null; break
      case 'tr_open': this.#row = []; break
      case 'tr_close': this.#closeRow(); break
      case 'table_close': this.#header = null; break
      case 'ordered_list_open': this.#around.push({ name: 'ordered_list', counter: Number(token.attrGet('start') ?? 1) }); return
      case 'list_item_open': this.#openItem(); break
      case 'hr': this.#after = 'rule'; break
      case 'fence': case 'code_block': this.#push({ kind: 'paragraph', text: token.content.replace(/\s+/gu, ' ').trim(), dropped: 'code' }); break
      case 'html_block': this.#html(token.content); break
      case 'inline': this.#inline(token.children ?? []); break
    }
    if (token.type === 'inline') return
    if (token.nesting === 1) this.#around.push({ name: token.type === 'heading_open' ? token.tag : token.type.replace(/_open$/u, '') })
    else if (token.nesting === -1) this.#around.pop()
  }

  #emptyBefore(line: number): number {
    let count = 0
    while (line - count > 0 && this.#lines[line - count - 1]!.trim() === '') count += 1
    return count
  }

  #openItem(): void {
    const list = this.#around.findLast(({ name }) => name.endsWith('_list'))
    this.#marker = list?.counter === undefined ? null : `${list.counter++}.`
  }

  #closeRow(): void {
    const cells = this.#row ?? []
    const isHeader = this.#around.some(({ name }) => name === 'thead')
    this.#push(rowBlock(cells, isHeader ? null : this.#header))
    if (isHeader) this.#header = cells.map(cell => cell.text)
    this.#row = null
  }

  /** The note that a definition belongs to; one that no mark leads to has a name of its own. */
  #noteNamed({ meta }: Token): string {
    const { label } = meta as { label: string }
    const id = this.#footnotes.refs?.[`:${label}`] ?? -1
    return id < 0 ? `unmarked-${label}` : noteOf(id)
  }

  #inline(tokens: readonly Token[]): void {
    if (tokens.length === 1 && tokens[0]!.content === pageMark) {
      this.#after = 'page'
      return
    }
    const text = new TextBuilder()
    if (this.#row === null && this.#marker !== null) text.add(`${this.#marker} `)
    const isEmpty = text.text.length
    this.#write(text, tokens)
    if (this.#row !== null) {
      this.#row.push(text)
      return
    }
    if (text.text.length > isEmpty || text.cuts.length > 0) this.#marker = null
    this.#push(text.block(this.#kind()))
  }

  #kind(): Pick<Block, 'kind' | 'level'> {
    const heading = /^h([1-6])$/u.exec(this.#around.at(-1)?.name ?? '')
    if (heading !== null) return { kind: 'heading', level: Number(heading[1]) }
    if (this.#around.some(({ name }) => /^(?:list_item|dt|dd)$/u.test(name))) return { kind: 'listItem' }
    return { kind: this.#around.some(({ name }) => name === 'blockquote') ? 'quotation' : 'paragraph' }
  }

  #write(text: TextBuilder, tokens: readonly Token[]): void {
    const links: { from: Point, target: string }[] = []
    /** `sup` or `sub`, within such an element. */
    let height: string | null = null
    const inItem = this.#around.some(({ name }) => name === 'list_item')
    tokens.forEach((token, index) => {
      switch (token.type) {
        case 'text': addText(text, withoutAttributes(index === 0 && inItem ? token.content.replace(/^\[[ xX]\]\s+/u, '') : token.content), height); break
        case 'maths': text.add(token.content); break
        case 'code_inline': text.add(token.content); break
        case 'softbreak': case 'hardbreak': text.space(); break
        case 'em_open': case 'strong_open': text.openEmphasis(); break
        case 'em_close': case 'strong_close': text.closeEmphasis(); break
        case 'image': text.cut('image', token.content); break
        case 'link_open': links.push({ from: text.point(), target: String(token.attrGet('href') ?? '') }); break
        case 'link_close': this.#closeLink(text, links.pop()!); break
        case 'footnote_ref':
          text.cut('footnote-mark', String(footnoteNumber(token) + 1))
          text.mark(noteOf(footnoteNumber(token)))
          break
        case 'html_inline':
          height = /^<(su[pb])>$/iu.exec(token.content)?.[1]?.toLowerCase() ?? (/^<\/su[pb]>$/iu.test(token.content) ? null : height)
          if (/^<br/iu.test(token.content)) text.space()
          else if (token.content.startsWith('<!--')) text.cut('comment', token.content.replace(/^<!--|-->$/gu, ''))
          break
      }
    })
  }

  #closeLink(text: TextBuilder, { from, target }: { from: Point, target: string }): void {
    if (isUnsafe(target)) this.#unsafeLinks += 1
    else closeLink(text, from, safelyDecoded(target))
  }

  #html(content: string): void {
    for (let at = content.indexOf('<!--'); at >= 0;) {
      const end = content.indexOf('-->', at + 4)
      if (end < 0) break
      this.#push({ kind: 'paragraph', text: content.slice(at + 4, end).replace(/\s+/gu, ' ').trim(), dropped: 'comment' })
      at = content.indexOf('<!--', end)
    }
    const { blocks, problems } = htmlBlocks(content, { place: this.place })
    for (const block of blocks) this.#push(block)
    this.#problems.push(...problems)
  }

  #push(block: Block): void {
    if (!isOfUse(block)) return
    const placed = { ...block, ...(this.#after === undefined ? {} : { after: this.#after }), ...(this.#emptyLines < 2 ? {} : { emptyLines: this.#emptyLines }) }
    this.#after = undefined
    this.#emptyLines = 0
    if (this.#note === null) this.#blocks.push(placed)
    else addTo(this.#notes, this.#note, placed)
  }
}

/** A piece of text, in which what stands between carets is raised and what stands between tildes is lowered. */
function addText(builder: TextBuilder, text: string, height: string | null): void {
  if (height === 'sup') return builder.raise(text)
  if (height === 'sub') return builder.lower(text)
  for (const piece of text.split(/(\^[^\s^]{1,20}\^|(?<!~)~[^\s~]{1,20}~(?!~))/u)) {
    if (/^\^.+\^$/u.test(piece)) builder.raise(piece.slice(1, -1))
    else if (/^~.+~$/u.test(piece)) builder.lower(piece.slice(1, -1))
    else builder.add(piece)
  }
}

function footnoteNumber({ meta }: Token): number {
  return Number((meta as { id: number }).id)
}

function noteOf(id: number): string {
  return `note-${id}`
}

/** What the footnote plug-in notes: the number of each label, and the text of notes that stand in the line. */
interface Footnotes {
  readonly refs?: Readonly<Record<string, number>>
  readonly list?: readonly { readonly tokens?: readonly Token[] }[]
}

function safelyDecoded(target: string): string {
  try {
    return decodeURI(target)
  } catch {
    return target
  }
}
