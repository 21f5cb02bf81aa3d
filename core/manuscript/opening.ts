import type { SourceUnit } from './manuscript'

/** The first line of an article: a template's fields filled in. A missing field goes with the words before it; the line ends as the template does. */
export function openingLine(template: string, { label, author, date, source }: SourceUnit): string {
  const fields: Readonly<Record<string, string | undefined>> = { title: label, author, date, source }
  let line = ''
  let from = 0
  for (const match of template.matchAll(/\{(title|author|date|source)\}/gu)) {
    const before = template.slice(from, match.index)
    const value = fields[match[1]!]
    if (value !== undefined && value !== '') line += (line === '' ? before.replace(/^[\s,;:–—-]+/u, '') : before) + value
    from = match.index + match[0].length
  }
  return (line + (line === '' ? '' : template.slice(from))).trim()
}
