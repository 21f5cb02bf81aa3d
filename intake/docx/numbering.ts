import { listNumber, type NumberStyle } from '../list-number'
import { parseXml } from '../xml'
import { numberWords } from '#core/language/numbers'
import { lookup } from '#core/lookup'
import { attribute } from './styles'

interface Level {
  start: number
  format: string
  /** `%1.%2` */
  text: string
  /** The style whose paragraphs are on this level. */
  styleId: string | null
}

/** Gives the number of the next item of a list at a level (0…8), or at that of its style, as it is written; null for a bullet. */
export interface Numbering {
  next: (list: string, level: number, styleId: string | null) => string | null
}

const styles: Readonly<Record<string, NumberStyle>> = {
  decimal: 'decimal', decimalZero: 'decimal', lowerLetter: 'lowerLetter', upperLetter: 'upperLetter', lowerRoman: 'lowerRoman', upperRoman: 'upperRoman',
}

/** Reads `numbering.xml` (ECMA-376, part 1, 17.9). */
export function readNumbering(xml: string | null): Numbering {
  const abstracts = new Map<string, Map<number, Level>>()
  const lists = new Map<string, { abstract: string, starts: Map<number, number> }>()
  if (xml !== null) parse(xml, abstracts, lists)
  const counters = new Map<string, number[]>()
  return {
    next: (id, given, styleId) => {
      const list = lists.get(id)
      const levels = abstracts.get(list?.abstract ?? '')
      const depth = styleId === null ? given : [...levels ?? []].find(([, each]) => each.styleId === styleId)?.[0] ?? given
      const level = levels?.get(depth)
      if (list === undefined || levels === undefined || level === undefined || !isNumber(level.format)) return null
      const startOf = (at: number): number => list.starts.get(at) ?? levels.get(at)?.start ?? 1
      // Lists with starts of their own count by themselves; the others go on where one of the same kind stopped.
      const key = list.starts.size > 0 ? `list ${id}` : list.abstract
      const counter = counters.get(key) ?? []
      counters.set(key, counter)
      for (let at = 0; at < depth; at += 1) counter[at] ??= startOf(at)
      counter[depth] = (counter[depth] ?? startOf(depth) - 1) + 1
      counter.length = depth + 1
      return level.text.replace(/%([1-9])/gu, (_, number: string) => {
        const at = Number(number) - 1
        return counter[at] === undefined ? '' : written(counter[at], levels.get(at)?.format ?? 'decimal')
      }).trim() || null
    },
  }
}

/** Numbers in words, which are English here whatever the language of the text. */
const inWords: Readonly<Record<string, 'cardinal' | 'ordinal'>> = { cardinalText: 'cardinal', ordinalText: 'ordinal' }

function isNumber(format: string): boolean {
  return lookup(styles, format) !== undefined || lookup(inWords, format) !== undefined
}

function written(value: number, format: string): string {
  const words = lookup(inWords, format)
  if (words === undefined) return listNumber(value, lookup(styles, format) ?? 'decimal')
  const text = numberWords('en')![words](String(value))
  return text.charAt(0).toUpperCase() + text.slice(1)
}

function parse(xml: string, abstracts: Map<string, Map<number, Level>>, lists: Map<string, { abstract: string, starts: Map<number, number> }>): void {
  let levels: Map<number, Level> | null = null
  let level: Level | null = null
  let list: { abstract: string, starts: Map<number, number> } | null = null
  let override = -1
  parseXml(xml, 'numbering.xml', {
    open: tag => {
      const value = attribute(tag, 'val') ?? ''
      switch (tag.local) {
        case 'abstractNum': abstracts.set(attribute(tag, 'abstractNumId') ?? '', levels = new Map()); break
        case 'num': lists.set(attribute(tag, 'numId') ?? '', list = { abstract: '', starts: new Map() }); break
        case 'abstractNumId': if (list !== null) list.abstract = value; break
        case 'lvlOverride': override = Number(attribute(tag, 'ilvl') ?? -1); break
        case 'startOverride': list?.starts.set(override, Number(value)); break
        case 'lvl': if (levels !== null && list === null) levels.set(Number(attribute(tag, 'ilvl') ?? 0), level = { start: 1, format: 'decimal', text: '', styleId: null }); break
        case 'start': if (level !== null) level.start = Number(value) || 0; break
        case 'numFmt': if (level !== null) level.format = value; break
        case 'pStyle': if (level !== null) level.styleId = value; break
        case 'lvlText': if (level !== null) level.text = value; break
      }
    },
    close: tag => {
      if (tag.local === 'num') list = null
      if (tag.local === 'lvl') level = null
    },
  })
}
