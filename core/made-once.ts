/** A function of a key that makes the value of each key once and keeps it: for formatters and patterns of a language, which are dear to make. There must be few keys. */
export function madeOnce<T>(make: (key: string) => T): (key: string) => T {
  const made = new Map<string, { readonly value: T }>()
  return key => {
    const known = made.get(key) ?? { value: make(key) }
    made.set(key, known)
    return known.value
  }
}
