import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import type { DocumentInitParameters, PDFDocumentProxy, PDFPageProxy, TextItem, TextMarkedContent } from 'pdfjs-dist/types/src/display/api'
import { countWords } from '#core/manuscript/manuscript'
import { fail, ProblemError, type Problem } from '#core/problem'
import { addTo, count, most } from '#core/tally'
import { maximumCharacters, type Reader, type Reading, type SourceFile } from '../reader'
import { collapse } from '../text-builder'
import { linesOf, type Line, type Piece } from './lines'
import { checkGrowth, checkPages, PageGuard } from './limits'
import { blocksFromLines, type OutlineEntry } from './paragraphs'
import { blocksFromTags, type StructureNode, type TaggedPage } from './tagged'

/** PDF (ISO 32000): by its structure tree where it has one, else by place and size of its lines. */
export const pdfReader: Reader = {
  format: 'pdf',
  label: 'a PDF',
  extensions: ['.pdf'],
  version: 2,
  accepts: ({ bytes }) => bytes.subarray(0, 1024).includes('%PDF-'),
  read: async (file, { onProgress }) => {
    checkGrowth(file.bytes, file.name)
    const pdf = await open(file)
    try {
      checkPages(pdf.numPages, file.name)
      const reading = await readPages(pdf, file, onProgress)
      await pdf.destroy()
      return reading
    } catch (error) {
      // Not waited for: a page that was given up is never done.
      void pdf.destroy().catch(() => undefined)
      if (error instanceof ProblemError) throw error
      return fail('pdf-broken', 'The PDF is damaged: a page of it could not be read. Make the PDF again.', file.name)
    }
  },
}

async function open({ bytes, name }: SourceFile): Promise<PDFDocumentProxy> {
  const { getDocument } = await import('pdfjs-dist/legacy/build/pdf.mjs')
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

async function readPages(pdf: PDFDocumentProxy, { name, bytes }: SourceFile, onProgress: ((share: number) => void) | undefined): Promise<Reading> {
  const labels = await pdf.getPageLabels().catch(() => null) ?? []
  const marked = (await pdf.getMarkInfo().catch(() => null))?.Marked === true
  const pages: Line[][] = []
  const tagged: TaggedPage[] = []
  const silent: string[] = []
  const guard = new PageGuard(name, bytes.length)
  let all = 0
  let characters = 0
  for (let index = 0; index < pdf.numPages; index += 1) {
    const { page, items } = await guard.during(index + 1, async () => {
      const opened = await pdf.getPage(index + 1)
      return { page: opened, items: await itemsOf(opened, guard) }
    }, ({ items: found }) => found.length > 0)
    const { pieces, content, artifacts } = sort(upright(items))
    characters += pieces.reduce((sum, { text }) => sum + text.length, 0)
    if (characters > maximumCharacters * 2) fail('text-too-long', `${name} has more than ${maximumCharacters.toLocaleString('en')} characters of text by page ${index + 1}; that is too much for one production. Divide it into volumes.`)
    const words = pieces.reduce((sum, { text }) => sum + countWords(text), 0)
    if (words === 0) silent.push(labels[index] ?? String(index + 1))
    all += words
    pages.push(linesOf(pieces, index))
    const tree = marked ? await page.getStructTree().catch(() => null) : null
    if (tree !== null) tagged.push({ index, label: labels[index] ?? String(index + 1), tree: tree as StructureNode, content, artifacts })
    page.cleanup()
    onProgress?.((index + 1) / pdf.numPages)
  }
  if (all === 0) fail('pdf-no-text', `${name} has ${pdf.numPages} ${pdf.numPages === 1 ? 'page' : 'pages'}, but no text: the pages are pictures. Have their text recognised in a scanning program, and bring that.`)
  const byTags = tagged.length === pdf.numPages ? blocksFromTags(tagged) : []
  const taggedWords = byTags.reduce((sum, block) => sum + countWords(block.text), 0)
  // Tags that leave out much of the text are not to be trusted.
  const blocks = taggedWords >= all * 0.9 && byTags.some(block => block.level !== undefined) ? byTags : blocksFromLines(pages, labels, await outlineOf(pdf))
  const { info } = await pdf.getMetadata().catch(() => ({ info: {} as Record<string, unknown> }))
  const field = (key: string): string | null => {
    const value = (info as Record<string, unknown>)[key]
    return typeof value === 'string' && collapse(value) !== '' ? collapse(value) : null
  }
  const title = field('Title')
  return { title: title === null || /\.(?:docx?|odt|indd|qxd|tex|dvi|pdf)$|^untitled/iu.test(title) ? null : title, author: field('Author'), language: field('Language'), blocks, problems: silentPages(silent) }
}

/** What stands on a page, piece by piece, so that a page without end is given up on the way. */
async function itemsOf(page: PDFPageProxy, guard: PageGuard): Promise<(TextItem | TextMarkedContent)[]> {
  const items: (TextItem | TextMarkedContent)[] = []
  const reader = page.streamTextContent({ includeMarkedContent: true }).getReader()
  for (;;) {
    const { value, done } = await reader.read() as { value?: { items: (TextItem | TextMarkedContent)[] }, done: boolean }
    if (done) return items
    items.push(...value!.items)
    guard.check(value!.items.length)
  }
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

/** Pages shown in a list of pages without text. */
const listedPages = 40

function silentPages(pages: readonly string[]): Problem[] {
  if (pages.length === 0) return []
  const [first] = pages
  const list = `${pages.slice(0, listedPages).join(', ')}${pages.length > listedPages ? ` and ${pages.length - listedPages} more` : ''}`
  return [{
    code: 'pdf-page-silent',
    message: pages.length === 1 ? `Page ${first} gives no text: it is empty or a picture. If something is to be read there, have its text recognised in a scanning program.`
      : `${pages.length} pages give no text: ${list}. They are empty or pictures. If something is to be read there, have their text recognised in a scanning program.`,
    place: `page ${first}`,
  }]
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

interface OutlineNode {
  readonly title: string
  readonly dest: string | unknown[] | null
  readonly items: readonly OutlineNode[]
}

/** Most entries of an outline that are followed. */
const mostEntries = 5000

async function outlineOf(pdf: PDFDocumentProxy): Promise<OutlineEntry[]> {
  const entries: OutlineEntry[] = []
  const walk = async (nodes: readonly OutlineNode[], level: number): Promise<void> => {
    for (const { title, dest, items } of nodes) {
      if (entries.length >= mostEntries) return
      const page = await pageOf(pdf, dest)
      if (page !== null) entries.push({ label: collapse(title), level, page })
      await walk(items, Math.min(9, level + 1))
    }
  }
  await walk(await pdf.getOutline().catch(() => null) as readonly OutlineNode[] | null ?? [], 1)
  return entries
}

async function pageOf(pdf: PDFDocumentProxy, dest: string | unknown[] | null): Promise<number | null> {
  try {
    const target = typeof dest === 'string' ? await pdf.getDestination(dest) : dest
    const [page] = target ?? []
    if (typeof page === 'number') return page
    return page === undefined ? null : await pdf.getPageIndex(page as Parameters<PDFDocumentProxy['getPageIndex']>[0])
  } catch {
    return null
  }
}
