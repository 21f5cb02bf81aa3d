import { speakingMs } from '../estimate/speaking-time'
import type { Split } from './choices'
import type { Block } from './manuscript'
import { compilePattern } from './pattern'

/** A block as it is read, or a passage with what is known of the block that it came from. */
export interface Candidate {
  readonly text: string
  readonly source: Pick<Block, 'kind' | 'level' | 'entry' | 'after' | 'emptyLines'>
}

/** Pace for dividing evenly, in words a minute; only the proportions matter. */
const evenPace = 150

/** Whether a part begins at a block: with it as its title, or perhaps with it as its title. */
export type Beginner = (block: Candidate, index: number) => 'titled' | 'perhaps' | null

/** Where parts begin by a rule. Throws a problem for a pattern that is none. */
export function beginner(blocks: readonly Candidate[], split: Split): Beginner {
  switch (split.by) {
    case 'heading': return ({ source }) => source.level !== undefined && source.level <= split.level ? 'titled'
      : source.entry !== undefined && source.entry.level <= split.level ? 'perhaps' : null
    case 'pattern': {
      const matches = compilePattern(split.pattern)
      return ({ text }) => matches(text) ? 'titled' : null
    }
    case 'blank': return ({ source }) => (source.emptyLines ?? 0) >= split.lines ? 'perhaps' : null
    case 'rule': return ({ source }) => source.after === undefined ? null : 'perhaps'
    case 'unit': return () => null
    case 'even': {
      const starts = evenStarts(blocks, split.minutes)
      return ({ source }, index) => !starts.has(index) ? null : source.level === undefined ? 'perhaps' : 'titled'
    }
  }
}

/** A short line without an end, with text after it, is a title even where nothing says so. */
export function looksLikeTitle({ source, text }: Candidate, next: Candidate | undefined): boolean {
  if (source.level !== undefined) return true
  return source.kind === 'paragraph' && next !== undefined && text.split(/\s+/u).length <= 10 && !/[.,;:!?…]["”’»)]?$/u.test(text)
}

/** Indexes of the blocks at which parts of about equal length begin: near the even places, at the best boundary there. */
function evenStarts(blocks: readonly Candidate[], minutes: number): ReadonlySet<number> {
  const ends: number[] = []
  let total = 0
  for (const { text } of blocks) ends.push(total += speakingMs(text, evenPace))
  const count = Math.max(1, Math.round(total / (minutes * 60_000)))
  const length = total / count
  const starts = new Set<number>()
  let nearest = 1
  for (let part = 1; part < count; part += 1) {
    let best: { index: number, cost: number } | null = null
    while (nearest < blocks.length && ends[nearest - 1]! < (part - 0.5) * length) nearest += 1
    for (let index = nearest; index < blocks.length; index += 1) {
      const away = Math.abs(ends[index - 1]! - part * length) / length
      if (away > 0.5) break
      if (starts.has(index)) continue
      const cost = away + boundaryCost(blocks[index]!, blocks[index - 1]!)
      if (best === null || cost < best.cost) best = { index, cost }
    }
    if (best !== null) starts.add(best.index)
  }
  return starts
}

/** What a boundary before a block costs, in shares of a part's length. */
function boundaryCost({ source }: Candidate, { source: before }: Candidate): number {
  if (before.level !== undefined) return 1
  if (source.level !== undefined) return 0
  if (source.after !== undefined || source.emptyLines !== undefined) return 0.03
  return source.kind === 'paragraph' && before.kind === 'paragraph' ? 0.1 : 0.3
}
