/** What a global pattern finds in a text, one after the other. Unlike `matchAll` it makes no copy of the pattern: of a long one that takes longer than the search in a short text. */
export function* matchesOf(pattern: RegExp, text: string): Generator<RegExpExecArray> {
  let at = 0
  for (;;) {
    pattern.lastIndex = at
    const match = pattern.exec(text)
    if (match === null) return
    at = match[0] === '' ? pattern.lastIndex + 1 : pattern.lastIndex
    yield match
  }
}
