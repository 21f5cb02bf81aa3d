import { isOfUse, isSpeakable, type Block, type DropKind } from '#core/manuscript/manuscript'
import { count } from '#core/tally'
import { looksLikePower, raised } from '../raised'
import { inCell, rowBlock, TextBuilder } from '../text-builder'
import { signOf } from './footnotes'
import { linesOf, type Line, type Piece } from './lines'
import { furnitureKind, furnitureOf, type Furniture } from './running-heads'

/** An element of a page's structure tree (ISO 32000-1, 14.7), as it is read from the file. */
export interface StructureNode {
  readonly role?: string
  readonly type?: string
  readonly id?: string
  readonly alt?: string
  readonly lang?: string
  readonly children?: readonly StructureNode[]
}

/** A page of a tagged file. */
export interface TaggedPage {
  readonly index: number
  readonly label: string
  readonly tree: StructureNode
  readonly lines: readonly Line[]
  /** Pieces by the marked content they stand in. */
  readonly content: ReadonlyMap<string, readonly Piece[]>
  /** Pieces that are marked as no part of the text. */
  readonly artifacts: readonly Piece[]
}

const inline = new Set(['Span', 'Link', 'Quote', 'Em', 'Strong', 'Reference', 'BibEntry', 'Annot', 'Ruby', 'RB', 'Warichu', 'NonStruct'])

