import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { DocumentInitParameters, PDFDocumentProxy, PDFPageProxy, TextItem, TextMarkedContent } from 'pdfjs-dist/types/src/display/api'
import { countWords } from '#core/manuscript/manuscript'
import { fail } from '#core/problem'
import { addTo, count, most } from '#core/tally'
import type { PageGuard } from './limits'
import { isSpaced, linesOf, type Line, type Piece } from './lines'
import type { StructureNode } from './tagged'

/** What is read of one page, from which everything else is made. It can be sent from one thread to another. */
export interface PageText {
  readonly lines: readonly Line[]
  readonly words: number
  readonly characters: number
  /** The page's part of the structure tree, in a file that is tagged. */
  readonly tagged: { readonly tree: StructureNode, readonly content: ReadonlyMap<string, readonly Piece[]>, readonly artifacts: readonly Piece[] } | null
}

/**
 * The library, without its replacement for `Array.prototype.push`: that one puts right how old engines treat arrays of a fixed length, and makes
 * the reading of pages a fifth slower.
 */
async function library() {
  const own = Object.getOwnPropertyDescriptor(Array.prototype, 'push')!
  const loaded = await import('pdfjs-dist/legacy/build/pdf.mjs')
  await import('pdfjs-dist/legacy/build/pdf.worker.mjs' as string)
  Object.defineProperty(Array.prototype, 'push', own)
  return loaded
}

/** Opens a file. Throws a problem for one that is damaged or protected. */
export async function openPdf(bytes: Uint8Array, name: string): Promise<PDFDocumentProxy> {
  const { getDocument } = await library()
  const folder = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'))
  const parameters: DocumentInitParameters = {
    data: new Uint8Array(bytes), isEvalSupported: false, disableFontFace: true, useSystemFonts: false, verbosity: 0, enableXfa: false,
    cMapUrl: `${join(folder, 'cmaps')}/`, cMapPacked: true, standardFontDataUrl: `${join(folder, 'standard_fonts')}/`,
  }
  try {
    return await getDocument(parameters).promise
  } catch (error) {
    if ((error as Error).name === 'PasswordException') fail('file-encrypted', `${name} is protected by a password. Remove the password and bring it again.`)
    return fail('pdf-broken', `${name} is damaged or not complete. Make the PDF again.`)
  }
}

/** Reads a page, numbered from 0. Throws a problem for one that grows without end. */
export async function readPage(pdf: PDFDocumentProxy, index: number, isMarked: boolean, guard: PageGuard): Promise<PageText> {
  const { page, items } = await guard.during(index + 1, async () => {
    const opened = await pdf.getPage(index + 1)
    const items = await itemsOf(opened, isMarked, guard)
    return { page: opened, items: items.some(isLongRow) ? respaced(items, await drawnText(opened)) : items }
  }, ({ items: found }) => found.length > 0)
  const { pieces, content, artifacts } = sort(upright(items))
  const tree = isMarked ? await page.getStructTree().catch(() => null) as StructureNode | null : null
  page.cleanup()
  return {
    lines: linesOf(pieces, index),
    words: pieces.reduce((sum, { text }) => sum + countWords(text), 0),
    characters: pieces.reduce((sum, { text }) => sum + text.length, 0),
    tagged: tree === null ? null : { tree, content, artifacts },
  }
}

/** What stands on a page, piece by piece, so that a page without end is given up on the way. */
async function itemsOf(page: PDFPageProxy, includeMarkedContent: boolean, guard: PageGuard): Promise<(TextItem | TextMarkedContent)[]> {
  const items: (TextItem | TextMarkedContent)[] = []
  const reader = page.streamTextContent({ includeMarkedContent }).getReader()
  for (;;) {
    const { value, done } = await reader.read() as { value?: { items: (TextItem | TextMarkedContent)[] }, done: boolean }
    if (done) return items
    items.push(...value!.items)
    guard.check(value!.items.length)
  }
}

/** Letters set apart by a little, in a row too long for one word: the library puts a space behind each, so that those between words are lost. */
function isLongRow(item: TextItem | TextMarkedContent): item is TextItem {
  return 'str' in item && item.str.length > 2 * longestSpacedWord && isSpaced(item.str)
}

