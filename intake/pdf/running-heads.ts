import { addTo } from '#core/tally'
import type { Line } from './lines'

export type Furniture = 'running-head' | 'page-number'

/** Lines this near to the edge of a page's text can be heads or feet. */
const outermost = 2
const sameHeight = 2
const leastPages = 3

/**
 * The lines that stand at the same height on many pages with the same words, or with a number that counts the pages.
 * Where a head is at home, other words at the same height and in the same size are heads too.
 */
export function furnitureOf(pages: readonly (readonly Line[])[]): ReadonlyMap<Line, Furniture> {
  const groups = new Map<string, Line[]>()
  const edges = pages.map(edgeLines)
  for (const lines of edges) for (const line of lines) for (const key of keysOf(line)) addTo(groups, key, line)
  const found = new Map<Line, Furniture>()
  const homes: { y: number, size: number, pages: number }[] = []
  for (const lines of groups.values()) {
    const onPages = new Set(lines.map(line => line.page)).size
    if (onPages < leastPages) continue
    for (const line of lines) found.set(line, furnitureKind(line))
    homes.push({ y: lines[0]!.y, size: lines[0]!.size, pages: onPages })
  }
  for (const lines of edges) {
    for (const line of lines) {
      if (found.has(line)) continue
      const atHome = homes.filter(home => Math.abs(home.y - line.y) < sameHeight && Math.abs(home.size - line.size) < 0.5).reduce((sum, home) => sum + home.pages, 0)
      if (atHome >= Math.max(leastPages, pages.length * 0.3) && line.text.length < 120) found.set(line, furnitureKind(line))
    }
  }
  return found
}

/** First and last lines of a page by height. */
function edgeLines(lines: readonly Line[]): Line[] {
  const byHeight = lines.toSorted((a, b) => b.y - a.y)
  return [...new Set([...byHeight.slice(0, outermost), ...byHeight.slice(-outermost)])]
}

/** What a line has in common with those that repeat it: height, size, and its words, or its words around a number that grows with the page. */
function keysOf({ text, y, size, page }: Line): string[] {
  const place = `${Math.round(y / sameHeight)} ${size.toFixed(1)}`
  const keys: string[] = []
  if (!/\d/u.test(text) || text.length > 6) keys.push(`${place} ${text.toLowerCase()}`)
  for (const match of text.matchAll(/^\d{1,4}\b|\b\d{1,4}$|^[ivxl]{1,7}$/giu)) {
    const number = /\d/u.test(match[0]) ? Number(match[0]) : fromRoman(match[0])
    // Heads of left and right pages differ.
    keys.push(`${place} ${text.replace(match[0], '#').toLowerCase()} ${number - page}`, `${place} # ${number - page} ${match.index === 0 ? 'first' : 'last'}`)
  }
  return keys
}

function furnitureKind({ text }: Line): Furniture {
  return /^\W*(?:(?:page|seite|p\.)\s*)?(?:\d{1,4}|[ivxl]{1,7})(?:\s*(?:\/|of|von)\s*\d{1,4})?\W*$/iu.test(text) ? 'page-number' : 'running-head'
}

function fromRoman(text: string): number {
  const values: Readonly<Record<string, number>> = { i: 1, v: 5, x: 10, l: 50 }
  const digits = [...text.toLowerCase()].map(sign => values[sign] ?? 0)
  return digits.reduce((sum, value, index) => sum + (value < (digits[index + 1] ?? 0) ? -value : value), 0)
}
