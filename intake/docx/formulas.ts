import type { SaxesTagNS } from 'saxes'
import { closeFormula, type Formula } from '../formulas'
import type { TextBuilder } from '../text-builder'

/** Formulas (ECMA-376, part 1, 22.1) by the names that they have in MathML, and the elements that are their second parts. */
const names: ReadonlyMap<string, string> = new Map([['f', 'mfrac'], ['sSup', 'msup'], ['sSub', 'msub'], ['rad', 'msqrt']])
const secondParts: ReadonlySet<string> = new Set(['den', 'sup', 'sub'])

/** Whether an element is one of a formula. */
export function isMath({ uri }: SaxesTagNS): boolean {
  return uri.endsWith('/math')
}

/** The formulas that are open in a document, the innermost last. */
export class OfficeFormulas {
  readonly #open: Formula[] = []

  open({ local }: SaxesTagNS, builder: TextBuilder): void {
    const outer = this.#open.at(-1)
    if (names.has(local)) this.#open.push({ from: builder.point(), second: null })
    else if (outer !== undefined && secondParts.has(local)) outer.second = builder.point()
  }

  close({ local }: SaxesTagNS, builder: TextBuilder): void {
    const name = names.get(local)
    if (name !== undefined) closeFormula(builder, name, this.#open.pop()!)
  }
}