/** The blocks of a tagged file, by its own structure. */
export function blocksFromTags(tagged: readonly TaggedPage[]): Block[] {
  const furniture = furnitureOf(tagged.map(({ lines }) => lines))
  const pages = tagged.map(page => withoutFurniture(page, furniture))
  const notes = new TaggedNotes(pages)
  const blocks: Block[] = []
  let isOpen = false
  for (const page of pages) {
    const own = pageBlocks(page, notes)
    const [first] = own
    const at = blocks.findLastIndex(block => block.dropped !== 'running-head' && block.dropped !== 'page-number' && block.note === undefined)
    const last = blocks[at]
    // The tree comes page by page: what stands on two pages is put together again.
    if (first !== undefined && last !== undefined && isOpen && first.kind === last.kind && first.level === undefined && first.dropped === undefined && last.dropped === undefined && first.note === undefined) {
      blocks[at] = joinedBlocks(last, first)
      own.shift()
    }
    if (own[0] !== undefined) own[0] = { ...own[0], page: page.label }
    blocks.push(...own)
    blocks.push(...artifactBlocks(page))
    const end = own.findLast(block => block.note === undefined) ?? blocks.findLast(block => block.dropped === undefined && block.note === undefined)
    isOpen = end?.kind === 'paragraph' && !/[.!?:…]["”’»)\]]*$/u.test(end.text)
  }
  return blocks
}

/** Two blocks as one, with what is cut and marked in both. */
function joinedBlocks(first: Block, second: Block): Block {
  const by = first.text.length + 1
  const cuts = [...first.cuts ?? [], ...(second.cuts ?? []).map(cut => ({ ...cut, at: cut.at + by }))]
  const marks = [...first.marks ?? [], ...(second.marks ?? []).map(mark => ({ ...mark, at: mark.at + by }))]
  return { ...first, text: `${first.text} ${second.text}`, ...(cuts.length === 0 ? {} : { cuts }), ...(marks.length === 0 ? {} : { marks }) }
}

/** Running heads that are tagged as text are none. */
function withoutFurniture(page: TaggedPage, furniture: ReadonlyMap<Line, Furniture>): TaggedPage {
  const heads = page.lines.filter(line => furniture.has(line))
  if (heads.length === 0) return page
  const isOfHead = ({ x, y }: Piece): boolean => heads.some(head => Math.abs(head.y - y) < head.size * 0.6 && x >= head.left - 1 && x <= head.right + 1)
  const artifacts = [...page.artifacts]
  const content = new Map<string, readonly Piece[]>()
  for (const [id, pieces] of page.content) {
    content.set(id, pieces.filter(piece => !isOfHead(piece)))
    artifacts.push(...pieces.filter(isOfHead))
  }
  return { ...page, content, artifacts }
}

function artifactBlocks({ artifacts, index }: TaggedPage): Block[] {
  return linesOf(artifacts, index).filter(line => isSpeakable(line.text)).map(line => ({ kind: 'paragraph', text: line.text, dropped: furnitureKind(line) }))
}

const noteRole = /^(?:Note|FENote)$/u

/** The notes of a tagged file: the nth that begins with a number or sign belongs to the nth mark of it. */
class TaggedNotes {
  readonly #waiting = new Map<string, number>()
  readonly #marked = new Map<string, number>()
  readonly #begun = new Map<string, number>()

  constructor(pages: readonly TaggedPage[]) {
    const walk = (node: StructureNode, page: TaggedPage): void => {
      if (noteRole.test(node.role ?? '')) {
        const { sign } = signOf(lineOf(node, page))
        if (sign !== null) count(this.#waiting, sign)
      }
      for (const child of node.children ?? []) walk(child, page)
    }
    for (const page of pages) walk(page.tree, page)
  }

  /** The note that a mark leads to; null for a mark without one. */
  marked(sign: string): string | null {
    const number = this.#marked.get(sign) ?? 0
    if (number >= (this.#waiting.get(sign) ?? 0)) return null
    this.#marked.set(sign, number + 1)
    return `foot ${sign} ${number}`
  }

  /** The note that begins with a sign. */
  begins(sign: string): string {
    const number = this.#begun.get(sign) ?? 0
    this.#begun.set(sign, number + 1)
    return `foot ${sign} ${number}`
  }
}

/** What an element holds as one line. */
function lineOf(node: StructureNode, page: TaggedPage): Pick<Line, 'text' | 'marks'> {
  return linesOf(piecesOf(node, page), page.index)[0] ?? { text: '', marks: [] }
}

function piecesOf(node: StructureNode, page: TaggedPage): readonly Piece[] {
  if (node.id !== undefined && node.type === 'content') return page.content.get(node.id) ?? []
  return (node.children ?? []).flatMap(child => piecesOf(child, page))
}

function pageBlocks(page: TaggedPage, notes: TaggedNotes): Block[] {
  const blocks: Block[] = []
  const state = { header: null as string[] | null }
  const walk = (node: StructureNode, around: readonly string[]): void => {
    const role = node.role ?? ''
    const isText = (node.children ?? []).some(child => child.type === 'content')
    if (role === 'TR') {
      const cells = (node.children ?? []).filter(child => child.role === 'TD' || child.role === 'TH')
      const builders = cells.map(cell => textOf(cell, page, notes))
      const isHeader = cells.length > 0 && cells.every(cell => cell.role === 'TH')
      blocks.push(rowBlock(builders, isHeader ? null : state.header))
      if (isHeader) state.header = builders.map(builder => builder.text)
      return
    }
    if (role === 'Table') state.header = null
    if (role === 'Figure') {
      if (node.alt !== undefined && node.alt.trim() !== '') blocks.push({ kind: 'paragraph', text: node.alt.replace(/\s+/gu, ' ').trim(), dropped: 'image' })
      return
    }
    if (noteRole.test(role)) {
      const { sign, inText } = signOf(lineOf(node, page))
      const note = sign === null ? null : notes.begins(sign)
      const paragraphs = (node.children ?? []).filter(child => child.role === 'P')
      const [text, ...others] = (paragraphs.length > 1 ? [{ ...node, children: (node.children ?? []).filter(child => child.role !== 'P' || child === paragraphs[0]) }, ...paragraphs.slice(1)] : [node]).map(each => textOf(each, page, null))
      for (const each of [beheaded(text!, inText?.length ?? 0), ...others]) blocks.push(each.block({ kind: 'paragraph', ...(note === null ? { dropped: 'footnote' } : { note }) }))
      return
    }
    if (role === 'LI' || (isText && !inline.has(role)) || /^(?:P|H[1-6]?|Caption|TOCI|Lbl|LBody|Code|Formula)$/u.test(role)) {
      const nested = (node.children ?? []).filter(child => noteRole.test(child.role ?? '') || /^(?:L|Table|P|LBody)$/u.test(child.role ?? '') && hasBlocks(child))
      const text = textOf(nested.length === 0 ? node : { ...node, children: (node.children ?? []).filter(child => !nested.includes(child)) }, page, notes)
      const kind = kindOf(role, around, node, text)
      const shown = kind.kind === 'listItem' ? withoutBullet(text) : text
      const block = shown.block(kind)
      if (isOfUse(block)) blocks.push(block)
      for (const child of nested) walk(child, [...around, role])
      return
    }
    for (const child of node.children ?? []) walk(child, [...around, role])
  }
  walk(page.tree, [])
  return blocks
}

function hasBlocks(node: StructureNode): boolean {
  return node.role === 'L' || node.role === 'Table' || (node.children ?? []).some(child => child.role === 'L' || child.role === 'Table')
}

function kindOf(role: string, around: readonly string[], { lang }: StructureNode, { text }: TextBuilder): Omit<Block, 'text' | 'cuts' | 'emphasis' | 'marks'> {
  const language = lang === undefined || lang === '' ? {} : { language: lang }
  const dropped: DropKind | null = role === 'TOCI' || around.includes('TOC') ? 'contents' : role === 'Code' ? 'code' : null
  const rest = { ...language, ...(dropped === null ? {} : { dropped }) }
  const heading = /^H([1-6])?$/u.exec(role)
  if (heading !== null) return { ...rest, kind: 'heading', level: Number(heading[1] ?? 1) }
  if (role === 'LI' || role === 'LBody' || around.includes('L')) return { ...rest, kind: 'listItem' }
  return { ...rest, kind: around.includes('BlockQuote') || text === '' ? 'quotation' : 'paragraph' }
}

/** All text within an element, line by line; a bullet is not part of it. `notes`: null within a note. */
function textOf(node: StructureNode, page: TaggedPage, notes: TaggedNotes | null): TextBuilder {
  const builder = new TextBuilder()
  let pieces: Piece[] = []
  const flush = (): void => {
    for (const line of linesOf(pieces, page.index)) {
      if (builder.text !== '' && !/[-‐]$/u.test(builder.text)) builder.space()
      addLine(builder, line, notes)
    }
    pieces = []
  }
  const collect = (each: StructureNode): void => {
    if (each.type === 'content' && each.id !== undefined) {
      pieces.push(...page.content.get(each.id) ?? [])
    } else if (each.role === 'Lbl' && /^\W*$/u.test(rawText(each, page))) {
      return
    } else {
      if (each.role === 'P' && builder.text + rawPieces(pieces) !== '') {
        flush()
        const separator = inCell(builder)
        if (separator !== ' ') builder.add(separator)
      }
      for (const child of each.children ?? []) collect(child)
    }
  }
  collect(node)
  flush()
  return builder
}

/** A line with its raised numbers: marks of notes, or powers. */
function addLine(builder: TextBuilder, { text, marks }: Line, notes: TaggedNotes | null): void {
  let from = 0
  for (const mark of marks) {
    builder.add(text.slice(from, mark.at))
    from = mark.at
    if (mark.at === 0 && notes === null && builder.isEmpty) continue
    const isPower = looksLikePower(text.slice(0, mark.at)) && /^\d+$/u.test(mark.text)
    const note = isPower ? null : notes?.marked(mark.text) ?? null
    if (isPower) {
      builder.add(raised(mark.text, builder.text))
    } else {
      builder.cut('footnote-mark', mark.text)
      if (note !== null) builder.mark(note)
    }
  }
  builder.add(text.slice(from))
}

/** A bullet that is tagged with its item instead of as a label. */
function withoutBullet(text: TextBuilder): TextBuilder {
  return beheaded(text, /^[•◦▪‣·●○■–]\s*/u.exec(text.text)?.[0].length ?? 0)
}

/** A text without its first characters. */
function beheaded(text: TextBuilder, length: number): TextBuilder {
  if (length === 0) return text
  const rest = new TextBuilder()
  let from = length
  for (const { at, kind, text: cut } of text.cuts) {
    rest.add(text.text.slice(from, at))
    rest.cut(kind, cut)
    for (const mark of text.marks) if (mark.at === at) rest.mark(mark.note)
    from = Math.max(from, at)
  }
  rest.add(text.text.slice(from))
  return rest
}

function rawText(node: StructureNode, page: TaggedPage): string {
  return rawPieces(piecesOf(node, page))
}

function rawPieces(pieces: readonly Piece[]): string {
  return pieces.map(piece => piece.text).join('')
}
