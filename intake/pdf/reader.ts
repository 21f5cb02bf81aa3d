import type { PDFDocumentProxy } from 'pdfjs-dist/types/src/display/api'
import { countWords, type Block } from '#core/manuscript/manuscript'
import { fail, ProblemError, type Problem } from '#core/problem'
import { maximumCharacters, type Reader, type ReadOptions, type Reading, type SourceFile } from '../reader'
import { bare, collapse } from '../text-builder'
import { checkGrowth, checkPages, PageGuard } from './limits'
import { leastPagesForThreads, readPagesInThreads } from './page-threads'
import { openPdf, readPage, type PageText } from './pages'
import { blocksFromLines, type OutlineEntry } from './paragraphs'
import { blocksFromTags, type TaggedPage } from './tagged'

/** PDF (ISO 32000): by its structure tree where it has one, else by place and size of its lines. */
export const pdfReader: Reader = {
  format: 'pdf',
  label: 'a PDF',
  extensions: ['.pdf'],
  version: 3,
  accepts: ({ bytes }) => bytes.subarray(0, 1024).includes('%PDF-'),
  read: async (file, options) => {
    checkGrowth(file.bytes, file.name)
    const pdf = await openPdf(file.bytes, file.name)
    try {
      checkPages(pdf.numPages, file.name)
      const reading = await readFile(pdf, file, options)
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

async function readFile(pdf: PDFDocumentProxy, file: SourceFile, options: ReadOptions): Promise<Reading> {
  const labels = await pdf.getPageLabels().catch(() => null) ?? []
  const labelOf = (index: number): string => labels[index] ?? String(index + 1)
  const pages = await readPages(pdf, file, options)
  const all = pages.reduce((sum, { words }) => sum + words, 0)
  if (all === 0) fail('pdf-no-text', `${file.name} has ${pdf.numPages} ${pdf.numPages === 1 ? 'page' : 'pages'}, but no text: the pages are pictures. Have their text recognised in a scanning program, and bring that.`)
  const { info } = await pdf.getMetadata().catch(() => ({ info: {} as Record<string, unknown> }))
  const field = (key: string): string | null => {
    const value = (info as Record<string, unknown>)[key]
    return typeof value === 'string' && collapse(value) !== '' ? collapse(value) : null
  }
  const title = field('Title')
  return {
    title: title === null || /\.(?:docx?|odt|indd|qxd|tex|dvi|pdf)$|^untitled/iu.test(title) ? null : title, author: field('Author'), language: field('Language'),
    blocks: titled(structured(pages, labelOf, all) ?? blocksFromLines(pages.map(({ lines }) => lines), labelOf, await outlineOf(pdf)), title),
    problems: silentPages(pages.flatMap(({ words }, index) => words === 0 ? [labelOf(index)] : [])),
  }
}

/** All pages in their order. */
async function readPages(pdf: PDFDocumentProxy, { name, bytes }: SourceFile, { onProgress, threadProgram }: ReadOptions): Promise<PageText[]> {
  const isMarked = (await pdf.getMarkInfo().catch(() => null))?.Marked === true
  const pages: PageText[] = []
  let [characters, read] = [0, 0]
  const take = (index: number, page: PageText): void => {
    pages[index] = page
    characters += page.characters
    read += 1
    if (characters > maximumCharacters * 2) fail('text-too-long', `${name} has more than ${maximumCharacters.toLocaleString('en')} characters of text on ${read} of its pages; that is too much for one production. Divide it into volumes.`)
    onProgress?.(read / pdf.numPages)
  }
  if (threadProgram !== undefined && pdf.numPages >= leastPagesForThreads) {
    await readPagesInThreads(threadProgram, { name, bytes }, pdf.numPages, isMarked, take)
  } else {
    const guard = new PageGuard(name, bytes.length)
    for (let index = 0; index < pdf.numPages; index += 1) take(index, await readPage(pdf, index, isMarked, guard))
  }
  return pages
}

/** A line that opens the text with the file's own title is a title, however it is set. */
function titled(blocks: readonly Block[], title: string | null): readonly Block[] {
  const at = blocks.findIndex(block => block.dropped === undefined)
  const first = blocks[at]
  if (title === null || first === undefined || bare(first.text) !== bare(title) || !blocks.some((block, index) => index > at && block.level !== undefined)) return blocks
  return blocks.with(at, { ...first, kind: 'heading', level: 0, titlePage: true })
}

/** The blocks by the structure tree; null where it is not to be trusted: tags that leave out much of the text, or name no heading. */
function structured(pages: readonly PageText[], labelOf: (index: number) => string, words: number): Block[] | null {
  const tagged = pages.flatMap(({ tagged: tags, lines }, index): TaggedPage[] => tags === null ? [] : [{ ...tags, lines, index, label: labelOf(index) }])
  if (tagged.length < pages.length) return null
  const blocks = blocksFromTags(tagged)
  const found = blocks.reduce((sum, block) => sum + countWords(block.text), 0)
  return found >= words * 0.9 && blocks.some(block => block.level !== undefined) ? blocks : null
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
