const pattern = /^(?=[IVXLCDM])M{0,3}(?:CM|CD|D?C{0,3})(?:XC|XL|L?X{0,3})(?:IX|IV|V?I{0,3})$/u
const worth: Readonly<Record<string, number>> = { I: 1, V: 5, X: 10, L: 50, C: 100, D: 500, M: 1000 }

/** Words and abbreviations that are written like Roman numerals. */
const words = new Set(['I', 'CD', 'MD', 'DC', 'MC', 'DM', 'MM', 'CM', 'CV', 'MIX', 'DIM', 'LCD', 'MILD', 'CIVIL', 'VIM', 'LIVID', 'VIVID'])

/** Its value, 1…3999; null for a text that is no Roman numeral in capitals. */
export function romanValue(text: string): number | null {
  if (!pattern.test(text)) return null
  const values = [...text].map(figure => worth[figure]!)
  return values.reduce((sum, value, index) => sum + (value < (values[index + 1] ?? 0) ? -value : value), 0)
}

/** Whether a Roman numeral could as well be a word: `I`, `CD`, `MIX`. */
export function isAlsoWord(text: string): boolean {
  return words.has(text)
}
