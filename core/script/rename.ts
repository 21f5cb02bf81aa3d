import { compileRegExp } from '../manuscript/pattern'
import { fail } from '../problem'

/**
 * New names of parts: the first match of a pattern (RE2 syntax) in each is replaced. In the replacement `$1` is the
 * first group, `{n}` the part's number among those that are renamed. A name without a match stays. Throws a problem for a
 * pattern that is none and for a replacement that names a group which is not there.
 */
export function renamed(labels: readonly string[], find: string, replace: string): string[] {
  const pattern = compileRegExp(find)
  try {
    return labels.map((label, index) => {
      const name = pattern.matcher(label).replaceFirst(replace.replaceAll('{n}', String(index + 1)), true).replace(/\s+/gu, ' ').trim()
      return name === '' ? label : name
    })
  } catch (error) {
    return fail('replacement-broken', `“${replace}” cannot be put in: ${(error as Error).message}. Use $1 for the first group in brackets.`)
  }
}
