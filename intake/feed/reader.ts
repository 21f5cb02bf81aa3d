import { fail } from '#core/problem'
import { articleBlocks, maximumArticles, type RawArticle } from '../articles'
import { declaredEncoding } from '../html/encoding'
import { beginning, rootOf, type Reader } from '../reader'
import { openText } from '../text/decode'

const root = /^<(?:rss|feed|rdf:RDF)[\s>]/iu

/** RSS, Atom, RDF and JSON Feed: one entry is one article. */
export const feedReader: Reader = {
  format: 'feed',
  label: 'a feed (RSS, Atom, JSON Feed)',
  extensions: ['.rss', '.atom', '.xml', '.json'],
  version: 2,
  accepts: file => root.test(rootOf(file))
    || /^\{[\s\S]*"version"\s*:\s*"https?:\\?\/\\?\/jsonfeed\.org/u.test(beginning(file)),
  read: async (file, { encoding }) => {
    const { text, problems: undecoded, encoding: decoded } = await openText(file, encoding, declaredEncoding(beginning(file)))
    const doctype = /<!DOCTYPE[^>[]*(?:(\[)[^>]*)?>/iu.exec(text.slice(0, 4096))
    if (doctype?.[1] !== undefined) fail('xml-doctype', 'The feed declares entities of its own, which are not expanded. Remove its document type definition.', file.name)
    // Counted before they are understood, which takes long where there are very many.
    refuseTooMany(text.match(/<(?:item|entry)[\s>]/giu)?.length ?? 0, file.name)
    const { title, language, articles } = await entriesOf(doctype === null ? text : text.replace(doctype[0], ''), file.name)
    refuseTooMany(articles.length, file.name)
    if (articles.length === 0) fail('feed-empty', `${file.name} is a feed without entries: there is nothing to read in it.`)
    const { units, blocks, problems } = articleBlocks(articles, file.name)
    return { title, author: null, language, units, blocks, problems: [...undecoded, ...problems], encoding: decoded }
  },
}

function refuseTooMany(count: number, name: string): void {
  if (count > maximumArticles) fail('feed-too-long', `${name} has ${count.toLocaleString('en')} entries; at most ${maximumArticles.toLocaleString('en')} make one production. Divide it.`)
}

interface Found {
  readonly title: string | null
  readonly language: string | null
  readonly articles: readonly RawArticle[]
}

async function entriesOf(text: string, name: string): Promise<Found> {
  const { parseFeed } = await import('feedsmith')
  let parsed: ReturnType<typeof parseFeed>
  try {
    parsed = parseFeed(text)
  } catch {
    return fail('feed-broken', 'The feed is damaged and could not be understood. Fetch it again, or export it as a table.', name)
  }
  const { format, feed } = parsed
  if (format === 'json') {
    return {
      title: feed.title ?? null, language: feed.language ?? null,
      articles: (feed.items ?? []).map(item => ({
        title: item.title, author: names(item.authors), date: written(item.date_published), source: item.url ?? item.external_url,
        ...(item.content_html === undefined ? { body: item.content_text ?? item.summary ?? '', markup: 'text' } : { body: item.content_html, markup: 'html' }),
      })),
    }
  }
  if (format === 'atom') {
    return {
      title: textOf(feed.title), language: /xml:lang\s*=\s*["']([\w-]+)/u.exec(text.slice(0, 4096))?.[1] ?? null,
      articles: (feed.entries ?? []).map(entry => ({
        title: textOf(entry.title) ?? undefined, author: names(entry.authors) ?? names(feed.authors), date: written(entry.published ?? entry.updated),
        source: (entry.links?.find(link => link.rel === undefined || link.rel === 'alternate') ?? entry.links?.[0])?.href,
        body: textOf(entry.content) ?? textOf(entry.summary) ?? '',
      })),
    }
  }
  const items = feed.items ?? []
  return {
    title: textOf(feed.title), language: 'language' in feed ? feed.language ?? null : feed.dc?.languages?.[0] ?? null,
    articles: items.map(item => {
      const authors = 'authors' in item ? item.authors : undefined
      const creators = item.dc?.creators
      const author = creators?.join(', ') ?? names(authors)
      const date = 'pubDate' in item ? written(item.pubDate) : undefined
      return {
        title: textOf(item.title) ?? undefined, author, date: date ?? written(item.dc?.dates?.[0]), source: item.link,
        body: item.content?.encoded ?? textOf(item.description) ?? '',
      }
    }),
  }
}

/** Feeds give a text as it is, or as an object with its value. */
function textOf(value: unknown): string | null {
  if (typeof value === 'string') return value
  if (typeof value === 'object' && value !== null && 'value' in value && typeof value.value === 'string') return value.value
  return null
}

function written(date: unknown): string | undefined {
  return typeof date === 'string' ? date : undefined
}

function names(authors: readonly unknown[] | undefined): string | undefined {
  const all = (authors ?? []).map(author => typeof author === 'object' && author !== null && 'name' in author ? author.name : author)
    .filter(name => typeof name === 'string' && name.trim() !== '')
    // RSS gives an address with the name in brackets.
    .map(name => /^[^\s@]+@\S+\s+\((.+)\)$/u.exec(name as string)?.[1] ?? name as string)
  return all.length === 0 ? undefined : all.join(', ')
}
