import { sentenceSpans } from '../language/sentences'
import type { Excerpt } from './choices'
import type { Block } from './manuscript'
import type { ProposedPart, ProposedPassage } from './structure'

/** The parts that are taken, cut to the sentences and words that are taken. Parts that are left out do not count. */
export function takeExcerpt(parts: readonly ProposedPart[], excerpt: Excerpt, language: string): readonly ProposedPart[] {
  let taken = parts
  if (excerpt.parts !== undefined) {
    let left = excerpt.parts
    taken = taken.filter(part => !part.included ? left > 0 : (left -= 1) >= 0)
  }
  if (excerpt.each !== undefined) {
    const { each } = excerpt
    taken = taken.map(part => ({ ...part, passages: 'words' in each ? firstWords(part.passages, each.words) : firstSentences(part.passages, each.sentences, language).passages }))
  }
  if (excerpt.sentences !== undefined) {
    let left = excerpt.sentences
    taken = taken.flatMap(part => {
      if (!part.included) return left > 0 ? [part] : []
      const { passages, used } = firstSentences(part.passages, left, language)
      left -= used
      return passages.length > 0 ? [{ ...part, passages }] : []
    })
  }
  return taken
}

function firstSentences(passages: readonly ProposedPassage[], most: number, language: string): { passages: ProposedPassage[], used: number } {
  const taken: ProposedPassage[] = []
  let used = 0
  for (const passage of passages) {
    if (used >= most) break
    const spans = sentenceSpans(passage.text, passage.language ?? language)
    const last = spans[most - used - 1]
    used += Math.min(spans.length, most - used)
    taken.push(last === undefined ? passage : cutAt(passage, last.end))
  }
  return { passages: taken, used }
}

function firstWords(passages: readonly ProposedPassage[], most: number): ProposedPassage[] {
  const taken: ProposedPassage[] = []
  let left = most
  for (const passage of passages) {
    if (left <= 0) break
    const ends = [...passage.text.matchAll(/\S+/gu)].filter(([word]) => /[\p{L}\p{N}]/u.test(word)).map(match => match.index + match[0].length)
    const end = ends[left - 1]
    left -= ends.length
    taken.push(end === undefined ? passage : cutAt(passage, end))
  }
  return taken
}

function cutAt(passage: ProposedPassage, end: number): ProposedPassage {
  const emphasis = (passage.emphasis ?? []).filter(([start]) => start < end).map(([start, until]) => [start, Math.min(until, end)] as const)
  const { emphasis: _, ...rest } = passage
  return { ...rest, text: passage.text.slice(0, end), ...(emphasis.length === 0 ? {} : { emphasis }) }
}

/** The page numbers of a manuscript in their order. */
export function pagesOf(blocks: readonly Block[]): string[] {
  return [...new Set(blocks.flatMap(block => block.page === undefined ? [] : [block.page]))]
}

/** The blocks of a range of pages, first and last included; null when one of them is no page of it. */
export function blocksOfPages(blocks: readonly Block[], [from, to]: readonly [string, string]): ReadonlySet<number> | null {
  const pages = pagesOf(blocks)
  const [first, last] = [pages.indexOf(from), pages.indexOf(to)]
  if (first < 0 || last < 0) return null
  const taken = new Set<number>()
  let page = -1
  blocks.forEach((block, index) => {
    if (block.page !== undefined) page = pages.indexOf(block.page)
    if (page >= first && page <= last) taken.add(index)
  })
  return taken
}
