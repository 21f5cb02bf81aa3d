import { defaultSplit, headingLevels } from './choices'
import type { Block, Manuscript } from './manuscript'
import { compilePattern, usualPatterns } from './pattern'

/** What a text can be divided by, and how often each occurs. */
export interface Divisible {
  readonly levels: readonly { readonly level: number, readonly count: number }[]
  readonly patterns: readonly { readonly name: string, readonly pattern: string, readonly count: number }[]
  /** Rules and page breaks. */
  readonly rules: number
  /** Places with two empty lines or more. */
  readonly gaps: number
}

export function divisibleBy(blocks: readonly Block[]): Divisible {
  const read = blocks.filter(block => block.dropped === undefined)
  return {
    levels: headingLevels(blocks),
    patterns: usualPatterns.flatMap(({ name, pattern }) => {
      const begins = compilePattern(pattern)
      const count = read.filter(block => block.kind !== 'tableRow' && begins(block.text)).length
      return count < 2 ? [] : [{ name, pattern, count }]
    }),
    rules: read.filter(block => block.after !== undefined).length,
    gaps: read.filter(block => (block.emptyLines ?? 0) > 1).length,
  }
}

/** Fewest places that make a division. */
const leastPlaces = 2

/** The other ways to divide a manuscript than the usual one, as the command line takes them, with how often each would begin a part. */
export function otherDivisions(manuscript: Manuscript): { readonly by: string, readonly places: number }[] {
  const { levels, patterns, rules, gaps } = divisibleBy(manuscript.blocks)
  const usual = defaultSplit(manuscript)
  let above = 0
  const headings = levels.map(({ level, count }) => ({ by: `heading:${level}`, level, places: above += count })).filter(({ level }) => level > 0 && !(usual.by === 'heading' && usual.level === level))
  const all = [
    ...headings.map(({ by, places }) => ({ by, places })),
    ...patterns.map(({ pattern, count }) => ({ by: `pattern:${pattern}`, places: count })),
    { by: 'rule', places: rules }, { by: 'blank:2', places: gaps },
  ]
  return all.filter(({ places }) => places >= leastPlaces)
}
