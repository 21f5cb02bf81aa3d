/** A text without the signs at its end that match a pattern of one sign. */
export function withoutTail(text: string, sign: RegExp): string {
  let end = text.length
  while (end > 0 && sign.test(text[end - 1]!)) end -= 1
  return text.slice(0, end)
}
