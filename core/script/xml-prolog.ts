/**
 * Where the root element of XML or HTML begins: behind white space, comments, processing instructions and a document type. The length of the text
 * where something of these does not end. Reads every character once.
 */
export function afterProlog(text: string): number {
  let at = text.startsWith('\ufeff') ? 1 : 0
  for (;;) {
    while (at < text.length && /\s/u.test(text[at]!)) at += 1
    const end = text.startsWith('<!--', at) ? endOf(text, '-->', at + 4)
      : text.startsWith('<?', at) ? endOf(text, '>', at)
        : /^<!doctype/iu.test(text.slice(at, at + 9)) ? doctypeEnd(text, at) : at
    if (end === at) return at
    at = end
  }
}

function endOf(text: string, sign: string, from: number): number {
  const found = text.indexOf(sign, from)
  return found < 0 ? text.length : found + sign.length
}

/** A document type may have an internal subset in square brackets. */
function doctypeEnd(text: string, at: number): number {
  const [close, subset] = [endOf(text, '>', at), text.indexOf('[', at)]
  return subset < 0 || subset > close ? close : endOf(text, '>', endOf(text, ']', subset))
}
