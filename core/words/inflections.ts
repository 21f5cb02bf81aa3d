// English words with their endings: which are known by the word that they are made of, and which are listed together.

/** Endings that make no other word of a word that is known: English inflections and common derivations. */
const endings: readonly (readonly [ending: RegExp, instead: readonly string[]])[] = [
  [/ies$/u, ['y', 'ie']], [/ied$/u, ['y']], [/ier$/u, ['y']], [/iest$/u, ['y']], [/ily$/u, ['y']], [/iness$/u, ['y']], [/es$/u, ['', 'e']], [/s$/u, ['']], [/ed$/u, ['', 'e']], [/ing$/u, ['', 'e']], [/ings$/u, ['', 'e']],
  [/er$/u, ['', 'e']], [/ers$/u, ['', 'e']], [/est$/u, ['', 'e']], [/ly$/u, ['', 'le']], [/ness$/u, ['']], [/less$/u, ['']], [/ful$/u, ['']], [/like$/u, ['']], [/ish$/u, ['', 'e']], [/ward$/u, ['']], [/wards$/u, ['']],
]
const beginnings = ['un', 're', 'out', 'over', 'under', 'fore', 'non', 'mis', 'up', 'in', 'self', 'half']

/** Whether a dictionary (`has`: of a word in lower case) has an English word, or one that it is made of. */
export function isKnown(word: string, has: (word: string) => boolean, depth = 0): boolean {
  if (has(word) || has(word.replace(/’/gu, '\''))) return true
  const bare = word.replace(/[’'](?:s|d|ll|re|ve|m|t)?$/u, '')
  if (bare !== word) return isKnown(bare, has, depth)
  if (depth > 1) return false
  const again = (candidate: string): boolean => candidate.length > 2 && isKnown(candidate, has, depth + 1)
  return endings.some(([ending, instead]) => ending.test(word) && instead.some(each => {
    const cut = word.replace(ending, each)
    // A doubled consonant before the ending: running.
    return again(cut) || each === '' && /([bdfglmnprt])\1$/u.test(cut) && again(cut.slice(0, -1))
  })) || beginnings.some(each => word.startsWith(each) && word.length > each.length + 3 && again(word.slice(each.length)))
}

/** What inflections of one word have in common: they are listed together. */
export function stem(word: string): string {
  return word.replace(/[’']s?$/u, '').replace(/(?<=.{3})(?:es|s)$/u, '')
}
