import type { SaxesTagNS } from 'saxes'
import { parseXml } from '../xml'

/** Above the line, below it, or on it. */
export type Height = -1 | 0 | 1

/** What a paragraph or character style says about reading, after inheritance through `basedOn`. */
export interface Style {
  /** 0 for the document's title, 1…9 for headings; null for body text. */
  readonly level: number | null
  readonly numbered: boolean
  readonly quotation: boolean
  readonly contents: boolean
  readonly hidden: boolean
  readonly code: boolean
  /** Subtitle, author, date of the document. */
  readonly titlePage: boolean
  /** Set in italics or bold; only of character styles. */
  readonly emphasis: boolean
  /** Of a character style: set above or below the line. */
  readonly height: Height | null
  /** The list that paragraphs of this style belong to. */
  readonly list: { readonly id: string, readonly level: number } | null
}

export interface Styles {
  readonly of: (id: string | null) => Style
  /** BCP 47, of text that says nothing else; programs often leave it at their own. */
  readonly language: string | null
}

const plain: Style = {
  level: null, numbered: false, quotation: false, contents: false, hidden: false, code: false, titlePage: false, emphasis: false, height: null, list: null,
}

interface RawStyle {
  name: string
  basedOn: string | null
  outline: number | null
  numbered: boolean | null
  hidden: boolean | null
  emphasis: boolean | null
  height: Height | null
  character: boolean
  list: string | null
  listLevel: number
}

const rawStyle = (name: string, character = false): RawStyle =>
  ({ name, basedOn: null, outline: null, numbered: null, hidden: null, emphasis: null, height: null, character, list: null, listLevel: 0 })

/** Value of a WordprocessingML attribute, whatever prefix the namespace has. */
export function attribute(tag: SaxesTagNS, local: string): string | null {
  for (const value of Object.values(tag.attributes)) if (value.local === local) return value.value
  return null
}

/** Where `vertAlign` sets a text. */
export function heightOf(tag: SaxesTagNS): Height {
  const value = attribute(tag, 'val')
  return value === 'superscript' ? 1 : value === 'subscript' ? -1 : 0
}

/** Whether an on/off property is on: present without a value, or with one that is not false. */
export function isOn(tag: SaxesTagNS): boolean {
  return !['0', 'false', 'off'].includes(attribute(tag, 'val') ?? 'true')
}

/** Outline level 0…8 of a paragraph as heading level 1…9; level 9 is body text. */
export function headingLevel(tag: SaxesTagNS): number | null {
  const level = Number(attribute(tag, 'val') ?? Number.NaN)
  return Number.isInteger(level) && level >= 0 && level <= 8 ? level + 1 : null
}

export function readStyles(xml: string | null): Styles {
  const raw = new Map<string, RawStyle>()
  let defaultParagraph: string | null = null
  let current: RawStyle | null = null
  let language: string | null = null
  if (xml !== null) {
    parseXml(xml, 'styles.xml', {
      open: tag => {
        const value = attribute(tag, 'val')
        if (tag.local === 'style') {
          const id = attribute(tag, 'styleId') ?? ''
          current = rawStyle(id, attribute(tag, 'type') === 'character')
          raw.set(id, current)
          if (attribute(tag, 'type') === 'paragraph' && attribute(tag, 'default') !== null) defaultParagraph = id
        } else if (current === null) {
          if (tag.local === 'lang') language ??= value
        } else if (tag.local === 'name') {
          current.name = value ?? current.name
        } else if (tag.local === 'basedOn') {
          current.basedOn = value
        } else if (tag.local === 'outlineLvl') {
          current.outline = headingLevel(tag)
        } else if (tag.local === 'numId') {
          current.numbered = value !== '0'
          current.list = value
        } else if (tag.local === 'ilvl') {
          current.listLevel = Number(value ?? 0)
        } else if (tag.local === 'i' || tag.local === 'b') {
          current.emphasis = current.emphasis === true || isOn(tag)
        } else if (tag.local === 'vertAlign') {
          current.height = heightOf(tag)
        } else if (tag.local === 'vanish') {
          current.hidden = isOn(tag)
        }
      },
      close: tag => { if (tag.local === 'style') current = null },
    })
  }
  const resolved = new Map<string, Style>()
  return {
    language,
    of: id => {
      const key = id ?? defaultParagraph
      if (key === null) return plain
      let style = resolved.get(key)
      if (style === undefined) {
        style = resolve(raw, key)
        resolved.set(key, style)
      }
      return style
    },
  }
}

function resolve(raw: ReadonlyMap<string, RawStyle>, id: string): Style {
  const chain: RawStyle[] = []
  const seen = new Set<string>()
  for (let at: string | null = id; at !== null && !seen.has(at);) {
    seen.add(at)
    // A document may use a built-in style without defining it: its id is then its name.
    const style: RawStyle = raw.get(at) ?? rawStyle(at)
    chain.push(style)
    at = style.basedOn
  }
  const nearest = <T>(pick: (style: RawStyle) => T | null): T | null => chain.map(pick).find(value => value !== null) ?? null
  return {
    level: nearest(style => levelByName(style.name)) ?? nearest(style => style.outline),
    numbered: nearest(style => style.numbered) ?? false,
    quotation: chain.some(style => /\b(?:quote|quotations?|block ?text|blocktext)\b/iu.test(style.name)),
    contents: chain.some(style => /^toc(?: ?\d| heading)/iu.test(style.name)),
    hidden: nearest(style => style.hidden) ?? false,
    code: chain.some(style => !style.character && /^(?:source ?code|code|code ?block|html ?preformatted|preformatted ?text|macro(?: ?text)?)$/iu.test(style.name)),
    titlePage: /^(?:title|subtitle|author|date)$/iu.test(chain[0]?.name ?? ''),
    emphasis: (chain[0]?.character ?? false) && (nearest(style => style.emphasis) ?? false),
    height: (chain[0]?.character ?? false) ? nearest(style => style.height) : null,
    list: nearest(style => style.list === null ? null : { id: style.list, level: style.listLevel }),
  }
}

function levelByName(name: string): number | null {
  if (/^title$/iu.test(name)) return 0
  const match = /^heading ?([1-9])$/iu.exec(name)
  return match === null ? null : Number(match[1])
}
