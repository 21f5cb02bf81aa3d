/**
 * A template with its fields, which stand in braces, filled in. A field without a value goes with the words before it, but for brackets and
 * quotation marks that close there; the text ends as the template does. `text` is
 * empty where a template has fields and none of them has a value.
 */
export function filledTemplate(template: string, values: Readonly<Record<string, string | undefined>>): string {
  let text = ''
  let from = 0
  let hasFields = false
  for (const match of template.matchAll(/\{([a-z]{1,20})\}/gu)) {
    const name = match[1]!
    if (!Object.hasOwn(values, name)) continue
    hasFields = true
    const before = template.slice(from, match.index)
    const value = values[name]
    if (value !== undefined && value !== '') text += (text === '' ? before.replace(/^[\s.,;:!?–—-]+/u, '') : before) + value
    else if (text !== '') text += /^[)\]”’»]*/u.exec(before)![0]
    from = match.index + match[0].length
  }
  return (hasFields ? text + (text === '' ? '' : template.slice(from)) : template).trim()
}
