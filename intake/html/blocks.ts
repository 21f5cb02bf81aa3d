import { Parser } from 'htmlparser2'
import { isOfUse, type Block, type DropKind, type Matter } from '#core/manuscript/manuscript'
import type { Problem } from '#core/problem'
import { closeLink, isUnsafe, maximumDepth, refuseDepth, unsafeLinks } from '../links'
import { listNumber, type NumberStyle } from '../list-number'
import { numbered, TableRows, TextBuilder, type Point } from '../text-builder'
import { lookup } from '#core/lookup'
import { closeFormula, isFormula, isOperator, type Formula } from '../formulas'
import { resolveNotes, type Draft } from './notes'
import { targetPath } from './paths'
import { blockElements, dropOf, emphasising, ignored, isNote, isTitlePage, languageOf, matterOfType, typeOf, voids } from './semantics'
import { cascade, readStyleSheet, type Styled, type StyleSheet, type StyleSheets } from './style-sheets'

/** What HTML, or XHTML, says of itself and holds. */
export interface HtmlDocument {
  readonly title: string | null
  readonly author: string | null
  readonly date: string | null
  readonly language: string | null
  readonly blocks: readonly Block[]
  readonly problems: readonly Problem[]
}

/** The same, before its notes are found: for documents that share them. */
export interface HtmlDraft extends Omit<HtmlDocument, 'blocks'> {
  readonly drafts: readonly Draft[]
  /** The draft at which each element with an id begins, by `path#id`. */
  readonly anchors: ReadonlyMap<string, number>
}

export interface HtmlOptions {
  /** XHTML: an element without content may close itself. */
  readonly xhtml?: boolean
  /** What the whole is, where it is not text to be read. */
  readonly dropped?: DropKind
  readonly matter?: Matter
  /** It holds the title and what belongs to it. */
  readonly titlePage?: boolean
  /** Of the document in its container, which its links are relative to. */
  readonly path?: string
  /** Style sheets that it is linked to. */
  readonly styleSheets?: readonly StyleSheet[]
  /** In messages. */
  readonly place: string
}

