/** A text cut into what it shares with another at its begin and end, and what lies between. */
export interface Compared {
  readonly before: string
  readonly own: string
  readonly after: string
}

/** Characters of what is shared that are shown on either side. */
const shown = 60

/** Compares a text with another. What both share is shortened, with an ellipsis, to the 60 characters next to the difference. */
export function compare(text: string, other: string): Compared {
  const [mine, theirs] = [[...text], [...other]]
  const most = Math.min(mine.length, theirs.length)
  let start = 0
  while (start < most && mine[start] === theirs[start]) start += 1
  let end = 0
  while (end < most - start && mine[mine.length - 1 - end] === theirs[theirs.length - 1 - end]) end += 1
  const before = mine.slice(0, start)
  const after = mine.slice(mine.length - end)
  return {
    before: before.length > shown ? `…${before.slice(-shown).join('')}` : before.join(''),
    own: mine.slice(start, mine.length - end).join(''),
    after: after.length > shown ? `${after.slice(0, shown).join('')}…` : after.join(''),
  }
}
