/** How the items of an ordered list are numbered. */
export type NumberStyle = 'decimal' | 'lowerLetter' | 'upperLetter' | 'lowerRoman' | 'upperRoman'

const romans: readonly (readonly [number, string])[] = [
  [1000, 'm'], [900, 'cm'], [500, 'd'], [400, 'cd'], [100, 'c'], [90, 'xc'], [50, 'l'], [40, 'xl'], [10, 'x'], [9, 'ix'], [5, 'v'], [4, 'iv'], [1, 'i'],
]

/** A list number as it is written: `3`, `c`, `iii`. */
export function listNumber(value: number, style: NumberStyle): string {
  if (value < 1 || value > 3999) return String(value)
  switch (style) {
    case 'decimal': return String(value)
    case 'lowerLetter': return letter(value)
    case 'upperLetter': return letter(value).toUpperCase()
    case 'lowerRoman': return roman(value)
    case 'upperRoman': return roman(value).toUpperCase()
  }
}

function letter(value: number): string {
  return String.fromCharCode(97 + (value - 1) % 26).repeat(Math.ceil(value / 26))
}

function roman(value: number): string {
  let left = value
  let text = ''
  for (const [worth, sign] of romans) {
    while (left >= worth) {
      text += sign
      left -= worth
    }
  }
  return text
}
