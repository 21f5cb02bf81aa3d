import { countWords, type Block } from '#core/manuscript/manuscript'
import { count } from '#core/tally'
import { beginning, rootOf, type Reader, type SourceFile } from '../reader'
import { openText } from '../text/decode'
import { bare } from '../text-builder'
import { htmlBlocks, type HtmlDocument } from './blocks'
import { declaredEncoding } from './encoding'

const isHtml = (file: SourceFile): boolean => /^<!doctype html/iu.test(beginning(file)) || /^<html[\s>]/iu.test(rootOf(file))

/** An article, or the page around one. What is not the article is dropped as navigation. */
export const htmlReader: Reader = {
  format: 'html',
  label: 'a web page (HTML)',
  extensions: ['.html', '.htm', '.xhtml'],
  version: 3,
  accepts: file => isHtml(file)
    || (/\.x?html?$/iu.test(file.name) && /^<|<(?:p|div|h[1-6]|article|body)[\s>]/iu.test(beginning(file))),
  read: async (file, { encoding }) => {
    const { text: html, problems: undecoded, encoding: decoded } = await openText(file, encoding, declaredEncoding(beginning(file)))
    const page = htmlBlocks(html, { place: file.name })
    const blocks = await withoutSurroundings(html, page)
    const read = blocks.filter(block => block.dropped === undefined)
    const heading = read.find(block => block.level === 1) ?? (read[0]?.level === undefined ? undefined : read[0])
    const label = heading?.text ?? page.title
    return {
      // A title that goes on behind the heading has the name of the site in it.
      title: page.title === null || heading !== undefined && goesOn(page.title, heading.text) ? label : page.title, author: page.author, language: page.language, problems: [...undecoded, ...page.problems], encoding: decoded,
      units: [{ kind: 'article', label: label ?? '', ...(page.author === null ? {} : { author: page.author }), ...(page.date === null ? {} : { date: page.date }) }],
      blocks: blocks.map(block => ({ ...block, unit: 0 })),
    }
  },
}

/** Whether a page's title is its heading with something set off behind or before it. */
function goesOn(title: string, heading: string): boolean {
  const rest = title.startsWith(heading) ? title.slice(heading.length) : title.endsWith(heading) ? title.slice(0, -heading.length) : ''
  return /^\s*[|–—•·»:-]\s|\s[|–—•·«:-]\s*$/u.test(rest)
}

/** Least share of the words that must be left for an extraction to be believed. */
const leastShare = 0.25

/**
 * The page's own elements say what is navigation. Where it has none that do, the article is looked for by how dense
 * its text is, and what lies outside of it is dropped.
 */
async function withoutSurroundings(html: string, page: HtmlDocument): Promise<readonly Block[]> {
  const { blocks } = page
  const main = /<(?:main|article)[\s>]/iu.test(html) ? await onlyMain(html) : null
  if (main !== null && main.size > 0) return droppedOutside(blocks, main)
  if (blocks.some(block => block.dropped === 'navigation') || !/(?:class|id)\s*=(?:\s*["'])?[^"'>]{0,300}\b(?:nav|menu|sidebar|footer|header|breadcrumb|share|related|comments?|ad|banner)\b/iu.test(html)) return blocks
  const [{ Readability }, { parseHTML }] = await Promise.all([import('@mozilla/readability'), import('linkedom')])
  const { document } = parseHTML(html)
  const article = new Readability(document as unknown as Document, { charThreshold: 200 }).parse()
  if (article === null || typeof article.content !== 'string') return blocks
  const kept = texts(htmlBlocks(article.content, { place: 'article' }).blocks)
  if (typeof article.title === 'string') add(kept, article.title)
  const extracted = droppedOutside(blocks, kept)
  const words = (all: readonly Block[]): number => all.reduce((sum, block) => sum + (block.dropped === undefined ? countWords(block.text) : 0), 0)
  return words(extracted) >= words(blocks) * leastShare ? extracted : blocks
}

/** How often each text occurs. */
type Texts = Map<string, number>

function add(all: Texts, text: string): void {
  const key = bare(text)
  if (key !== '') count(all, key)
}

function texts(blocks: readonly Block[]): Texts {
  const all: Texts = new Map()
  for (const block of blocks) if (block.dropped === undefined) add(all, block.text)
  return all
}

function droppedOutside(blocks: readonly Block[], kept: Texts): Block[] {
  return blocks.map(block => {
    const key = bare(block.text)
    const left = kept.get(key) ?? 0
    if (block.dropped !== undefined || key === '') return block
    if (left === 0) return { ...block, dropped: 'navigation' }
    kept.set(key, left - 1)
    return block
  })
}

/** The texts within the main element, or within the only article. */
async function onlyMain(html: string): Promise<Texts | null> {
  const { parseHTML } = await import('linkedom')
  const { document } = parseHTML(html)
  const mains = document.querySelectorAll('main, [role="main"]')
  const articles = document.querySelectorAll('article')
  const element = mains.length === 1 ? mains[0]! : mains.length === 0 && articles.length === 1 ? articles[0]! : null
  return element === null ? null : texts(htmlBlocks(element.outerHTML as string, { place: 'main' }).blocks)
}
