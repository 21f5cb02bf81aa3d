import { listNumber, type NumberStyle } from '../list-number'
import { parseXml } from '../xml'
import { lookup } from '#core/lookup'
import { attribute } from './styles'

interface Level {
  start: number
  format: string
  /** `%1.%2` */
  text: string
}

/** Gives the number of the next item of a list at a level (0…8) as it is written; null for a bullet. */
export interface Numbering {
  next: (list: string, level: number) => string | null
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
    next: (id, depth) => {
      const list = lists.get(id)
      const levels = abstracts.get(list?.abstract ?? '')
      const level = levels?.get(depth)
      if (list === undefined || levels === undefined || level === undefined || !(level.format in styles)) return null
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
        return counter[at] === undefined ? '' : listNumber(counter[at], lookup(styles, levels.get(at)?.format ?? 'decimal') ?? 'decimal')
      }).trim() || null
    },
  }
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
        case 'lvl': if (levels !== null && list === null) levels.set(Number(attribute(tag, 'ilvl') ?? 0), level = { start: 1, format: 'decimal', text: '' }); break
        case 'start': if (level !== null) level.start = Number(value) || 0; break
        case 'numFmt': if (level !== null) level.format = value; break
        case 'lvlText': if (level !== null) level.text = value; break
      }
    },
    close: tag => {
      if (tag.local === 'num') list = null
      if (tag.local === 'lvl') level = null
    },
  })
}
