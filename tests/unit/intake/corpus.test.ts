import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { basename, dirname, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { gunzipSync } from 'node:zlib'
import { diff } from 'fast-myers-diff'
import { parseHTML } from 'linkedom'
import type { Manuscript } from '#core/manuscript/manuscript'
import { chaptersOfTheBook, markdownOf } from '../../../bench/book'
import { openArchive } from '../../../intake/archive'
import { bring, dropped, labels, passages, proposed, words } from '../../support/intake'
import { temporaryFolder } from '../../support/paths'

// Documents that nobody here wrote, and the same long book in every format, against independent readers.

const folder = temporaryFolder()
const packages = (name: string): string => dirname(createRequire(import.meta.url).resolve(`${name}/package.json`))
const pandoc = (...parameters: string[]): string => execFileSync('pandoc', parameters, { maxBuffer: 1e9 }).toString('utf8')
const unpacked = (path: string): Buffer => path.endsWith('.gz') ? gunzipSync(readFileSync(path)) : readFileSync(path)

/** Words of a manuscript, kept and dropped, in the order of the file. */
function allWords({ blocks }: Manuscript): string[] {
  return blocks.flatMap(({ text, cuts = [] }) => {
    let whole = ''
    let from = 0
    for (const cut of cuts) {
      whole += `${text.slice(from, cut.at)} ${cut.text} `
      from = cut.at
    }
    return words(whole + text.slice(from))
  })
}

/** Words of the reference that are in a longest common subsequence with ours. */
function common(reference: readonly string[], ours: readonly string[]): number {
  let missing = 0
  for (const [startA, endA] of diff(reference, ours)) missing += endA - startA
  return reference.length - missing
}

describe('e-books of other people', () => {
  const developers = '/usr/share/developers-reference/developers-reference.epub'
  const policy = '/usr/share/doc/debian-policy/policy.epub'

  test('every word that pandoc finds is kept or dropped, in its order: 99.5 % over more than 20,000 words', async () => {
    let [all, found] = [0, 0]
    for (const path of [developers, policy]) {
      const reference = words(pandoc('-f', 'epub', '-t', 'plain', '--wrap=none', path))
      const ours = allWords(await bring(basename(path), readFileSync(path)))
      all += reference.length
      found += common(reference, ours)
    }
    expect(all).toBeGreaterThan(20_000)
    expect(found / all).toBeGreaterThanOrEqual(0.995)
  }, 120_000)

  // Read off the book with another program: its chapters, first and last words.
  test('the chapters of a reference book, with its index left out', async () => {
    const { parts } = proposed(await bring('d.epub', readFileSync(developers)))
    expect(parts.map(part => [part.label, part.included])).toEqual([
      ['1. Scope of This Document', true], ['2. Applying to Become a Member', true], ['3. Debian Developer\'s Duties', true], ['4. Resources for Debian Members', true],
      ['5. Managing Packages', true], ['6. Best Packaging Practices', true], ['7. Beyond Packaging', true], ['8. Internationalization and Translations', true],
      ['1. Overview of Debian Maintainer Tools', true], ['Index', false],
    ])
    expect(parts[0]!.passages[1]!.text).toMatch(/^The purpose of this document is to provide an overview/u)
  })

  // The packages' own tool writes addresses with fragments into the reading order, which pandoc refuses; the texts of the documents themselves are the reference here.
  test.each(['ca', 'de', 'en', 'es', 'fr', 'it', 'ja', 'pl', 'pt_BR', 'ro'])('a manual in ten languages (EPUB 2): %s', async language => {
    const bytes = readFileSync(`/usr/share/doc/live-manual/epub/live-manual.${language}.epub`)
    const book = await bring('m.epub', bytes)
    expect(book.language.split('-')[0]).toBe(language.split('_')[0])
    const archive = await openArchive(bytes, 'm.epub')
    const names = archive.names.filter(name => name.endsWith('.xhtml'))
    const reference = new Map<string, number>()
    for (const name of names) {
      const { document } = parseHTML((await archive.bytes(name))!.toString('utf8').replace(/<(\w+)((?:\s[^<>]*)?)\/>/gu, '<$1$2></$1>'))
      for (const word of words(document.body.textContent ?? '')) reference.set(word, (reference.get(word) ?? 0) + 1)
    }
    for (const word of allWords(book)) reference.set(word, (reference.get(word) ?? 0) - 1)
    const missing = [...reference.values()].filter(count => count > 0).reduce((sum, count) => sum + count, 0)
    expect(missing / [...allWords(book)].length).toBeLessThan(0.005)
  }, 60_000)
})

describe('PDFs of other people', () => {
  test.each([
    ['developers-reference', '/usr/share/developers-reference/developers-reference.pdf', 10, 'Scope of This Document', 'running-head'],
    ['debian-faq', '/usr/share/doc/debian/FAQ/debian-faq.en.pdf.gz', 18, 'Definitions and overview', 'page-number'],
  ])('%s: the words of pdftotext, and the chapters of its outline', async (name, path, parts, second, furniture) => {
    const bytes = unpacked(path)
    const file = join(folder(), `${name}.pdf`)
    writeFileSync(file, bytes)
    const pdf = await bring(`${name}.pdf`, bytes)
    const reference = words(execFileSync('pdftotext', [file, '-'], { maxBuffer: 1e9 }).toString('utf8'))
    const ours = allWords(pdf)
    // The other program sets page numbers and heads elsewhere: what is compared is which words there are.
    expect(common([...reference].sort(), [...ours].sort()) / reference.length).toBeGreaterThanOrEqual(0.99)
    expect(labels(pdf)).toHaveLength(parts)
    expect(labels(pdf)[1]).toBe(second)
    expect(dropped(pdf)[furniture]).toBeGreaterThan(60)
  }, 120_000)

  test('a tagged one is read by its structure: headings, numbers, tables, quotations', async () => {
    const [markdown, document] = [join(folder(), 'tagged.md'), join(folder(), 'tagged.odt')]
    writeFileSync(markdown, '# One\n\nThe bees come home at dusk.\n\n1. Lift the roof.\n2. Look.\n\n| Month | Work |\n|---|---|\n| March | look |\n\n## Inside\n\n- dot\n\n# Two\n\nRain.\n')
    pandoc(markdown, '-o', document)
    execFileSync('soffice', ['--headless', `-env:UserInstallation=${pathToFileURL(join(folder(), 'office')).href}`, '--convert-to',
      'pdf:writer_pdf_Export:{"UseTaggedPDF":{"type":"boolean","value":"true"}}', '--outdir', folder(), document], { stdio: 'ignore', timeout: 120_000 })
    const pdf = await bring('tagged.pdf', readFileSync(join(folder(), 'tagged.pdf')))
    expect(passages(pdf)).toEqual(['One', 'The bees come home at dusk.', '1. Lift the roof.', '2. Look.', 'Month, Work', 'March, look', 'Inside', 'dot', 'Two', 'Rain.'])
    expect(proposed(pdf).parts.map(part => part.passages.map(passage => passage.kind))).toEqual([
      ['title', 'paragraph', 'listItem', 'listItem', 'tableRow', 'tableRow', 'heading', 'listItem'], ['title', 'paragraph'],
    ])
    expect(dropped(pdf)).toEqual({ 'page-number': 1 })
  }, 120_000)

  test('one without any text says that its pages are pictures', async () => {
    const pdf = '%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj 2 0 obj<</Type/Pages/Kids[3 0 R]/Count 1>>endobj 3 0 obj<</Type/Page/Parent 2 0 R/MediaBox[0 0 99 99]>>endobj trailer<</Root 1 0 R>>'
    await expect(bring('scan.pdf', pdf)).rejects.toMatchObject({ problem: { code: 'pdf-no-text', message: expect.stringMatching(/1 page, but no text.*recognised/u) } })
  })

  test('an invalid one is refused, one in two columns is read column by column', async () => {
    const data = join(packages('pdf-parse'), 'test/data')
    await expect(bring('03-invalid.pdf', readFileSync(join(data, '03-invalid.pdf')))).rejects.toMatchObject({ problem: { code: 'pdf-broken' } })
    const paper = await bring('01-valid.pdf', readFileSync(join(data, '01-valid.pdf')))
    expect(labels(paper)).toEqual(expect.arrayContaining(['Abstract', '1. Introduction', '9. Conclusions', 'References']))
    expect(passages(paper).find(text => text.startsWith('Dynamic languages such as'))).toMatch(/traditional compilers need to emit generic code that can handle all possible type combinations at runtime/u)
  }, 60_000)
})

describe('a deck of other people', () => {
  test('its slides by label, and that they have no notes', async () => {
    const deck = await bring('test.pptx', readFileSync(join(packages('pptx2json'), 'fixtures/test.pptx')))
    expect(labels(deck)).toEqual(['パワポ・テスト 難しい髙', 'フォント メイリオ', 'ありがとう ございました'])
    expect(deck.problems).toMatchObject([{ code: 'slides-without-notes', place: 'slide 1, 2, 3' }])
  })
})

describe('the long book, made by other programs into every format', () => {
  const book: Record<string, { labels: string[], words: string[] }> = {}
  let markdown = ''

  beforeAll(async () => {
    const path = (ending: string): string => join(folder(), `book.${ending}`)
    mkdirSync(folder(), { recursive: true })
    markdown = markdownOf('The Long Book', chaptersOfTheBook())
    writeFileSync(path('md'), markdown)
    for (const ending of ['docx', 'odt', 'epub']) pandoc('-f', 'markdown-smart', '--metadata', 'title=The Long Book', path('md'), '-o', path(ending))
    execFileSync('soffice', ['--headless', `-env:UserInstallation=${pathToFileURL(join(folder(), 'office')).href}`, '--convert-to', 'pdf', '--outdir', folder(), path('odt')], { stdio: 'ignore', timeout: 120_000 })
    for (const ending of ['md', 'docx', 'odt', 'epub', 'pdf']) {
      const manuscript = await bring(`book.${ending}`, readFileSync(path(ending)))
      book[ending] = { labels: labels(manuscript), words: words(passages(manuscript).join(' ')) }
    }
  }, 240_000)

  test('has the chapters and words that went into it', () => {
    const chapters = chaptersOfTheBook()
    expect(book['md']!.labels).toEqual(chapters.map(chapter => chapter.title))
    expect(book['md']!.words).toEqual(chapters.flatMap(chapter => words([chapter.title, ...chapter.paragraphs].join(' '))))
  })

  test.each([['docx', 0.002], ['odt', 0.002], ['epub', 0.002], ['pdf', 0.01]])('%s: the same chapters, and words within %d', (ending, most) => {
    const { words: reference, labels: chapters } = book['md']!
    expect(book[ending]!.labels).toEqual(chapters)
    const found = common(reference, book[ending]!.words)
    expect(1 - found / reference.length).toBeLessThanOrEqual(most)
    expect(Math.abs(book[ending]!.words.length - reference.length) / reference.length).toBeLessThanOrEqual(most)
  })
})
