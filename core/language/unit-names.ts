import { lookup } from '../lookup'
import { unitNamesOf, units as formatterUnits } from './formatter-names'
import type { Names, RuleWords } from './words'

/** What a sign of a unit is called, by the language's own words or by its formatter; null for one that is not known. Both signs for micro are one (SI Brochure, table 7). */
export function unitNames(sign: string, { language, words }: { readonly language: string, readonly words: RuleWords | null }): Names | null {
  const own = sign.replace(/^μ/u, 'µ').replace(/\.$/u, '').replace(/(?<=^[kcm]?m)[23]$/u, figure => figure === '2' ? '²' : '³')
  return (words === null ? undefined : lookup(words.units, own) ?? lookup(words.units, sign)) ?? unitNamesOf(own, language)
}

/** Signs that are words as well, or stand for something else more often. */
const ambiguous = new Set(['in', 'd', 'ac', '%', '°', '°c', '°f', '°C', '°F'])

/** Signs of units that can stand behind a number, with both signs for micro, and with plain figures for squares and cubes. */
export function unitSigns({ units }: RuleWords): string[] {
  const signs = [...new Set([...Object.keys(units), ...Object.keys(formatterUnits), 'KB', 'MB', 'GB', 'L', 'm2', 'm3', 'km2', 'cm2', 'cm3', 'mm2', 'mm3'])].filter(sign => !ambiguous.has(sign))
  return [...signs, ...signs.filter(sign => sign.startsWith('µ')).map(sign => sign.replace('µ', 'μ'))]
}
