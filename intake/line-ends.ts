/** Puts two lines together: a hyphen at the end of the first is kept or goes. */
export type Joiner = (before: string, after: string) => string

/** Share of lines that end in a hyphen in a text whose words a program divided. */
const dividedShare = 0.02
/** As much of a line's end as is looked at. */
const longestWord = 80
/** Words that are written with a hyphen before others in English (*common practice*). */
const firstHalf = /^(?:self|well|ill|half|quarter|ex|non|semi|all|cross|mid|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety|vice|mother|father|sister|brother|man|long|short|high|low|old|new|good|hand|home|all|one|two|three|four|five|six|seven|eight|nine|ten)$/u
const hyphenated = /[\p{L}\p{M}]+(?:[-‐][\p{L}\p{M}]+)*/gu

/** All words of a text in small letters, those with hyphens whole. */
export function wordsOf(lines: readonly string[]): ReadonlySet<string> {
  const words = new Set<string>()
  for (const line of lines) for (const [word] of line.toLowerCase().matchAll(hyphenated)) words.add(word)
  return words
}

/**
 * A hyphen between two lines goes before a small letter, unless the text has the word with it elsewhere. In a text that was not divided by a
 * program, where few lines end in one, it also stays between two words of the text and behind words that often have one.
 */
export function joinerOf(lines: readonly string[], words: ReadonlySet<string>): Joiner {
  const isDivided = lines.filter(line => /\p{L}[-‐]$/u.test(line)).length > lines.length * dividedShare
  const isCompound = (head: string, tail: string): boolean => firstHalf.test(head) || !isDivided && words.has(head) && words.has(tail)
  return (before, after) => {
    if (before.endsWith('\u00ad')) return before.slice(0, -1) + after
    const head = /[\p{L}\p{M}][-‐]$/u.test(before) ? before.slice(-longestWord, -1).match(hyphenated)?.at(-1)?.toLowerCase() : undefined
    const tail = /^[\p{L}\p{M}]+/u.exec(after)?.[0].toLowerCase()
    if (head === undefined || tail === undefined) return /[-‐—–]$/u.test(before) && !/\s[-–—]$/u.test(before) ? before + after : `${before} ${after}`
    const goes = /^\p{Ll}/u.test(after) && !words.has(`${head}-${tail}`) && (words.has(head + tail) || !isCompound(head, tail))
    return (goes ? before.slice(0, -1) : before) + after
  }
}
