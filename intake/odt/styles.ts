import type { SaxesTagNS } from 'saxes'
import type { NumberStyle } from '../list-number'
import { parseXml } from '../xml'
import { lookup } from '#core/lookup'

/** What a style says about reading, after inheritance. */
export interface OdfStyle {
  /** Display names of the style and those it is based on. */
  readonly names: readonly string[]
  readonly hidden: boolean
  readonly emphasis: boolean
  /** Set above the line, or below it; 0 on it. */
  readonly height: -1 | 0 | 1
  readonly breakBefore: boolean
  readonly breakAfter: boolean
  /** BCP 47 */
  readonly language: string | null
}

export interface ListLevel {
  readonly style: NumberStyle
  readonly prefix: string
  readonly suffix: string
  readonly start: number
  /** How many levels above it show their numbers too. */
  readonly shown: number
}

export interface OdfStyles {
  readonly of: (family: string, name: string | null) => OdfStyle
  /** Level 1…10 of a list; null for a bullet. */
  readonly listLevel: (list: string, level: number) => ListLevel | null
  /** Level 1…10 of numbered headings; null for one without a number. */
  readonly outlineLevel: (level: number) => ListLevel | null
  /** Language of text that says nothing else. */
  readonly language: string | null
}

interface RawStyle {
  readonly name: string
  readonly parent: string | null
  hidden: boolean | null
  italic: boolean | null
  height: -1 | 0 | 1 | null
  bold: boolean | null
  before: boolean | null
  after: boolean | null
  language: string | null
}

const formats: Readonly<Record<string, NumberStyle>> = { 1: 'decimal', a: 'lowerLetter', A: 'upperLetter', i: 'lowerRoman', I: 'upperRoman' }

/** The value of an attribute by its local name (OpenDocument 1.3). */
export function valueOf(tag: SaxesTagNS, local: string): string | null {
  for (const attribute of Object.values(tag.attributes)) if (attribute.local === local) return attribute.value
  return null
}

/** Styles of `styles.xml` and the automatic ones of `content.xml`. */
export function readStyles(...files: readonly (string | null)[]): OdfStyles {
  const raw = new Map<string, RawStyle>()
  const lists = new Map<string, Map<number, ListLevel>>()
  const outline = new Map<number, ListLevel>()
  let standard: string | null = null
  for (const xml of files) {
    if (xml === null) continue
    let current: RawStyle | null = null
    let isDefault = false
    let list: Map<number, ListLevel> | null = null
    parseXml(xml, 'styles.xml', {
      open: tag => {
        if (tag.local === 'style') {
          const name = valueOf(tag, 'name') ?? ''
          current = { name: valueOf(tag, 'display-name') ?? name.replace(/_20_/gu, ' '), parent: valueOf(tag, 'parent-style-name'), hidden: null, height: null, italic: null, bold: null, before: null, after: null, language: null }
          raw.set(`${valueOf(tag, 'family') ?? ''} ${name}`, current)
        } else if (tag.local === 'default-style') {
          isDefault = valueOf(tag, 'family') === 'paragraph'
        } else if (tag.local === 'list-style') {
          list = new Map()
          lists.set(valueOf(tag, 'name') ?? '', list)
        } else if (tag.local === 'outline-style') {
          list = outline
        } else if ((tag.local === 'list-level-style-number' || tag.local === 'outline-level-style') && list !== null) {
          const style = lookup(formats, valueOf(tag, 'num-format') ?? '')
          if (style !== undefined) {
            list.set(Number(valueOf(tag, 'level') ?? 1), {
              style, prefix: valueOf(tag, 'num-prefix') ?? '', suffix: valueOf(tag, 'num-suffix') ?? (list === outline ? '' : '.'),
              start: Number(valueOf(tag, 'start-value') ?? 1), shown: Number(valueOf(tag, 'display-levels') ?? 1),
            })
          }
        } else if (tag.local === 'text-properties') {
          const language = valueOf(tag, 'language')
          const country = valueOf(tag, 'country')
          const full = language === null || /^(?:none|zxx)$/u.test(language) ? null : country === null || country === 'none' ? language : `${language}-${country}`
          if (isDefault) standard ??= full
          if (current === null) return
          current.language = full
          current.hidden = valueOf(tag, 'display') === 'none' ? true : current.hidden
          const position = /^(super|sub|-?\d+)/u.exec(valueOf(tag, 'text-position') ?? '')?.[1]
          if (position !== undefined) current.height = position === 'super' || Number(position) > 0 ? 1 : position === 'sub' || Number(position) < 0 ? -1 : 0
          const [slant, weight] = [valueOf(tag, 'font-style'), valueOf(tag, 'font-weight')]
          if (slant !== null) current.italic = slant !== 'normal'
          if (weight !== null) current.bold = weight !== 'normal' && weight !== '400'
        } else if (tag.local === 'paragraph-properties' && current !== null) {
          const [before, after] = [valueOf(tag, 'break-before'), valueOf(tag, 'break-after')]
          if (before !== null) current.before = before === 'page'
          if (after !== null) current.after = after === 'page'
        }
      },
      close: tag => {
        if (tag.local === 'style') current = null
        if (tag.local === 'default-style') isDefault = false
        if (tag.local === 'list-style' || tag.local === 'outline-style') list = null
      },
    })
  }
  const resolved = new Map<string, OdfStyle>()
  return {
    language: standard,
    outlineLevel: level => outline.get(level) ?? null,
    listLevel: (list, level) => lists.get(list)?.get(level) ?? null,
    of: (family, name) => {
      const key = `${family} ${name ?? ''}`
      let style = resolved.get(key)
      if (style === undefined) {
        style = resolve(raw, family, name)
        resolved.set(key, style)
      }
      return style
    },
  }
}

function resolve(raw: ReadonlyMap<string, RawStyle>, family: string, name: string | null): OdfStyle {
  const chain: RawStyle[] = []
  const seen = new Set<string>()
  for (let at = name; at !== null && !seen.has(at);) {
    seen.add(at)
    const style: RawStyle | undefined = raw.get(`${family} ${at}`)
    if (style === undefined) {
      chain.push({ name: at.replace(/_20_/gu, ' '), parent: null, hidden: null, height: null, italic: null, bold: null, before: null, after: null, language: null })
      break
    }
    chain.push(style)
    at = style.parent
  }
  const nearest = <T>(pick: (style: RawStyle) => T | null): T | null => chain.map(pick).find(value => value !== null) ?? null
  return {
    names: chain.map(style => style.name),
    hidden: nearest(style => style.hidden) ?? false,
    emphasis: family === 'text' && ((nearest(style => style.italic) ?? false) || (nearest(style => style.bold) ?? false) || chain.some(style => /^(?:strong )?emphasis$/iu.test(style.name))),
    height: family === 'text' ? nearest(style => style.height) ?? 0 : 0,
    breakBefore: nearest(style => style.before) ?? false,
    breakAfter: nearest(style => style.after) ?? false,
    language: nearest(style => style.language),
  }
}
