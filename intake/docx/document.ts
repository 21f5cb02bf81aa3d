import type { SaxesTagNS } from 'saxes'
import { isOfUse, isSpeakable, type Block, type DropKind } from '#core/manuscript/manuscript'
import { count, most } from '#core/tally'
import { closeLink, isUnsafe } from '../links'
import { headingWithNumber, inCell, numbered, TableRows, TextBuilder, type Point } from '../text-builder'
import { parseXml } from '../xml'
import { isMath, OfficeFormulas } from './formulas'
import type { Numbering } from './numbering'
import { attribute, headingLevel, heightOf, isOn, type Height, type Styles } from './styles'
import { symbolOf, withSymbols } from './symbols'

/** What the parts of a document share. */
export interface DocumentContext {
  readonly styles: Styles
  readonly numbering: Numbering
  /** Addresses by relationship id. */
  readonly links: ReadonlyMap<string, string>
  /** Texts of comments by id. */
  readonly comments: ReadonlyMap<string, string>
}

export interface DocumentContent {
  readonly blocks: readonly Block[]
  /** Text of the first paragraph in the title style. */
  readonly title: string | null
  /** Characters set in each language. */
  readonly languages: ReadonlyMap<string, number>
  readonly unsafeLinks: number
}

interface Paragraph {
  readonly builder: TextBuilder
  styleId: string | null
  level: number | null
  numbered: boolean | null
  list: string | null
  listLevel: number
  bodyText: boolean
  emphasis: boolean
  /** It holds the large letter that the next paragraph begins with. */
  dropCap: boolean
  readonly languages: Map<string, number>
}

interface Table {
  readonly rows: TableRows
  cells: TextBuilder[] | null
  isHeader: boolean
  firstIsHeader: boolean
}

/** A field with its instruction (ECMA-376, part 1, 17.16). */
interface Field {
  instruction: string
  showsResult: boolean
  /** Where its result began in the paragraph. */
  from: { readonly paragraph: Paragraph, readonly point: Point } | null
}

/** Elements whose text is not the document's: a second form of the same drawing, a reading aid, earlier formatting. */
const skipped = new Set(['Fallback', 'rt', 'sectPr', 'pPrChange', 'rPrChange'])

/**
 * The blocks of `document.xml`, or of another part with the same content model, in reading order. Of footnotes and endnotes,
 * `onNote` is given each block with the id of its note instead.
 */
export function documentBlocks(xml: string, place: string, context: DocumentContext, onNote?: (id: string, block: Block) => void): DocumentContent {
  const reader = new DocumentReader(context, onNote)
  parseXml(xml, place, reader)
  return reader.content()
}

class DocumentReader {
  readonly #blocks: Block[] = []
  #title: string | null = null
  readonly #paragraphs: Paragraph[] = []
  readonly #tables: Table[] = []
  readonly #fields: Field[] = []
  readonly #path: string[] = []
  readonly #links: { target: string, from: Point, paragraph: Paragraph }[] = []
  readonly #languages = new Map<string, number>()
  readonly #contentsDepths: number[] = []
  /** Depths of form fields that show what is to be filled in. */
  readonly #placeholders: number[] = []
  readonly #formulas = new OfficeFormulas()
  /** A large letter that waits for its paragraph. */
  #dropCap: string | null = null
  #height: Height | null = null
  #font: string | null = null
  #deleted = 0
  #hidden = false
  #emphasised = false
  #language: string | null = null
  #after: Block['after']
  #breakBehind = false
  #page = 1
  #newPage = true
  #pages = false
  #emptyLines = 0
  #noteMarks = 0
  #note: string | null = null
  #unsafeLinks = 0

  readonly skipped = skipped

  constructor(readonly context: DocumentContext, readonly onNote?: (id: string, block: Block) => void) {}

