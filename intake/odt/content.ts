import type { SaxesTagNS } from 'saxes'
import { isOfUse, isSpeakable, type Block, type DropKind } from '#core/manuscript/manuscript'
import { addTo, count, most } from '#core/tally'
import { closeLink, isUnsafe } from '../links'
import { listNumber } from '../list-number'
import { placeNotes } from '../notes'
import { headingWithNumber, inCell, numbered, TableRows, TextBuilder, type Point } from '../text-builder'
import { parseXml } from '../xml'
import { valueOf, type OdfStyle, type OdfStyles } from './styles'

export interface OdtContent {
  readonly blocks: readonly Block[]
  readonly title: string | null
  readonly unsafeLinks: number
}

interface Paragraph {
  readonly builder: TextBuilder
  readonly style: OdfStyle
  /** Null in body text. */
  readonly level: number | null
  /** Of a heading, as the program writes it. */
  readonly number: string | null
  readonly characters: Map<string, number>
}

interface List {
  readonly style: string
  number: number
  /** Of the item that begins, until it is spoken. */
  marker: string | null
}

interface Table {
  readonly rows: TableRows
  cells: TextBuilder[] | null
  inHeader: boolean
}

/** Elements that hold no text of the document. */
const skipped = new Set(['note-citation', 'sequence-decls', 'variable-decls', 'user-field-decls', 'forms', 'ruby-text', 'bookmark', 'annotation-end', 'index-title-template'])
const generated = new Set(['table-of-content', 'alphabetical-index', 'illustration-index', 'table-index', 'object-index', 'user-index'])

/** The blocks of the text body of `content.xml` (OpenDocument 1.3, part 3, 5). */
export function odtBlocks(xml: string, styles: OdfStyles): OdtContent {
  const reader = new OdtReader(styles)
  parseXml(xml, 'content.xml', reader)
  return reader.content()
}

class OdtReader {
  readonly #blocks: Block[] = []
  readonly #notes = new Map<string, Block[]>()
  #title: string | null = null
  readonly #paragraphs: Paragraph[] = []
  readonly #spans: { style: OdfStyle, hidden: boolean }[] = []
  readonly #lists: List[] = []
  readonly #tables: Table[] = []
  readonly #links: { target: string, from: Point, builder: TextBuilder }[] = []
  readonly #note: string[] = []
  /** Numbers of the last heading on each level. */
  readonly #headings: number[] = []
  /** Text that is not read, collected until its element ends. */
  readonly #aside: { element: string, kind: DropKind, text: string }[] = []
  #generated = 0
  #inBody = false
  #after: Block['after']
  #page = 1
  #newPage = false
  #emptyLines = 0
  #noteCount = 0
  #unsafeLinks = 0
  readonly #deletions = new Map<string, string>()
  #deletion: string | null = null

  readonly skipped = skipped

  constructor(readonly styles: OdfStyles) {}

