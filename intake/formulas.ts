import { lowered, raised } from './raised'
import type { Point, TextBuilder } from './text-builder'

/** An element of MathML whose parts stand above, below or over one another. */
export interface Formula {
  readonly from: Point
  /** Where its second part begins. */
  second: Point | null
}

const formulas: ReadonlySet<string> = new Set(['mfrac', 'msup', 'msub', 'msqrt'])

export function isFormula(name: string): boolean {
  return formulas.has(name)
}

/** Whether a sign stands between two parts of a formula, as one that is said. */
export function isOperator(text: string): boolean {
  return /^\s*[+\-−=×·÷<>≤≥±≈≠→∈]\s*$/u.test(text)
}

/** Writes a formula that ends in one line: 1⁄2, (a+b)/c, x², x₁, √2. */
export function closeFormula(builder: TextBuilder, name: string, { from, second }: Formula): void {
  const whole = builder.since(from)
  if (name === 'msqrt') {
    builder.rewind(from)
    builder.add(`√${bracketed(whole)}`)
    return
  }
  if (second === null) return
  const lower = builder.since(second)
  builder.rewind(second)
  if (name === 'msup' || name === 'msub') {
    builder.add(name === 'msup' ? power(lower, builder.text) : lowered(lower))
    return
  }
  const upper = builder.since(from)
  builder.rewind(from)
  builder.add(fraction(upper, lower))
}

/** A power in Unicode's superscripts, else behind a caret. */
function power(text: string, before: string): string {
  const sign = raised(text, before)
  return sign === text ? `^${bracketed(text)}` : sign
}

/** A fraction in one line. */
export function fraction(upper: string, lower: string): string {
  return /^\d+$/u.test(upper) && /^\d+$/u.test(lower) ? `${upper}⁄${lower}` : `${bracketed(upper)}/${bracketed(lower)}`
}

function bracketed(text: string): string {
  return /^[\p{L}\p{N}.,]*$/u.test(text) ? text : `(${text})`
}
