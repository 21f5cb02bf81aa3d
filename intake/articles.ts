import { isSpeakable, type Block, type SourceUnit } from '#core/manuscript/manuscript'
import type { Problem } from '#core/problem'
import { htmlBlocks } from './html/blocks'
import { markdownBlocks } from './markdown/blocks'
import { collapse } from './text-builder'
import { textBlocks } from './text/reader'

/** An article as a feed or a table gives it. */
export interface RawArticle {
  readonly title?: string | undefined
  readonly author?: string | undefined
  readonly date?: string | undefined
  readonly source?: string | undefined
  readonly body: string
  /** What its body is written in; told from the body when it is not said. */
  readonly markup?: 'html' | 'text'
}

export interface Articles {
  readonly units: readonly SourceUnit[]
  readonly blocks: readonly Block[]
  readonly problems: readonly Problem[]
}

/** Articles of a feed or rows of a table that make one production, at most. */
export const maximumArticles = 20_000

const labelWords = 6

/** The units and blocks of articles, in their order. */
export function articleBlocks(articles: readonly RawArticle[], place: string): Articles {
  const units: SourceUnit[] = []
  const blocks: Block[] = []
  const problems: Problem[] = []
  for (const [unit, article] of articles.entries()) {
    const body = bodyBlocks(article, `${place}, article ${unit + 1}`)
    const title = collapse(plain(article.title ?? ''))
    const first = body.blocks.find(block => block.dropped === undefined && isSpeakable(block.text))?.text.split(' ').slice(0, labelWords).join(' ')
    const field = (name: 'author' | 'source'): object => article[name] === undefined || article[name].trim() === '' ? {} : { [name]: collapse(article[name]) }
    const date = article.date === undefined || article.date.trim() === '' ? {} : { date: isoDate(article.date) }
    units.push({ kind: 'article', label: title || (first ?? `Article ${unit + 1}`), ...field('author'), ...date, ...field('source') })
    blocks.push(...body.blocks.map(block => inUnit(block, unit)))
    problems.push(...body.problems)
  }
  return { units, blocks, problems }
}

/** A block of one of several documents: the notes of each are its own. */
export function inUnit(block: Block, unit: number): Block {
  return {
    ...block, unit,
    ...(block.note === undefined ? {} : { note: `${unit} ${block.note}` }),
    ...(block.marks === undefined ? {} : { marks: block.marks.map(({ at, note }) => ({ at, note: `${unit} ${note}` })) }),
  }
}

const htmlSigns = /<(?:\/?(?:p|br|div|span|h[1-6]|ul|ol|li|em|strong|a|img|blockquote|table|b|i)\b[^<>]*|!--)>?/iu
const markdownSigns = /^#{1,6}\s|\*\*[^*\s][^*]*\*\*|\[[^[\]\n]+\]\([^)\n]+\)|^(?:```|>\s|[-*]\s)/mu

function bodyBlocks({ body, markup }: RawArticle, place: string): { blocks: readonly Block[], problems: readonly Problem[] } {
  if (markup === 'html' || (markup === undefined && htmlSigns.test(body))) return htmlBlocks(body, { place })
  if (markup === undefined && markdownSigns.test(body)) return markdownBlocks(body, place)
  const blocks = textBlocks(body.replace(/\r\n?/gu, '\n'))
  return { blocks: blocks.map(({ emptyLines: _, ...block }) => block), problems: [] }
}

/** A title may hold markup, too. */
function plain(title: string): string {
  return htmlSigns.test(title) || /&(?:#\d+|#x[\da-f]+|[a-z]+);/iu.test(title) ? htmlBlocks(title, { place: 'title' }).blocks.map(block => block.text).join(' ') : title
}

/** ISO 8601 for the dates of RFC 822 and RFC 3339; any other as it is given, because day and month may be either way round. */
function isoDate(given: string): string {
  const text = given.trim()
  if (/^\d{4}-\d{2}-\d{2}/u.test(text)) return text.slice(0, 10)
  if (!/^(?:[A-Z][a-z]{2},\s*)?\d{1,2}\s+[A-Z][a-z]{2,8}\s+\d{4}/u.test(text)) return text
  const time = Date.parse(text)
  return Number.isNaN(time) ? text : new Date(time).toISOString().slice(0, 10)
}
