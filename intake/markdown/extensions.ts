import katex from 'katex'
import type MarkdownIt from 'markdown-it'
import { htmlBlocks } from '../html/blocks'

// What writers of Markdown use beyond CommonMark (*common practice*): none of it is to be read with its signs.

const attribute = '(?:[#.][\\p{L}\\d_:.-]+|[\\w:-]+=(?:"[^"{}]*"|[^\\s{}"]+)|-)'
/** `{#id .class key=value}` behind a heading, a link, code or a span in brackets. */
const attributes = new RegExp(`\\s?\\{:?\\s*${attribute}(?:\\s+${attribute})*\\s*\\}`, 'gu')
const bracketed = new RegExp(`\\[([^[\\]]{1,300})\\]\\{:?\\s*${attribute}(?:\\s+${attribute})*\\s*\\}`, 'gu')

/** A text without attributes in braces; a span that has them loses its brackets. */
export function withoutAttributes(text: string): string {
  return text.includes('{') ? text.replace(bracketed, '$1').replace(attributes, '') : text
}

/** A line that stands for the list of contents. */
const contents = /^\s{0,3}(?:\[\[?_?toc_?\]\]?|\{:toc\}|\\tableofcontents|<!-- ?toc ?-->)\s*$/iu
/** A line that begins a new page. */
const newPage = /^\s{0,3}\\(?:newpage|pagebreak|clearpage)\s*$/u
/** The beginning and end of a box; what follows its name is its title. */
const box = /^\s{0,3}:::/u
const boxName = /^(?:\{[^{}]*\}|[\w-]+)/u
const fence = /^\s{0,3}(`{3,}|~{3,})/u

/** What stands for a new page until its block is read. */
export const pageMark = '\ue000page\ue000'

/** A text without such lines: a mark of a page, or the title of a box, stands in their place. Code is left as it is. */
export function withoutMarkup(body: string): string {
  let open: string | null = null
  return body.split('\n').map(line => {
    const [, sign] = fence.exec(line) ?? []
    if (open !== null) {
      if (sign !== undefined && sign.startsWith(open)) open = null
      return line
    }
    if (sign !== undefined) open = sign
    if (contents.test(line)) return ''
    if (newPage.test(line)) return pageMark
    if (!box.test(line)) return line
    const title = trimmed(line).replace(boxName, '').trim()
    return title === '' ? '' : `${title}\n`
  }).join('\n')
}

/** What stands between the colons of a box. */
function trimmed(line: string): string {
  let [start, end] = [0, line.length]
  while (start < end && /[:\s]/u.test(line[start]!)) start += 1
  while (end > start && /[:\s]/u.test(line[end - 1]!)) end -= 1
  return line.slice(start, end)
}

/** Formulas between dollar signs, as one line of text each. */
export function maths(parser: InstanceType<typeof MarkdownIt>): void {
  parser.inline.ruler.before('escape', 'maths', (state, silent) => {
    const found = formula.exec(state.src.slice(state.pos, state.pos + longestFormula))
    if (found === null || /[\d\p{L}]$/u.test(state.src.slice(Math.max(0, state.pos - 1), state.pos))) return false
    if (!silent) state.push('maths', '', 0).content = spoken(found[1] ?? found[2]!)
    state.pos += found[0].length
    return true
  })
}

const longestFormula = 2000
/** No space behind the first sign or before the last, and no figure behind it: $5 and $6 are sums of money. */
const formula = /^\$\$([^$]+)\$\$|^\$(?=[^\s$])([^$\n]*[^\s$\\])\$(?!\d)/u

function spoken(tex: string): string {
  const html = katex.renderToString(tex, { output: 'mathml', throwOnError: false, strict: 'ignore', maxExpand: 100 })
  return htmlBlocks(html, { place: 'formula' }).blocks.map(({ text }) => text).join(' ')
}