  readonly open = (tag: SaxesTagNS): void => {
    if (tag.local === 'body') this.#inBody = true
    if (!this.#inBody) return
    if (generated.has(tag.local)) this.#generated += 1
    const builder = this.#paragraphs.at(-1)?.builder
    switch (tag.local) {
      case 'changed-region': this.#deletion = valueOf(tag, 'id'); break
      case 'deletion': this.#aside.push({ element: 'deletion', kind: 'deleted', text: '' }); break
      case 'change': builder?.cut('deleted', this.#deletions.get(valueOf(tag, 'change-id') ?? '') ?? ''); break
      case 'annotation': this.#aside.push({ element: 'annotation', kind: 'comment', text: '' }); break
      case 'placeholder': this.#aside.push({ element: 'placeholder', kind: 'hidden', text: '' }); break
      case 'hidden-text': builder?.cut('hidden', valueOf(tag, 'string-value') ?? ''); break
      case 'title': case 'desc': if (builder !== undefined) this.#aside.push({ element: tag.local, kind: 'image', text: '' }); break
      case 'page-number': case 'page-count': this.#aside.push({ element: tag.local, kind: 'page-number', text: '' }); break
      case 'note':
        this.#noteCount += 1
        builder?.cut('footnote-mark', String(this.#noteCount))
        builder?.mark(`note ${this.#noteCount}`)
        break
      case 'note-body': this.#note.push(`note ${this.#noteCount}`); break
      case 'h': this.#openParagraph(tag, Number(valueOf(tag, 'outline-level') ?? 1)); break
      case 'p': if (this.#aside.length === 0) this.#openParagraph(tag, null); break
      case 'span': this.#openSpan(tag); break
      case 'a': if (builder !== undefined) this.#links.push({ target: valueOf(tag, 'href') ?? '', from: builder.point(), builder }); break
      case 's': case 'tab': case 'line-break': builder?.space(); break
      case 'soft-page-break':
        this.#page += 1
        this.#newPage = true
        break
      case 'list': this.#lists.push({ style: valueOf(tag, 'style-name') ?? this.#lists.at(-1)?.style ?? '', number: 0, marker: null }); break
      case 'list-item': this.#openItem(tag); break
      case 'table': this.#tables.push({ rows: new TableRows(), cells: null, inHeader: false }); break
      case 'table-header-rows': if (this.#tables.length > 0) this.#tables.at(-1)!.inHeader = true; break
      case 'table-row': if (this.#tables.length > 0) this.#tables.at(-1)!.cells = []; break
      case 'table-cell': this.#tables.at(-1)?.cells?.push(new TextBuilder()); break
    }
  }

  readonly text = (value: string): void => {
    if (!this.#inBody) return
    const aside = this.#aside.at(-1)
    const paragraph = this.#paragraphs.at(-1)
    if (aside !== undefined) {
      aside.text += value
    } else if (paragraph !== undefined) {
      const span = this.#spans.at(-1)
      if (span?.hidden === true || paragraph.style.hidden) return paragraph.builder.cut('hidden', value)
      paragraph.builder.addAt(this.#spans.findLast(({ style }) => style.height !== 0)?.style.height ?? 0, value)
      const language = span?.style.language ?? paragraph.style.language
      if (language !== null) count(paragraph.characters, language, value.length)
    }
  }

  readonly close = (tag: SaxesTagNS): void => {
    if (!this.#inBody) return
    if (generated.has(tag.local)) this.#generated -= 1
    if (this.#aside.at(-1)?.element === tag.local) {
      const { kind, text } = this.#aside.pop()!
      if (kind === 'deleted') this.#deletions.set(this.#deletion ?? '', text)
      else this.#paragraphs.at(-1)?.builder.cut(kind, text)
      return
    }
    if (tag.local === 'p' && this.#aside.length > 0) {
      this.#aside.at(-1)!.text += ' '
      return
    }
    switch (tag.local) {
      case 'body': this.#inBody = false; break
      case 'note-body': this.#note.pop(); break
      case 'h': case 'p': this.#finish(this.#paragraphs.pop()!); break
      case 'span': if (this.#spans.pop()?.style.emphasis === true) this.#paragraphs.at(-1)?.builder.closeEmphasis(); break
      case 'a': this.#closeLink(); break
      case 'list': this.#lists.pop(); break
      case 'table': this.#tables.pop(); break
      case 'table-header-rows': if (this.#tables.length > 0) this.#tables.at(-1)!.inHeader = false; break
      case 'table-row': this.#closeRow(); break
    }
  }

  content(): OdtContent {
    return { blocks: placeNotes(this.#blocks, this.#notes), title: this.#title, unsafeLinks: this.#unsafeLinks }
  }

  #openParagraph(tag: SaxesTagNS, level: number | null): void {
    const style = this.styles.of('paragraph', valueOf(tag, 'style-name'))
    const isTitle = level === null && /^title$/iu.test(styleName(style))
    if (style.breakBefore) this.#after = 'page'
    const number = level === null || valueOf(tag, 'is-list-header') === 'true' ? null : this.#headingNumber(level, Number.parseInt(valueOf(tag, 'start-value') ?? '', 10))
    this.#paragraphs.push({ builder: new TextBuilder(), style, level: isTitle ? 0 : level, number, characters: new Map() })
  }

  /** The number of the next heading on a level. */
  #headingNumber(level: number, start: number): string | null {
    const own = this.styles.outlineLevel(level)
    const counts = this.#headings
    counts[level] = Number.isNaN(start) ? (counts[level] ?? (own?.start ?? 1) - 1) + 1 : start
    counts.length = level + 1
    if (own === null) return null
    const numbers = Array.from({ length: own.shown }, (_, index) => level - own.shown + 1 + index).filter(each => each > 0).map(each => listNumber(counts[each] ?? 1, this.styles.outlineLevel(each)?.style ?? 'decimal'))
    return `${own.prefix}${numbers.join('.')}${own.suffix}`.trim() || null
  }

  #openSpan(tag: SaxesTagNS): void {
    const style = this.styles.of('text', valueOf(tag, 'style-name'))
    this.#spans.push({ style, hidden: style.hidden || this.#spans.at(-1)?.hidden === true })
    if (style.emphasis) this.#paragraphs.at(-1)?.builder.openEmphasis()
  }

  #openItem(tag: SaxesTagNS): void {
    const list = this.#lists.at(-1)
    if (list === undefined) return
    const level = this.styles.listLevel(list.style, this.#lists.length)
    if (level === null) return
    const given = Number.parseInt(valueOf(tag, 'start-value') ?? '', 10)
    list.number = Number.isNaN(given) ? list.number === 0 ? level.start : list.number + 1 : given
    const numbers = this.#lists.slice(-level.shown).map((each, index, shown) =>
      listNumber(each.number, this.styles.listLevel(each.style, this.#lists.length - shown.length + index + 1)?.style ?? 'decimal'))
    list.marker = `${level.prefix}${numbers.join('.')}${level.suffix}`.trim()
  }

  #closeLink(): void {
    const link = this.#links.pop()
    if (link === undefined || link.target === '' || link.target.startsWith('#')) return
    if (isUnsafe(link.target)) this.#unsafeLinks += 1
    else closeLink(link.builder, link.from, link.target)
  }

  #finish(paragraph: Paragraph): void {
    const { builder, style, level, number } = paragraph
    const cell = this.#note.length === 0 ? this.#tables.at(-1)?.cells?.at(-1) : undefined
    if (builder.isEmpty && (level === null || number === null)) {
      if (cell === undefined) this.#emptyLines += 1
    } else if (cell !== undefined) {
      cell.append(builder, inCell(cell))
    } else {
      this.#emit(this.#toBlock(paragraph))
      if (level === 0 && isSpeakable(builder.text)) this.#title ??= builder.text
    }
    if (style.breakAfter) this.#after = 'page'
  }

  #toBlock({ builder, style, level, number, characters }: Paragraph): Block {
    const main = most(characters)
    const language = main !== undefined && main[1] * 2 > builder.text.length ? main[0] : null
    const dropped = this.#generated > 0 || /^contents (?:\d|heading)/iu.test(styleName(style)) ? 'contents' : style.names.some(name => /^(?:preformatted text|source code|source text)$/iu.test(name)) ? 'code' : null
    const rest = {
      ...(language === null ? {} : { language }),
      ...(dropped === null ? {} : { dropped } as const),
      ...(/^(?:title|subtitle|author|date)$/iu.test(styleName(style)) ? { titlePage: true } : {}),
    }
    if (level !== null) return headingWithNumber(number, builder).block({ ...rest, kind: 'heading', level: Math.min(level, 9) })
    const list = this.#note.length === 0 ? this.#lists.at(-1) : undefined
    if (list !== undefined) {
      const { marker } = list
      list.marker = null
      return (marker === null || builder.text === '' ? builder : numbered(marker, builder)).block({ ...rest, kind: 'listItem' })
    }
    return builder.block({ ...rest, kind: style.names.some(name => /^(?:quotations?|quote|block ?text)$/iu.test(name)) ? 'quotation' : 'paragraph' })
  }

  #emit(block: Block): void {
    if (!isOfUse(block)) return
    const note = this.#note.at(-1)
    if (note !== undefined) {
      addTo(this.#notes, note, block)
      return
    }
    this.#blocks.push({
      ...block,
      ...(this.#after === undefined ? {} : { after: this.#after }),
      ...(this.#emptyLines < 2 ? {} : { emptyLines: this.#emptyLines }),
      ...(this.#newPage || this.#blocks.length === 0 ? { page: String(this.#page) } : {}),
    })
    this.#after = undefined
    this.#emptyLines = 0
    this.#newPage = false
  }

  #closeRow(): void {
    const table = this.#tables.at(-1)
    if (table === undefined || table.cells === null) return
    const { cells } = table
    table.cells = null
    const block = table.rows.end(cells, table.inHeader, this.#tables.at(-2)?.cells?.at(-1))
    if (block !== null) this.#emit(block)
  }
}

/** The display name of the nearest style that has one of its own: automatic styles are called P1, T2 … */
function styleName({ names }: OdfStyle): string {
  return names.find(name => !/^[PT]\d+$/u.test(name)) ?? ''
}