  readonly open = (tag: SaxesTagNS): void => {
    this.#path.push(tag.local)
    switch (tag.local) {
      case 'p': this.#openParagraph(); break
      case 'tbl': this.#tables.push({ rows: new TableRows(), cells: null, isHeader: false, firstIsHeader: false }); break
      case 'tblLook': this.#lookOf(tag); break
      case 'tr': this.#openRow(); break
      case 'tblHeader': if (this.#tables.length > 0) this.#tables.at(-1)!.isHeader = isOn(tag); break
      case 'tc': this.#tables.at(-1)?.cells?.push(new TextBuilder()); break
      case 'del': case 'moveFrom': this.#deleted += 1; break
      case 'docPartGallery': if (/table of contents/iu.test(attribute(tag, 'val') ?? '')) this.#contentsDepths.push(this.#path.lastIndexOf('sdt')); break
      case 'showingPlcHdr': if (isOn(tag)) this.#placeholders.push(this.#path.lastIndexOf('sdt')); break
      case 'footnote': case 'endnote': this.#note = attribute(tag, 'id'); break
    }
    const paragraph = this.#paragraphs.at(-1)
    if (paragraph !== undefined) this.#inParagraph(tag, paragraph)
  }

  readonly text = (value: string): void => {
    const element = this.#path.at(-1)
    const paragraph = this.#paragraphs.at(-1)
    if (paragraph === undefined) return
    if (element === 'instrText') {
      const field = this.#fields.at(-1)
      if (field !== undefined) field.instruction += value
    } else if (element === 'delText' || (element === 't' && this.#deleted > 0)) {
      paragraph.builder.cut('deleted', value)
    } else if (element === 't') {
      this.#write(paragraph, value)
    }
  }

  readonly close = (tag: SaxesTagNS): void => {
    this.#path.pop()
    const open = this.#paragraphs.at(-1)
    if (isMath(tag) && open !== undefined) this.#formulas.close(tag, open.builder)
    switch (tag.local) {
      case 'r':
        this.#hidden = false
        this.#emphasised = false
        this.#language = null
        this.#height = null
        this.#font = null
        break
      case 'p': this.#finish(this.#paragraphs.pop()!); break
      case 'tr': this.#closeRow(); break
      case 'tbl': this.#tables.pop(); break
      case 'del': case 'moveFrom': this.#deleted -= 1; break
      case 'hyperlink': this.#closeLink(); break
      case 'fldSimple': this.#endField(); break
      case 'sdt':
        if (this.#contentsDepths.at(-1) === this.#path.length) this.#contentsDepths.pop()
        if (this.#placeholders.at(-1) === this.#path.length) this.#placeholders.pop()
        break
      case 'footnote': case 'endnote': this.#note = null; break
    }
  }

  content(): DocumentContent {
    // Pages are known only where the program that saved the document noted them.
    const blocks = this.#pages ? this.#blocks : this.#blocks.map(({ page: _, ...block }) => block)
    return { blocks, title: this.#title, languages: this.#languages, unsafeLinks: this.#unsafeLinks }
  }

  #openParagraph(): void {
    const builder = new TextBuilder()
    if (this.#dropCap !== null) builder.add(this.#dropCap)
    this.#dropCap = null
    this.#paragraphs.push({ builder, styleId: null, level: null, numbered: null, list: null, listLevel: 0, bodyText: false, emphasis: false, dropCap: false, languages: new Map() })
  }

  #inParagraph(tag: SaxesTagNS, paragraph: Paragraph): void {
    if (isMath(tag)) return this.#formulas.open(tag, paragraph.builder)
    const parent = this.#path.at(-2)
    const inRun = parent === 'r'
    const ofRun = parent === 'rPr' && this.#path.at(-3) === 'r'
    const { styles } = this.context
    switch (tag.local) {
      case 'pStyle': paragraph.styleId = attribute(tag, 'val'); break
      case 'outlineLvl':
        paragraph.level = headingLevel(tag)
        paragraph.bodyText = paragraph.level === null
        break
      case 'numId':
        paragraph.list = attribute(tag, 'val')
        paragraph.numbered = paragraph.list !== '0'
        break
      case 'ilvl': paragraph.listLevel = Number(attribute(tag, 'val') ?? 0); break
      case 'framePr': paragraph.dropCap = /^(?:drop|margin)$/u.test(attribute(tag, 'dropCap') ?? ''); break
      case 'sym': this.#write(paragraph, symbolOf(attribute(tag, 'font'), attribute(tag, 'char') ?? '')); break
      case 'rFonts': if (ofRun) this.#font = attribute(tag, 'ascii') ?? attribute(tag, 'hAnsi'); break
      case 'vertAlign': if (ofRun) this.#height = heightOf(tag); break
      case 'pageBreakBefore': if (isOn(tag)) this.#breakPage(null); break
      case 'r':
        this.#hidden = styles.of(paragraph.styleId).hidden
        this.#emphasised = false
        break
      case 'rStyle':
        if (!ofRun) break
        this.#hidden ||= styles.of(attribute(tag, 'val')).hidden
        this.#emphasised ||= styles.of(attribute(tag, 'val')).emphasis
        this.#height ??= styles.of(attribute(tag, 'val')).height
        break
      case 'vanish': if (ofRun) this.#hidden = isOn(tag); break
      case 'i': case 'b': if (ofRun) this.#emphasised = isOn(tag) || (tag.local === 'b' && this.#emphasised); break
      case 'lang': if (ofRun) this.#language = attribute(tag, 'val'); break
      case 'br':
        if (inRun) paragraph.builder.space()
        if (attribute(tag, 'type') === 'page') this.#breakPage(paragraph)
        break
      case 'tab': case 'cr': if (inRun) paragraph.builder.space(); break
      case 'lastRenderedPageBreak':
        this.#pages = true
        this.#page += 1
        this.#newPage = true
        break
      case 'noBreakHyphen': paragraph.builder.add('-'); break
      case 'docPr': paragraph.builder.cut('image', attribute(tag, 'descr') ?? ''); break
      case 'shape': paragraph.builder.cut('image', attribute(tag, 'alt') ?? ''); break
      case 'footnoteReference': case 'endnoteReference': this.#markNote(tag, paragraph); break
      case 'commentReference': paragraph.builder.cut('comment', this.context.comments.get(attribute(tag, 'id') ?? '') ?? ''); break
      case 'hyperlink': this.#links.push({ target: this.context.links.get(tag.attributes['r:id']?.value ?? attribute(tag, 'id') ?? '') ?? '', from: paragraph.builder.point(), paragraph }); break
      case 'fldSimple': this.#fields.push({ instruction: attribute(tag, 'instr') ?? '', showsResult: true, from: { paragraph, point: paragraph.builder.point() } }); break
      case 'fldChar': this.#fieldCharacter(attribute(tag, 'fldCharType'), paragraph); break
    }
  }

  #write(paragraph: Paragraph, value: string): void {
    const field = this.#fields.at(-1)
    if (field !== undefined && !field.showsResult) return
    if (field !== undefined && /^\s*(?:PAGE|NUMPAGES|SECTIONPAGES)\b/iu.test(field.instruction)) return paragraph.builder.cut('page-number', value)
    if (this.#hidden || this.#placeholders.length > 0) return paragraph.builder.cut('hidden', value)
    if (this.#emphasised !== paragraph.emphasis) {
      if (this.#emphasised) paragraph.builder.openEmphasis()
      else paragraph.builder.closeEmphasis()
      paragraph.emphasis = this.#emphasised
    }
    paragraph.builder.addAt(this.#height ?? 0, withSymbols(value, this.#font))
    if (this.#language !== null) count(paragraph.languages, this.#language, value.length)
  }

  #markNote(tag: SaxesTagNS, { builder }: Paragraph): void {
    this.#noteMarks += 1
    builder.cut('footnote-mark', String(this.#noteMarks))
    builder.mark(`${tag.local.replace('Reference', '')} ${attribute(tag, 'id') ?? ''}`)
  }

  #fieldCharacter(type: string | null, paragraph: Paragraph): void {
    if (type === 'begin') this.#fields.push({ instruction: '', showsResult: false, from: null })
    const field = this.#fields.at(-1)
    if (type === 'separate' && field !== undefined) {
      field.showsResult = true
      field.from = { paragraph, point: paragraph.builder.point() }
    } else if (type === 'end') {
      this.#endField()
    }
  }

  #endField(): void {
    const field = this.#fields.pop()
    const target = /^\s*HYPERLINK\s+"([^"]+)"/u.exec(field?.instruction ?? '')?.[1]
    if (target !== undefined && field!.from?.paragraph === this.#paragraphs.at(-1)) this.#noteLink(field!.from!.paragraph, field!.from!.point, target)
  }

  #closeLink(): void {
    const link = this.#links.pop()
    if (link !== undefined && link.target !== '') this.#noteLink(link.paragraph, link.from, link.target)
  }

  #noteLink({ builder }: Paragraph, from: Point, target: string): void {
    if (isUnsafe(target)) this.#unsafeLinks += 1
    else closeLink(builder, from, target)
  }

  /** A break before any text of its paragraph is before it; one behind text is before the next. */
  #breakPage(paragraph: Paragraph | null): void {
    if (paragraph === null || paragraph.builder.text === '') this.#after = 'page'
    else this.#breakBehind = true
  }

  #isContents(paragraph: Paragraph): boolean {
    return this.#contentsDepths.length > 0 || this.context.styles.of(paragraph.styleId).contents || this.#fields.some(field => /^\s*TOC\b/iu.test(field.instruction))
  }

  #finish(paragraph: Paragraph): void {
    const { builder } = paragraph
    const cell = this.#tables.at(-1)?.cells?.at(-1)
    if (paragraph.dropCap && builder.text !== '') {
      this.#dropCap = builder.text
      return
    }
    if (builder.isEmpty && !this.#isNumberedHeading(paragraph)) {
      if (cell === undefined) this.#emptyLines += 1
      return
    }
    if (cell !== undefined) return cell.append(builder, inCell(cell))
    const block = this.#toBlock(paragraph)
    if (block.level === 0 && isSpeakable(block.text)) this.#title ??= block.text
    this.#emit(block)
  }

