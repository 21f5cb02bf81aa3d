/**
 * The range a request asks for (RFC 9110, section 14): `to` is exclusive. Null for the whole: without a
 * header, with one that is no byte range, and with several ranges, which may be answered so.
 */
export function byteRange(header: string | undefined, size: number): { from: number, to: number } | 'unsatisfiable' | null {
  const match = /^bytes=(\d*)-(\d*)$/u.exec(header?.trim() ?? '')
  if (match === null || (match[1] === '' && match[2] === '')) return null
  const [, first, last] = match
  if (first === '') {
    const length = Math.min(Number(last), size)
    return length === 0 ? 'unsatisfiable' : { from: size - length, to: size }
  }
  const from = Number(first)
  const to = last === '' ? size : Math.min(Number(last) + 1, size)
  if (last !== '' && Number(last) < from) return null
  return from >= size ? 'unsatisfiable' : { from, to }
}