const longestSpacedWord = 8

/** A character as the page draws it. */
interface Glyph {
  readonly unicode?: string
  readonly isSpace?: boolean
}

/** All characters of a page in the order in which it draws them, with the spaces that it draws. */
async function drawnText(page: PDFPageProxy): Promise<string> {
  const { OPS } = await library()
  const { fnArray, argsArray } = await page.getOperatorList() as { fnArray: number[], argsArray: readonly unknown[][] }
  return fnArray.map((operator, index) => {
    if (operator !== OPS.showText) return ''
    return (argsArray[index]![0] as readonly (Glyph | number)[]).map(glyph => typeof glyph === 'number' ? '' : glyph.isSpace === true ? ' ' : glyph.unicode ?? '').join('')
  }).join('')
}

/** The same items, the long rows of letters with the spaces that stand between their words on the page. */
function respaced(items: readonly (TextItem | TextMarkedContent)[], drawn: string): (TextItem | TextMarkedContent)[] {
  const places: number[] = []
  let letters = ''
  for (const [place, sign] of [...drawn].entries()) {
    if (sign.trim() === '') continue
    letters += sign
    for (let unit = 0; unit < sign.length; unit += 1) places.push(place)
  }
  const signs = [...drawn]
  let from = 0
  return items.map(item => {
    if (!isLongRow(item)) return item
    const row = item.str.replace(/\s/gu, '')
    const at = letters.indexOf(row, from)
    if (at < 0) return item
    from = at + row.length
    const text = signs.slice(places[at], places[from - 1]! + 1).join('').replace(/\s+/gu, ' ')
    return text.includes(' ') ? { ...item, str: text } : item
  })
}

/** The pieces of a page as a reader holds it: turned so that most of its letters run from left to right. */
function upright(items: readonly (TextItem | TextMarkedContent)[]): readonly (TextItem | TextMarkedContent)[] {
  const turns = new Map<number, number>()
  for (const item of items) if ('str' in item) count(turns, quarterTurns(item.transform as number[]), item.str.trim().length)
  const turn = most(turns)?.[0] ?? 0
  if (turn === 0) return items
  const [cos, sin] = [[1, 0], [0, -1], [-1, 0], [0, 1]][turn] as [number, number]
  return items.map(item => {
    if (!('str' in item)) return item
    const [a, b, c, d, x, y] = item.transform as [number, number, number, number, number, number]
    const back = (across: number, along: number): [number, number] => [across * cos - along * sin, across * sin + along * cos]
    return { ...item, transform: [...back(a, b), ...back(c, d), ...back(x, y)] }
  })
}

/** How often a piece is turned to the left by a quarter, 0…3. */
function quarterTurns([a, b]: readonly number[]): number {
  return Math.abs(b!) > Math.abs(a!) ? b! > 0 ? 1 : 3 : a! < 0 ? 2 : 0
}

interface Sorted {
  readonly pieces: readonly Piece[]
  readonly content: ReadonlyMap<string, readonly Piece[]>
  readonly artifacts: readonly Piece[]
}

function sort(items: readonly (TextItem | TextMarkedContent)[]): Sorted {
  const pieces: Piece[] = []
  const content = new Map<string, Piece[]>()
  const artifacts: Piece[] = []
  const around: { readonly id: string | null, readonly isArtifact: boolean }[] = []
  for (const item of items) {
    if (!('str' in item)) {
      if (item.type === 'endMarkedContent') around.pop()
      else around.push({ id: item.id || null, isArtifact: (item as { tag?: string }).tag === 'Artifact' })
      continue
    }
    const [a, b, , , x, y] = item.transform as [number, number, number, number, number, number]
    // Text that does not run from left to right along the line is decoration of the page.
    if (Math.abs(b) > Math.abs(a)) continue
    const piece: Piece = { text: item.str, x, y, width: item.width, size: item.height || Math.abs(a) }
    pieces.push(piece)
    const id = around.findLast(each => each.id !== null)?.id ?? null
    if (around.some(each => each.isArtifact)) artifacts.push(piece)
    else if (id !== null) addTo(content, id, piece)
  }
  return { pieces, content, artifacts }
}
