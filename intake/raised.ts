const raisedSigns: Readonly<Record<string, string>> = {
  0: '⁰', 1: '¹', 2: '²', 3: '³', 4: '⁴', 5: '⁵', 6: '⁶', 7: '⁷', 8: '⁸', 9: '⁹', '+': '⁺', '-': '⁻', '−': '⁻', '–': '⁻', '(': '⁽', ')': '⁾', 'n': 'ⁿ',
}
const loweredSigns: Readonly<Record<string, string>> = { 0: '₀', 1: '₁', 2: '₂', 3: '₃', 4: '₄', 5: '₅', 6: '₆', 7: '₇', 8: '₈', 9: '₉', '+': '₊', '-': '₋', '−': '₋', '–': '₋' }
const plainSigns: Readonly<Record<string, string>> = Object.fromEntries(Object.entries(raisedSigns).map(([plain, raised]) => [raised, plain]))
/** Raised letters of ordinals in Romance languages: 1º, 3ª. */
const ordinalSigns: Readonly<Record<string, string>> = { o: 'º', a: 'ª' }

/** A text that is set above the line, in Unicode's superscripts where it has them all. Letters such as those of 1st stay as they are. `before`: what it is set behind. */
export function raised(text: string, before: string): string {
  const ordinal = /\d\.?$/u.test(before) ? ordinalSigns[text.trim()] : undefined
  return ordinal ?? inSigns(text, raisedSigns)
}

/** A text that is set below the line, in Unicode's subscripts where it has them all. */
export function lowered(text: string): string {
  return inSigns(text, loweredSigns)
}

function inSigns(text: string, signs: Readonly<Record<string, string>>): string {
  const all = [...text.trim()].map(sign => signs[sign])
  return all.every(sign => sign !== undefined) ? all.join('') : text
}

/** The raised figures and the stroke that a text ends with: the upper half of a fraction. */
const upperHalf = /(?:^|[^⁰¹²³⁴-⁹])([⁰¹²³⁴-⁹]{1,4})\s?[/⁄]$/u

/** A text that ends with the upper half of a fraction, with the lower half behind it: 3¹⁄ and 2 are 3 1⁄2. Null where it ends otherwise. */
export function withFraction(before: string, lower: string): string | null {
  const [, figures] = upperHalf.exec(before) ?? []
  if (figures === undefined || !/^\d{1,4}$/u.test(lower.trim())) return null
  const head = before.slice(0, before.lastIndexOf(figures))
  return `${head}${/\d$/u.test(head) ? ' ' : ''}${[...figures].map(sign => plainSigns[sign]).join('')}⁄${lower.trim()}`
}

/** Whether a raised number behind a text is rather a power of it than the mark of a note: behind a figure, a bracket, or a sign or unit of one or two letters. */
export function looksLikePower(before: string): boolean {
  return /\d$|\)$|(?<![\p{L}\p{M}])\p{L}{1,2}$/u.test(before)
}
