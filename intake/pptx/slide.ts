import type { SaxesTagNS } from 'saxes'
import { isOfUse, type Block } from '#core/manuscript/manuscript'
import { count } from '#core/tally'
import { inCell, TableRows, TextBuilder } from '../text-builder'
import { parseXml } from '../xml'
import { lookup } from '#core/lookup'

export interface SlideContent {
  readonly blocks: readonly Block[]
  readonly title: string | null
  readonly hidden: boolean
  readonly languages: ReadonlyMap<string, number>
}

interface Shape {
  placeholder: string | null
  alternative: string
  readonly blocks: Block[]
}

/** Placeholders that repeat on every slide (ECMA-376, part 1, 19.7.10). */
const furniture: Readonly<Record<string, 'running-head' | 'page-number'>> = { dt: 'running-head', ftr: 'running-head', hdr: 'running-head', sldNum: 'page-number' }

/** The text of a slide in the order of its shapes, the title first. */
export function slideContent(xml: string, place: string): SlideContent {
  const reader = new SlideReader()
  parseXml(xml, place, reader)
  return reader.content(() => true)
}

/** The text of a notes slide: of its placeholder for notes, else of what is no placeholder at all. */
export function notesContent(xml: string, place: string): SlideContent {
  const reader = new SlideReader()
  parseXml(xml, place, reader)
  const notes = reader.content(({ placeholder }) => placeholder === 'body')
  return notes.blocks.length > 0 ? notes : reader.content(({ placeholder }) => placeholder === null)
}

class SlideReader {
  readonly #shapes: Shape[] = []
  readonly #open: Shape[] = []
  readonly #path: string[] = []
  readonly #languages = new Map<string, number>()
  #builder: TextBuilder | null = null
  #cells: TextBuilder[] | null = null
  #rows = new TableRows()
  #level = 0
  #numbered = false
  #field = false
  #emphasised = false
  #hidden = false
  /** A second form of the same drawing. */
  readonly skipped = new Set(['Fallback'])

  readonly open = (tag: SaxesTagNS): void => {
    this.#path.push(tag.local)
    const value = (name: string): string | undefined => tag.attributes[name]?.value
    switch (tag.local) {
      case 'sld': this.#hidden = value('show') === '0' || value('show') === 'false'; break
      case 'sp': case 'graphicFrame': case 'pic': case 'cxnSp': this.#open.push({ placeholder: null, alternative: '', blocks: [] }); break
      case 'ph': if (this.#open.length > 0) this.#open.at(-1)!.placeholder = value('type') ?? 'body'; break
      case 'cNvPr': if (this.#open.length > 0) this.#open.at(-1)!.alternative = value('descr') ?? ''; break
      case 'p': if (this.#path.includes('txBody')) this.#builder = new TextBuilder(); break
      case 'pPr': this.#level = Number(value('lvl') ?? 0); break
      case 'buAutoNum': this.#numbered = true; break
      case 'fld': this.#field = value('type')?.startsWith('slidenum') === true; break
      case 'rPr':
        this.#emphasised = value('i') === '1' || value('b') === '1'
        this.#baseline = Number.parseInt(value('baseline') ?? '0', 10) || 0
        this.#note(value('lang'))
        break
      case 'br': this.#builder?.space(); break
      case 'tbl': this.#rows = new TableRows(); break
      case 'tr': this.#cells = []; break
      case 'tc': this.#cells?.push(new TextBuilder()); break
    }
  }

  readonly text = (value: string): void => {
    if (this.#path.at(-1) !== 't' || this.#builder === null) return
    if (this.#field) return this.#builder.cut('page-number', value)
    if (this.#emphasised) this.#builder.openEmphasis()
    this.#builder.addAt(this.#baseline, value)
    if (this.#emphasised) this.#builder.closeEmphasis()
    if (this.#language !== null) count(this.#languages, this.#language, value.length)
  }

  #language: string | null = null
  /** By how much the text is set above the line, below 0 under it, in thousandths of a percent. */
  #baseline = 0

  readonly close = (tag: SaxesTagNS): void => {
    this.#path.pop()
    switch (tag.local) {
      case 'p': this.#finish(); break
      case 'r': case 'fld':
        this.#field = false
        this.#emphasised = false
        this.#language = null
        this.#baseline = 0
        break
      case 'tr': this.#closeRow(); break
      case 'sp': case 'graphicFrame': case 'pic': case 'cxnSp': this.#closeShape(); break
    }
  }

  content(isMeant: (shape: Shape) => boolean): SlideContent {
    const isTitle = ({ placeholder }: Shape): boolean => placeholder === 'title' || placeholder === 'ctrTitle'
    const shapes = this.#shapes.filter(isMeant)
    const titles = shapes.filter(isTitle)
    const title = titles.flatMap(({ blocks }) => blocks.map(({ text }) => text)).join(' ').trim()
    return {
      title: title === '' ? null : title, hidden: this.#hidden, languages: this.#languages,
      blocks: [...titles, ...shapes.filter(shape => !isTitle(shape))].flatMap(({ blocks }) => blocks),
    }
  }

  #note(language: string | undefined): void {
    this.#language = language ?? null
  }

  #finish(): void {
    const builder = this.#builder
    this.#builder = null
    const numbered = this.#numbered
    this.#numbered = false
    if (builder === null || builder.isEmpty) return
    const cell = this.#cells?.at(-1)
    const shape = this.#open.at(-1)
    if (cell !== undefined) cell.append(builder, inCell(cell))
    else shape?.blocks.push(builder.block({ kind: numbered || this.#level > 0 ? 'listItem' : 'paragraph' }))
    this.#level = 0
  }

  #closeRow(): void {
    const block = this.#rows.end(this.#cells ?? [], true, undefined)
    this.#cells = null
    if (block !== null) this.#open.at(-1)?.blocks.push(block)
  }

  #closeShape(): void {
    const shape = this.#open.pop()
    if (shape === undefined) return
    const { placeholder, alternative } = shape
    const kind = placeholder === null ? undefined : lookup(furniture, placeholder)
    const isTitle = placeholder === 'title' || placeholder === 'ctrTitle'
    const blocks = shape.blocks.filter(isOfUse).map((block): Block => ({
      ...block,
      ...(kind === undefined ? {} : { dropped: kind }),
      ...(isTitle ? { kind: 'heading', level: 1 } : {}),
    }))
    if (blocks.length === 0 && alternative.trim() !== '') blocks.push({ kind: 'paragraph', text: alternative.replace(/\s+/gu, ' ').trim(), dropped: 'image' })
    this.#shapes.push({ placeholder, alternative, blocks })
  }
}
