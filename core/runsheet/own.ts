import type { NameRules } from '../delivery/naming'
import { count } from '../tally'
import type { DividedPart, SplitFile } from './split'

/** What a file says of itself instead of what the production says: an article's own author and date (YYYY-MM-DD). */
export interface OwnTags {
  readonly author?: string
  readonly date?: string
}

const isoDate = /^\d{4}-\d{2}-\d{2}/u

/** What all parts of a file have in common. */
export function ownOf(parts: readonly DividedPart[]): OwnTags {
  const common = (of: (part: DividedPart) => string | undefined): string | undefined => {
    const values = new Set(parts.map(of))
    return values.size === 1 ? [...values][0] : undefined
  }
  const author = common(({ about }) => about?.author)
  const date = common(({ about }) => isoDate.exec(about?.date ?? '')?.[0])
  return { ...(author === undefined ? {} : { author }), ...(date === undefined ? {} : { date }) }
}

/** The number of a file in its name, and its place among those that share it, from 1; null where no other does. */
interface FileNumber {
  readonly number: number
  readonly piece: number | null
}

/** The numbers of files, which never go down, so that names sort in playing order. */
export function fileNumbers(files: readonly SplitFile[], { firstNumber, counts }: NameRules): FileNumber[] {
  if (counts !== 'parts') return files.map(({ group, piece }) => ({ number: group + firstNumber - 1, piece }))
  const numbers = numbersOfParts(files)
  const [sharing, seen] = [new Map<number, number>(), new Map<number, number>()]
  for (const number of numbers) count(sharing, number)
  return numbers.map(number => {
    count(seen, number)
    return { number: number + firstNumber - 1, piece: sharing.get(number) === 1 ? null : seen.get(number)! }
  })
}

/** By the part that each file begins in: that of its slide, or of the slide before it, where slides are in the order of their deck; else its place in the script. */
function numbersOfParts(files: readonly SplitFile[]): number[] {
  const slides: number[] = []
  for (const { spans } of files) slides.push(spans[0]!.part.about?.slide ?? slides.at(-1) ?? 0)
  const areInOrder = slides[0] !== 0 && slides.every((slide, index) => index === 0 || slide >= slides[index - 1]!)
  return areInOrder ? slides : files.map(({ spans }) => spans[0]!.part.number)
}