  #emit(block: Block): void {
    if (!isOfUse(block)) return
    const placed: Block = {
      ...block,
      ...(this.#after === undefined ? {} : { after: this.#after }),
      ...(this.#emptyLines < 2 ? {} : { emptyLines: this.#emptyLines }),
      ...(this.#newPage ? { page: String(this.#page) } : {}),
    }
    this.#after = this.#breakBehind ? 'page' : undefined
    this.#breakBehind = false
    this.#emptyLines = 0
    this.#newPage = false
    if (this.#note !== null && this.onNote !== undefined) this.onNote(this.#note, placed)
    else this.#blocks.push(placed)
  }

  #toBlock(paragraph: Paragraph): Block {
    const style = this.context.styles.of(paragraph.styleId)
    const { builder } = paragraph
    const language = this.#languageOf(paragraph)
    const dropped: DropKind | null = this.#isContents(paragraph) ? 'contents' : style.code ? 'code' : null
    const rest = {
      ...(language === null ? {} : { language }),
      ...(dropped === null ? {} : { dropped }),
      ...(style.titlePage ? { titlePage: true } : {}),
    }
    const level = this.#levelOf(paragraph)
    if (level !== null) {
      const number = this.#isNumberedHeading(paragraph) ? this.#nextNumber(paragraph) : null
      return headingWithNumber(number, builder).block({ ...rest, kind: 'heading', level })
    }
    if (paragraph.numbered ?? style.numbered) {
      const number = builder.text === '' ? null : this.#nextNumber(paragraph)
      return (number === null ? builder : numbered(number, builder)).block({ ...rest, kind: 'listItem' })
    }
    return builder.block({ ...rest, kind: style.quotation ? 'quotation' : 'paragraph' })
  }

  #levelOf({ styleId, level, bodyText }: Paragraph): number | null {
    return level ?? (bodyText ? null : this.context.styles.of(styleId).level)
  }

  #isNumberedHeading(paragraph: Paragraph): boolean {
    return this.#levelOf(paragraph) !== null && (paragraph.numbered ?? this.context.styles.of(paragraph.styleId).numbered)
  }

