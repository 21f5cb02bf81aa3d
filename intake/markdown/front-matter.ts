import { parse, YAMLParseError } from 'yaml'
import { fail } from '#core/problem'

export interface FrontMatter {
  readonly title: string | null
  readonly author: string | null
  readonly language: string | null
  readonly date: string | null
}

/** The pieces of a text between signs, with commas instead. */
function joined(text: string, sign: string): string {
  return text.split(sign).map(piece => piece.trim()).filter(piece => piece !== '').join(', ')
}

/** `%` lines at the top: title, authors, date; a line that is indented goes on. */
const titleBlock = /^(?:%[^\S\n]?[^\n]*(?:\n|$)(?:[^\S\n]+\S[^\n]*(?:\n|$)){0,10}){1,3}/u

const none: FrontMatter = { title: null, author: null, language: null, date: null }

/**
 * Splits a leading block from the text. `---` blocks are YAML; a block of any other kind (`---js`, `+++`) is
 * dropped, never run or read. Throws a problem with its line when the YAML is broken.
 */
export function splitFrontMatter(text: string, name: string): { meta: FrontMatter, body: string, dropped: string | null } {
  const titled = titleBlock.exec(text)
  if (titled !== null) {
    const [title = '', author = '', date = ''] = titled[0].trimEnd().split(/\n(?=%)/u).map(line => joined(line.replace(/^%/u, ''), '\n'))
    return { meta: { title: title || null, author: joined(author, ';') || null, language: null, date: date || null }, body: text.slice(titled[0].length), dropped: null }
  }
  const match = /^(?<fence>---|\+\+\+)(?<kind>[^\n]*)\n(?<block>[\s\S]*?\n)??(?:\k<fence>|\.\.\.)[^\S\n]*(?:\n|$)/u.exec(text)
  if (match?.groups === undefined) return { meta: none, body: text, dropped: null }
  const { fence, kind, block = '' } = match.groups
  const body = text.slice(match[0].length)
  if (fence === '+++' || !/^(?:ya?ml)?$/iu.test(kind!.trim())) return { meta: none, body, dropped: block }
  // A thematic break at the top is no front matter: the block must hold `key: value` lines only.
  if (!/^[\w-]+\s*:/mu.test(block)) return { meta: none, body: block.trim() === '' ? body : text, dropped: null }
  return { meta: readMeta(block, name), body, dropped: null }
}

function readMeta(block: string, name: string): FrontMatter {
  let data: unknown
  try {
    data = parse(block, { maxAliasCount: 0 })
  } catch (error) {
    const line = error instanceof YAMLParseError ? (error.linePos?.[0].line ?? 1) + 1 : 2
    fail('front-matter-broken', 'The block between the --- lines at the top is not valid YAML. Correct it or remove it.', `${name}, line ${line}`)
  }
  if (typeof data !== 'object' || data === null) return none
  const entries = new Map(Object.entries(data).map(([key, value]) => [key.toLowerCase(), value]))
  const read = (...keys: string[]): string | null => {
    for (const key of keys) {
      const value = entries.get(key)
      const text = value instanceof Date ? value.toISOString().slice(0, 10) : Array.isArray(value) ? value.filter(item => typeof item === 'string').join(', ') : value
      if (typeof text === 'string' && text.trim() !== '') return text.trim()
    }
    return null
  }
  return { title: read('title'), author: read('author', 'authors', 'by'), language: read('language', 'lang', 'locale'), date: read('date', 'published', 'created') }
}
