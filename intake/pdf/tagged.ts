import { isOfUse, isSpeakable, type Block, type DropKind } from '#core/manuscript/manuscript'
import { inCell, rowBlock, TextBuilder } from '../text-builder'
import { linesOf, type Piece } from './lines'

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
  /** Pieces by the marked content they stand in. */
  readonly content: ReadonlyMap<string, readonly Piece[]>
  /** Pieces that are marked as no part of the text. */
  readonly artifacts: readonly Piece[]
}

const inline = new Set(['Span', 'Link', 'Quote', 'Em', 'Strong', 'Reference', 'BibEntry', 'Annot', 'Ruby', 'RB', 'Warichu', 'NonStruct'])

/** The blocks of a tagged file, by its own structure. */
export function blocksFromTags(pages: readonly TaggedPage[]): Block[] {
  const blocks: Block[] = []
  let isOpen = false
  for (const page of pages) {
    const own = pageBlocks(page)
    const [first] = own
    const at = blocks.findLastIndex(block => block.dropped !== 'running-head' && block.dropped !== 'page-number')
    const last = blocks[at]
    // The tree comes page by page: what stands on two pages is put together again.
    if (first !== undefined && last !== undefined && isOpen && first.kind === last.kind && first.level === undefined && first.dropped === undefined && last.dropped === undefined) {
      blocks[at] = { ...last, text: `${last.text} ${first.text}` }
      own.shift()
    }
    if (own[0] !== undefined) own[0] = { ...own[0], page: page.label }
    blocks.push(...own)
    blocks.push(...artifactBlocks(page))
    const end = own.at(-1) ?? blocks.findLast(block => block.dropped === undefined)
    isOpen = end?.kind === 'paragraph' && !/[.!?:…]["”’»)\]]*$/u.test(end.text)
  }
  return blocks
}

function artifactBlocks({ artifacts, index }: TaggedPage): Block[] {
  return linesOf(artifacts, index).filter(line => isSpeakable(line.text)).map(({ text }) => ({
    kind: 'paragraph', text, dropped: /^\W*\d{1,4}\W*$/u.test(text) ? 'page-number' : 'running-head',
  }))
}

function pageBlocks(page: TaggedPage): Block[] {
  const blocks: Block[] = []
  const state = { header: null as string[] | null }
  const walk = (node: StructureNode, around: readonly string[]): void => {
    const role = node.role ?? ''
    const isText = (node.children ?? []).some(child => child.type === 'content')
    if (role === 'TR') {
      const cells = (node.children ?? []).filter(child => child.role === 'TD' || child.role === 'TH')
      const builders = cells.map(cell => textOf(cell, page))
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
    if (role === 'LI' || (isText && !inline.has(role)) || /^(?:P|H[1-6]?|Caption|TOCI|Lbl|LBody|Note|Code|Formula)$/u.test(role)) {
      const nested = (node.children ?? []).filter(child => /^(?:L|Table|P|LBody)$/u.test(child.role ?? '') && hasBlocks(child))
      const text = textOf(nested.length === 0 ? node : { ...node, children: (node.children ?? []).filter(child => !nested.includes(child)) }, page)
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
  const dropped: DropKind | null = role === 'TOCI' || around.includes('TOC') ? 'contents' : role === 'Code' ? 'code' : role === 'Note' ? 'footnote' : null
  const rest = { ...language, ...(dropped === null ? {} : { dropped }) }
  const heading = /^H([1-6])?$/u.exec(role)
  if (heading !== null) return { ...rest, kind: 'heading', level: Number(heading[1] ?? 1) }
  if (role === 'LI' || role === 'LBody' || around.includes('L')) return { ...rest, kind: 'listItem' }
  return { ...rest, kind: around.includes('BlockQuote') || text === '' ? 'quotation' : 'paragraph' }
}

/** All text within an element, line by line; a bullet is not part of it. */
function textOf(node: StructureNode, page: TaggedPage): TextBuilder {
  const builder = new TextBuilder()
  const collect = (each: StructureNode): void => {
    if (each.type === 'content' && each.id !== undefined) {
      for (const line of linesOf(page.content.get(each.id) ?? [], page.index)) {
        if (builder.text !== '' && !/[-‐]$/u.test(builder.text)) builder.space()
        builder.add(line.text)
      }
    } else if (each.role === 'Lbl' && /^\W*$/u.test(rawText(each, page))) {
      return
    } else {
      if (each.role === 'P' && builder.text !== '') {
        const separator = inCell(builder)
        if (separator !== ' ') builder.add(separator)
      }
      for (const child of each.children ?? []) collect(child)
    }
  }
  collect(node)
  return builder
}

/** A bullet that is tagged with its item instead of as a label. */
function withoutBullet(text: TextBuilder): TextBuilder {
  const bullet = /^[•◦▪‣·●○■–]\s*/u.exec(text.text)
  if (bullet === null) return text
  const bare = new TextBuilder()
  bare.add(text.text.slice(bullet[0].length))
  return bare
}

function rawText(node: StructureNode, page: TaggedPage): string {
  if (node.id !== undefined) return (page.content.get(node.id) ?? []).map(piece => piece.text).join('')
  return (node.children ?? []).map(child => rawText(child, page)).join('')
}
