import { addTo } from '#core/tally'
import { isContentsLine, type Line } from './lines'

export type Furniture = 'running-head' | 'page-number'

/** Lines this near to the edge of a page's text can be heads or feet; one further where many pages have the same. */
const outermost = 2
const sameHeight = 2
const leastPages = 3
/** Most characters of other words where heads are at home. */
const longestHead = 120
/** What is set larger than the text by more than this is a heading: its number counts chapters. */
const largestHead = 1.1
/** Numbers of a line that may count the pages. */
const mostNumbers = 5

/**
 * The lines that stand at the same height on many pages with the same words, or with a number that counts the pages, and the outermost line
 * of a page that says in words that it is its number. Where a head is at home, other words at the same height and in the same size are heads too.
 */
export function furnitureOf(pages: readonly (readonly Line[])[]): ReadonlyMap<Line, Furniture> {
  const groups = new Map<string, Line[]>()
  const edges = pages.map(edgeLines)
  const outer = new Set<Line>()
  const size = medianSize(pages)
  for (const lines of edges) {
    for (const [index, line] of lines.entries()) {
      if (Math.min(index, lines.length - 1 - index) < outermost) outer.add(line)
      for (const key of keysOf(line, line.size > size * largestHead)) addTo(groups, key, line)
    }
  }
  const many = Math.max(leastPages, pages.length * 0.3)
  const found = new Map<Line, Furniture>()
  for (const lines of groups.values()) {
    const onPages = new Set(lines.map(line => line.page)).size
    if (onPages < (lines.some(line => outer.has(line)) ? leastPages : many)) continue
    for (const line of lines) found.set(line, furnitureKind(line))
  }
  /** Pages with a head at a height, by height and size. */
  const homes = new Map<string, Set<number>>()
  const homeOf = (y: number, size: number): string => `${Math.round(y)} ${size.toFixed(1)}`
  for (const { y, size, page } of found.keys()) homes.set(homeOf(y, size), (homes.get(homeOf(y, size)) ?? new Set()).add(page))
  edges.forEach((lines, page) => {
    for (const line of lines) {
      if (found.has(line)) continue
      const atHome = Math.max(...[-1, 0, 1].map(by => homes.get(homeOf(line.y + by, line.size))?.size ?? 0))
      const isHead = atHome >= many && outer.has(line) && line.text.length < longestHead
      if (isHead || (line === lines[0] || line === lines.at(-1)) && countsItself(line, pages.length, page)) found.set(line, furnitureKind(line))
    }
  })
  return found
}

/** First and last lines of a page by height, from top to bottom. */
function edgeLines(lines: readonly Line[]): Line[] {
  const byHeight = lines.toSorted((a, b) => b.y - a.y)
  return [...new Set([...byHeight.slice(0, outermost + 1), ...byHeight.slice(-outermost - 1)])].filter(({ text }) => !isContentsLine(text))
}

/** What a line has in common with those that repeat it: height, size, and its words, or its words around a number that grows with the page. */
function keysOf({ text, y, size, page }: Line, isLarge: boolean): string[] {
  const words = text.toLowerCase()
  const keys: string[] = []
  if (!/\d/u.test(text) || text.length > 6) keys.push(words)
  if (isLarge) return keys.map(key => `${Math.round(y / sameHeight)} ${size.toFixed(1)} ${key}`)
  for (const match of [...text.matchAll(/\d{1,5}|^[ivxl]{1,7}$/giu)].slice(0, mostNumbers)) {
    const number = /\d/u.test(match[0]) ? Number(match[0]) : fromRoman(match[0])
    const [before, after] = [words.slice(0, match.index), words.slice(match.index + match[0].length)]
    const shift = number - page
    keys.push(`${before}#${after} ${shift}`)
    // Heads of left and right pages differ, and heads that name the chapter: the number stands at the edge of all, or before the number of pages.
    if (before === '' && !/^[\p{L}\d]/u.test(after)) keys.push(`# ${shift} first`)
    if (after === '' && !/[\p{L}\d]$/u.test(before)) keys.push(`# ${shift} last`)
    const [ofAll] = beginsOfPages.exec(after) ?? []
    if (ofAll !== undefined) keys.push(`#${ofAll} ${shift}`)
  }
  // The height is rounded to both sides, so that neighbours always meet.
  return keys.flatMap(key => [Math.floor(y / sameHeight), Math.ceil(y / sameHeight)].map(height => `${height} ${size.toFixed(1)} ${key}`))
}

function medianSize(pages: readonly (readonly Line[])[]): number {
  const sizes = pages.flatMap(lines => lines.map(line => line.size)).sort((a, b) => a - b)
  return sizes[Math.floor(sizes.length / 2)] ?? 0
}

const pageWord = '(?:page|seite|p\\.|pg\\.|s\\.|pág(?:ina|\\.)|pagina|pag\\.|strona|str\\.|strana|sida|side|sivu|oldal|стр(?:аница|\\.)|sayfa|σελίδα|ページ|第)'
const numberOfPage = '(?:\\d{1,5}|[ivxl]{1,7})'
/** What stands between the number of a page and that of all. */
const between = '\\s?(?:\\/|of|von|de|sur|di|van|av|af|z|из)\\s?'
const ofPages = `(?:${between}\\d{1,5})`
const beginsOfPages = new RegExp(`^${ofPages}\\b`, 'u')
/** Nothing but the number of a page, in any of its forms. */
const onlyNumber = new RegExp(`^\\W*(?:${pageWord}\\s?)?${numberOfPage}${ofPages}?(?:\\s?(?:ページ|页|頁|쪽))?\\W*$`, 'iu')
/** Words that say which page this is, of how many. */
const saysPage = new RegExp(`^\\W{0,3}${pageWord}\\s?(\\d{1,5})(?:\\W*|${ofPages}(?![\\p{L}\\d]).{0,60})$`, 'iu')
/** The same without words. */
const saysShare = new RegExp(`^\\W{0,3}(\\d{1,5})${between}(\\d{1,5})\\W{0,3}$`, 'iu')

/** Whether a line says that it is the number of its page. No other page need say so: it must be the right one. */
function countsItself({ text }: Line, total: number, page: number): boolean {
  const share = saysShare.exec(text)
  return Number(saysPage.exec(text)?.[1]) === page + 1 || share !== null && Number(share[1]) === page + 1 && Number(share[2]) === total
}

/** What a line outside of the text is. */
export function furnitureKind({ text }: Pick<Line, 'text'>): Furniture {
  return onlyNumber.test(text) ? 'page-number' : 'running-head'
}

function fromRoman(text: string): number {
  const values: Readonly<Record<string, number>> = { i: 1, v: 5, x: 10, l: 50 }
  const digits = [...text.toLowerCase()].map(sign => values[sign] ?? 0)
  return digits.reduce((sum, value, index) => sum + (value < (digits[index + 1] ?? 0) ? -value : value), 0)
}