const markText = /^[\s[(]*(?:\d{1,4}|[*†‡§¶#]{1,3}|[a-z]|[ivxl]{1,6})[\s\])]*$/u
/** Elements that set text above or below the line. */
const heights: ReadonlyMap<string, number> = new Map([['sup', 1], ['sub', -1]])
const noteClass = /\b(?:foot-?note|note-?ref|fn-?ref|fnref|footnote-reference)\b/iu

interface Frame extends Styled {
  readonly dropped: DropKind | null
  readonly language: string | null
  readonly matter: Matter | null
  readonly titlePage: boolean
  /** It is a note, whether a mark leads to it or not. */
  readonly isNote: boolean
  readonly formula?: Formula
  /** Elements in it so far. */
  children: number
  /** Of a list: the number of its next item; null for an unordered one. */
  counter?: { next: number, style: NumberStyle } | null
  /** Of an item: its number, until it is spoken. */
  marker?: string | null
  link?: { target: string, from: Point, isMark: boolean }
  /** Text in a dropped inline element. */
  cut?: string
  /** Text of a page number in the text. */
  page?: boolean
}

interface Table {
  readonly rows: TableRows
  cells: TextBuilder[] | null
  /** Whether all cells of the row so far are headers. */
  heads: boolean
  inCell: boolean
  inHead: boolean
  /** The cell that a table in a table stands in. */
  readonly outer: TextBuilder | undefined
}

/** The blocks of HTML in reading order, dropped ones among them. Throws a problem for elements nested too deep. */
export function htmlBlocks(html: string, options: HtmlOptions): HtmlDocument {
  const { drafts, anchors: _, ...found } = htmlDrafts(html, options)
  return { ...found, blocks: resolveNotes(drafts) }
}

export function htmlDrafts(html: string, options: HtmlOptions): HtmlDraft {
  const own = [...html.matchAll(/<style\b[^>]*>([\s\S]*?)<\/style\s*>/giu)].map(match => readStyleSheet(match[1]!))
  const reader = new HtmlReader(options, cascade([...options.styleSheets ?? [], ...own]))
  const parser = new Parser(reader, { lowerCaseTags: true, lowerCaseAttributeNames: true, recognizeSelfClosing: options.xhtml ?? false, decodeEntities: true })
  parser.write(html)
  parser.end()
  return reader.result()
}

class HtmlReader {
  readonly #frames: Frame[] = []
  readonly #drafts: Draft[] = []
  readonly #anchors = new Map<string, number>()
  #builder = new TextBuilder()
  #ids: string[] = []
  #openIds: { id: string, depth: number }[] = []
  #title: string | null = null
  #author: string | null = null
  #date: string | null = null
  #language: string | null = null
  #titleText: string | null = null
  #ignoring = 0
  #breaks = 0
  #after: 'rule' | undefined
  #page: string | null = null
  #unsafeLinks = 0
  readonly #tables: Table[] = []

  constructor(readonly options: HtmlOptions, readonly styles: StyleSheets) {}

  onopentag(name: string, attributes: Record<string, string>): void {
    if (name === 'title' && this.#title === null) this.#titleText = ''
    if (name === 'meta') this.#meta(attributes)
    if (name === 'html' || name === 'body') this.#language ??= languageOf(attributes)
    if (ignored.has(name)) this.#ignoring += 1
    if (this.#ignoring > 0) return
    if (this.#frames.length >= maximumDepth) refuseDepth(this.options.place)
    if (name === 'br') return this.#break()
    if (blockElements.has(name)) this.#startBlock(name)
    const named = attributes['id'] ?? (name === 'a' ? attributes['name'] : undefined)
    if (named !== undefined) {
      const id = `${this.options.path ?? ''}#${named}`
      if (!this.#anchors.has(id)) this.#anchors.set(id, this.#drafts.length)
      this.#ids.push(id)
      if (!voids.has(name)) this.#openIds.push({ id, depth: this.#frames.length })
    }
    if (name === 'img' && this.#cutting() === undefined) this.#builder.cut('image', attributes['alt'] ?? '')
    if (name === 'hr') this.#after = 'rule'
    if (voids.has(name)) return
    this.#push(name, attributes)
  }

  ontext(text: string): void {
    if (this.#titleText !== null) this.#titleText += text
    if (this.#ignoring > 0) return
    const cutting = this.#cutting()
    if (cutting !== undefined) {
      cutting.cut += text
      return
    }
    if (this.#breaks > 0 && text.trim() !== '') this.#afterBreaks()
    // The text of a link may be the mark of a note: it is taken as it is.
    const height = this.#frames.some(frame => frame.link !== undefined) ? undefined : this.#frames.findLast(({ name }) => heights.has(name))?.name
    if (height !== undefined) this.#builder.addAt(heights.get(height)!, text)
    else this.#builder.add(this.#frames.at(-1)?.name === 'mo' && isOperator(text) ? ` ${text.trim()} ` : text)
  }

  /** What takes the text that is not read. */
  #cutting(): Frame | undefined {
    return this.#frames.findLast(frame => frame.cut !== undefined)
  }

  onclosetag(name: string): void {
    if (name === 'title' && this.#titleText !== null) {
      this.#title = this.#titleText.replace(/\s+/gu, ' ').trim() || null
      this.#titleText = null
    }
    if (ignored.has(name)) {
      this.#ignoring = Math.max(0, this.#ignoring - 1)
      return
    }
    if (this.#ignoring > 0 || voids.has(name)) return
    if (this.#frames.at(-1)?.name !== name) return
    this.#close(this.#frames.at(-1)!)
    this.#frames.pop()
    const closed = this.#openIds.filter(({ depth }) => depth >= this.#frames.length)
    // What a term's id leads to is its definition.
    if (name === 'dt') this.#ids.push(...closed.map(({ id }) => id))
    if (closed.length > 0) this.#openIds = this.#openIds.filter(({ depth }) => depth < this.#frames.length)
  }

  onend(): void {
    this.#flush()
  }

  onerror(error: Error): void {
    throw error
  }

  result(): HtmlDraft {
    return { title: this.#title, author: this.#author, date: this.#date, language: this.#language, drafts: this.#drafts, anchors: this.#anchors, problems: unsafeLinks(this.#unsafeLinks, this.options.place) }
  }

  #meta(attributes: Record<string, string>): void {
    const name = (attributes['name'] ?? attributes['property'] ?? '').toLowerCase()
    const content = attributes['content']?.trim() ?? ''
    if (content === '') return
    if (/^(?:author|dc\.creator|dcterms\.creator|article:author)$/u.test(name)) this.#author ??= content
    if (/^(?:date|dc\.date|dcterms\.date|dcterms\.created|article:published_time)$/u.test(name)) this.#date ??= content
  }

  #push(name: string, attributes: Record<string, string>): void {
    const type = typeOf(attributes)
    const inTable = this.#tables.at(-1)
    const isInCell = inTable?.inCell === true
    const isInArticle = this.#frames.some(outer => outer.name === 'article' || outer.name === 'main')
    const isHidden = this.styles.hides({ name, attributes }, this.#frames)
    const frame: Frame = {
      name, attributes, dropped: dropOf(name, attributes, { isXhtml: this.options.xhtml === true, isInArticle, isHidden }), language: languageOf(attributes),
      matter: matterOfType(type), titlePage: isTitlePage(type), isNote: isNote(type), children: 0,
      ...(isFormula(name) ? { formula: { from: this.#builder.point(), second: null } } : {}),
    }
    const outer = this.#frames.at(-1)
    if (outer !== undefined) outer.children += 1
    if (outer?.formula !== undefined && outer.children === 2) outer.formula.second = this.#builder.point()
    if (name === 'ol') frame.counter = { next: Number.parseInt(attributes['start'] ?? '1', 10) || 1, style: lookup(listStyles, attributes['type'] ?? '1') ?? 'decimal' }
    if (name === 'ul' || name === 'menu') frame.counter = null
    if (name === 'li' && frame.dropped === null) frame.marker = this.#itemNumber(attributes)
    if (name === 'table') this.#openTable()
    if (name === 'thead' && inTable !== undefined) inTable.inHead = true
    if (name === 'tr' && inTable !== undefined) {
      inTable.cells = []
      inTable.heads = true
    }
    if ((name === 'td' || name === 'th') && inTable !== undefined) {
      inTable.inCell = true
      inTable.heads &&= name === 'th'
    }
    if (emphasising.has(name)) this.#builder.openEmphasis()
    if (/\bpagebreak\b/u.test(type)) {
      this.#page = attributes['title'] ?? attributes['aria-label'] ?? null
      frame.page = true
      frame.cut = ''
    } else if (frame.dropped !== null && (isInCell || name === 'td' || name === 'th' || !blockElements.has(name)) && !this.#frames.some(each => each.dropped !== null)) {
      frame.cut = ''
    } else if (name === 'a') {
      const target = attributes['href'] ?? ''
      if (target !== '') frame.link = { target, from: this.#builder.point(), isMark: /noteref/u.test(type) || noteClass.test(attributes['class'] ?? '') || this.#frames.at(-1)?.name === 'sup' }
    } else if (name === 'sup') {
      const link = this.#frames.at(-1)?.link
      if (link !== undefined) link.isMark = true
    }
    this.#frames.push(frame)
  }

  #itemNumber(attributes: Record<string, string>): string | null {
    const list = this.#frames.findLast(frame => frame.counter !== undefined)?.counter
    if (list === undefined || list === null) return null
    const given = Number.parseInt(attributes['value'] ?? '', 10)
    if (!Number.isNaN(given)) list.next = given
    return `${listNumber(list.next++, list.style)}.`
  }

  #close(frame: Frame): void {
    const { name } = frame
    if (frame.page === true) {
      this.#page ??= frame.cut?.trim() || null
      if (frame.cut !== undefined) this.#builder.cut('page-number', frame.cut)
    } else if (frame.cut !== undefined) {
      this.#builder.cut(frame.dropped!, frame.cut)
    }
    if (frame.link !== undefined) this.#closeLink(frame.link)
    if (frame.formula !== undefined) closeFormula(this.#builder, name, frame.formula)
    if (emphasising.has(name)) this.#builder.closeEmphasis()
    const table = this.#tables.at(-1)
    if ((name === 'td' || name === 'th') && table !== undefined && table.cells !== null) {
      table.cells.push(this.#builder)
      this.#builder = new TextBuilder()
      table.inCell = false
    } else if (name === 'tr' && table !== undefined && table.cells !== null) {
      this.#closeRow(table)
    } else if (name === 'thead' && table !== undefined) {
      table.inHead = false
    } else if (name === 'table' && table !== undefined) {
      this.#tables.pop()
      if (table.outer === undefined) this.#flush()
      else this.#builder = table.outer
    } else if (blockElements.has(name)) {
      this.#flush()
    }
  }

  #openTable(): void {
    const inCell = this.#tables.at(-1)?.inCell === true
    this.#tables.push({ rows: new TableRows(), cells: null, heads: false, inCell: false, inHead: false, outer: inCell ? this.#builder : undefined })
    if (inCell) this.#builder = new TextBuilder()
  }

  #closeRow(table: Table): void {
    const block = table.rows.end(table.cells ?? [], table.heads || table.inHead, table.outer)
    if (block !== null) this.#emit(block)
    table.cells = null
  }

  #closeLink({ target, from, isMark }: NonNullable<Frame['link']>): void {
    const text = this.#builder.since(from)
    if (isUnsafe(target)) {
      this.#unsafeLinks += 1
      return
    }
    if (target.includes('#') && (isMark ? markText.test(text) : /^\[\s*(?:\d{1,4}|[*†‡])\s*\]$/u.test(text))) {
      this.#builder.rewind(from)
      this.#builder.cut('footnote-mark', text)
      this.#builder.mark(targetPath(this.options.path ?? '', target))
      return
    }
    if (/^(?:↩|↑|⤴|\^|⏎)+\uFE0E?$/u.test(text) && target.includes('#')) {
      this.#builder.rewind(from)
      this.#builder.cut('footnote-mark', text)
      return
    }
    if (/^(?:[a-z][a-z0-9+.-]*:)/iu.test(target)) closeLink(this.#builder, from, target)
  }

  #break(): void {
    this.#builder.space()
    this.#breaks += 1
  }

  /** One break is a space; two make a paragraph. */
  #afterBreaks(): void {
    if (this.#breaks > 1 && this.#tables.at(-1)?.inCell !== true) this.#flush()
    this.#breaks = 0
  }

  #startBlock(name: string): void {
    const table = this.#tables.at(-1)
    if (table?.inCell === true && name !== 'td' && name !== 'th' && name !== 'tr') this.#builder.space()
    else this.#flush()
  }

  /** Ends the block that is being built. */
  #flush(): void {
    this.#breaks = 0
    if (this.#tables.at(-1)?.inCell === true) return this.#builder.space()
    if (this.#builder.isEmpty) return
    const builder = this.#builder
    this.#builder = new TextBuilder()
    const inner = this.#frames.findLast(frame => /^h[1-6]$|^(?:li|blockquote|pre|dt|dd)$/u.test(frame.name))
    const item = this.#frames.findLast(frame => frame.name === 'li')
    if (item?.marker !== undefined && item.marker !== null && !this.#frames.some(frame => frame.dropped !== null)) {
      const { marker } = item
      item.marker = null
      return this.#emit(numbered(marker, builder).block({ kind: 'listItem' }), `${marker} `.length)
    }
    if (/^h[1-6]$/u.test(inner?.name ?? '')) return this.#emit(builder.block({ kind: 'heading', level: Number(inner!.name[1]) }))
    const kind = inner?.name === 'li' || inner?.name === 'dd' || inner?.name === 'dt' ? 'listItem' : inner?.name === 'blockquote' || this.#frames.some(frame => frame.name === 'blockquote') ? 'quotation' : 'paragraph'
    this.#emit(builder.block({ kind }))
  }

  #emit(block: Block, markerLength = 0): void {
    if (!isOfUse(block)) return
    const language = this.#frames.findLast(frame => frame.language !== null && frame.name !== 'html' && frame.name !== 'body')?.language ?? null
    const dropped = this.options.dropped ?? this.#frames.find(frame => frame.dropped !== null)?.dropped ?? null
    const titlePage = this.options.titlePage === true || this.#frames.some(frame => frame.titlePage)
    const matter = this.options.matter ?? this.#frames.findLast(frame => frame.matter !== null)?.matter ?? null
    this.#drafts.push({
      block: {
        ...block,
        ...(language === null ? {} : { language }),
        ...(dropped === null ? {} : { dropped }),
        ...(matter === null ? {} : { matter }),
        ...(titlePage ? { titlePage, ...(block.level === undefined ? {} : { level: 0 }) } : {}),
        ...(this.#after === undefined ? {} : { after: this.#after }),
        ...(this.#page === null ? {} : { page: this.#page }),
      },
      isNote: this.#frames.some(frame => frame.isNote),
      ids: [...this.#openIds.map(({ id }) => id), ...this.#ids],
      markerLength,
    })
    this.#ids = []
    this.#after = undefined
    this.#page = null
  }
}

const listStyles: Readonly<Record<string, NumberStyle>> = { 1: 'decimal', a: 'lowerLetter', A: 'upperLetter', i: 'lowerRoman', I: 'upperRoman' }