  /** The number of the next paragraph of its list. */
  #nextNumber({ styleId, list, listLevel }: Paragraph): string | null {
    const style = this.context.styles.of(styleId)
    return this.context.numbering.next(list ?? style.list?.id ?? '', list === null ? style.list?.level ?? 0 : listLevel, list === null ? styleId : null)
  }

  /** The language that most of a paragraph is set in, when it says so. */
  #languageOf({ languages, builder }: Paragraph): string | null {
    for (const [language, characters] of languages) count(this.#languages, language, characters)
    const main = most(languages)
    return main !== undefined && main[1] * 2 > builder.text.length ? main[0] : null
  }

  #lookOf(tag: SaxesTagNS): void {
    const table = this.#tables.at(-1)
    if (table === undefined) return
    const first = attribute(tag, 'firstRow')
    table.firstIsHeader = first === null ? (Number.parseInt(attribute(tag, 'val') ?? '0', 16) & 0x20) !== 0 : first === '1' || first === 'true'
  }

  #openRow(): void {
    const table = this.#tables.at(-1)
    if (table === undefined) return
    table.cells = []
    table.isHeader = false
  }

  #closeRow(): void {
    const table = this.#tables.at(-1)
    if (table === undefined || table.cells === null) return
    const { cells } = table
    table.cells = null
    const block = table.rows.end(cells, table.isHeader || table.firstIsHeader, this.#tables.at(-2)?.cells?.at(-1))
    if (block !== null) this.#emit(block)
  }
}
