import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { execFileSync } from 'node:child_process'
import { pathToFileURL } from 'node:url'
import { bring, dropped, labels, passages } from '../../support/intake'
import { temporaryFolder } from '../../support/paths'
import { assemble, pdfOf } from '../../support/pdf'

const folder = temporaryFolder()

/** A line at a height, in a size; the text may hold PDF operators of its own. */
const line = (text: string, y: number, { size = 11, x = 60 } = {}): string => `BT /F ${size} Tf ${x} ${y} Td (${text.replace(/[\\()]/gu, '\\$&')}) Tj ET`
const sentences = [
  ['On the first day the keeper walked up the hill to see what the', 'wind had left of the hives, and wrote it down.'],
  ['Frames of lime are lighter than any others, and it takes a whole', 'winter to make as many of them as a meadow needs.'],
  ['Nobody knows why they swarm in May and not before, when flowers', 'are as many and the nights as mild as they can be.'],
  ['Wax is what the youngest of them sweat, in plates so thin that', 'a breath of wind carries them out of the door.'],
  ['In the end it rained, and every jar was full, and all slept till', 'somebody knocked at the gate with a spoon.'],
] as const
/** A page of text that no other page repeats. */
const body = (page: number, y = 700): string => sentences[page]!.map((text, index) => line(text, y - index * 14)).join(' ')

describe('feet and heads of pages are no text, in all their forms', () => {
  test.each([
    ['Page 3 of 16', (page: number) => `Page ${page} of 5`, 'page-number'],
    ['- 3 -', (page: number) => `- ${page} -`, 'page-number'],
    ['Seite 3 von 16 – Entwurf', (page: number) => `Seite ${page} von 5 - Entwurf`, 'running-head'],
    ['an address with 3/31', (page: number) => `file:///home/hive/diary.html ${page}/5`, 'running-head'],
    ['Title 107 / 243', (page: number) => `The Quiet Meadow ${106 + page} / 243`, 'running-head'],
    ['a title that changes, with 107 / 243', (page: number) => `${['Frames', 'Combs', 'Brood', 'Honey', 'Wax'][page - 1]} ${106 + page} / 243`, 'running-head'],
    ['sida 3 av 5', (page: number) => `sida ${page} av 5`, 'page-number'],
    ['3/5', (page: number) => `${page}/5`, 'page-number'],
  ] as const)('%s', async (_, foot, kind) => {
    const found = await bring('a.pdf', pdfOf([0, 1, 2, 3, 4].map(page => ({ draws: `${body(page)} ${line(foot(page + 1), 40, { size: 9, x: 250 })}` }))), { language: 'en' })
    expect(dropped(found)).toEqual({ [kind]: 5 })
    expect(passages(found).join(' ')).not.toMatch(/\d/u)
  })

  test.each(['Page 1 of 2', 'Seite 1 von 2', '1 / 2'])('%s on two pages', async foot => {
    const found = await bring('a.pdf', pdfOf([0, 1].map(page => ({ draws: `${body(page)} ${line(foot.replace('1', String(page + 1)), 40)}` }))), { language: 'en' })
    expect(dropped(found)).toEqual({ 'page-number': 2 })
  })

  test('a number that counts something else stays, and a sentence about a page', async () => {
    const found = await bring('a.pdf', pdfOf([{ draws: `${line('Page 1 shows the hive in May.', 740)} ${body(0)}` }, { draws: `${body(1)} ${line('1/3 cup of honey is enough.', 40)}` }]), { language: 'en' })
    expect(dropped(found)).toEqual({})
  })
})

describe('footnotes at the foot of a page are notes', () => {
  const raisedMark = (text: string, mark: string, rest: string, y: number): string => `BT /F 11 Tf 60 ${y} Td (${text}) Tj /F 7 Tf 4 Ts (${mark}) Tj 0 Ts /F 11 Tf (${rest}) Tj ET`
  const note = (mark: string, text: string, y: number): string => `BT /F 6 Tf 60 ${y} Td 3 Ts (${mark}) Tj 0 Ts /F 8 Tf ( ${text}) Tj ET`

  test('with their marks, over two pages, and powers stay powers', async () => {
    const found = await bring('a.pdf', pdfOf([
      { draws: `${raisedMark('The bees came home.', '1', ' They count 10', 700)} ${raisedMark('or so, or 5 m', '2', ' of them, which nobody', 686)} ${line('minded at all.', 672)} ${note('1', 'Late, as the diary', 60)}` },
      { draws: `${line('Then it rained.', 700)} ${line('says on its first page.', 60, { size: 8 })}` },
    ]), { language: 'en' })
    expect(passages(found)).toEqual(['The bees came home. They count 10 or so, or 5 m² of them, which nobody minded at all.', 'Then it rained.'])
    expect(passages(found, { footnotes: 'in-place' })).toContain('Late, as the diary says on its first page.')
    expect(dropped(found)).toEqual({ 'footnote-mark': 1, 'footnote': 1 })
  })

  test.each(['true', 'false'])('as a word processor writes them, tagged: %s', async tagged => {
    const document = join(folder(), `notes-${tagged}.md`)
    const text = ['---', 'title: The Quiet Meadow', 'lang: en-GB', '---', '', '# One', '', 'They fly at dawn.[^a] About 10^8^ cells, 5 m^2^ and CO~2~ on the 1^st^ day.', '', '[^a]: Or before.', '', '# Two', '', 'It rained.[^b]', '', '[^b]: A week.', '', '    And more.'].join('\n')
    execFileSync('pandoc', ['-o', document.replace('.md', '.docx'), '-f', 'markdown'], { input: text })
    execFileSync('soffice', ['--headless', `-env:UserInstallation=${pathToFileURL(join(folder(), 'office')).href}`, '--convert-to',
      `pdf:writer_pdf_Export:{"UseTaggedPDF":{"type":"boolean","value":"${tagged}"}}`, '--outdir', folder(), document.replace('.md', '.docx')], { stdio: 'ignore', timeout: 120_000 })
    const found = await bring('a.pdf', readFileSync(document.replace('.md', '.pdf')))
    expect(labels(found)).toEqual(['One', 'Two'])
    expect(passages(found)).toEqual(['One', 'They fly at dawn. About 10⁸ cells, 5 m² and CO₂ on the 1st day.', 'Two', 'It rained.'])
    expect(passages(found, { footnotes: 'in-place' }).join(' ')).toBe('One They fly at dawn. About 10⁸ cells, 5 m² and CO₂ on the 1st day. Or before. Two It rained. A week. And more.')
  }, 180_000)
})

test('a short title of a chapter right above its first section keeps its level', async () => {
  const page = (title: string, section: string, number: number): string => `${line(title, 740, { size: 14 })} ${line(section, 714, { size: 12.5 })} ${body(number, 680)}`
  const headings = [['2 Frames', '2.1 Of wood', 0], ['3 Brood', '3.1 In May', 1], ['4 Honey', '4.1 In the jar', 2]] as const
  const outline = headings.flatMap(([title, section, number]) => [{ title, page: number, level: 1 }, { title: section, page: number, level: 2 }])
  const found = await bring('a.pdf', pdfOf(headings.map(([title, section, number]) => ({ draws: page(title, section, number) })), { outline }), { language: 'en' })
  expect(labels(found)).toEqual(['2 Frames', '3 Brood', '4 Honey'])
})

describe('letters that are set apart are words', () => {
  test.each([
    ['by a distance of characters', 'BT /F 11 Tf 60 740 Td 4 Tc (CHAPTER ONE) Tj ET', 'CHAPTER ONE'],
    ['by spaces', 'BT /F 11 Tf 60 740 Td (T h e   F i r s t   H i v e) Tj ET', 'The First Hive'],
    ['so little that the spaces between words are lost', 'BT /F 11 Tf 60 740 Td 1.5 Tc (The keeper walked up the hill) Tj ET', 'The keeper walked up the hill'],
  ])('%s', async (_, draws, text) => {
    const found = await bring('a.pdf', pdfOf([{ draws: `${draws} ${body(0)}` }]), { language: 'en' })
    expect(passages(found)[0]).toBe(text)
  })
})

test('a drop cap begins its word', async () => {
  const draws = `BT /F 36 Tf 60 672 Td (T) Tj ET ${line('he keeper walked up the hill to see what the wind', 700, { x: 84 })} ${line('had left of the hives and wrote it down, every day', 686, { x: 84 })} ${line('of that year, whatever the weather was like there.', 672, { x: 84 })}`
  expect(passages(await bring('a.pdf', pdfOf([{ draws }]), { language: 'en' }))[0]).toMatch(/^The keeper walked/u)
})

test('200,000 pages without text are refused at once, whatever their tree says of their number', async () => {
  const kids = Array.from({ length: 200_000 }, (_, index) => `${index + 3} 0 R`).join(' ')
  const file = assemble([`<< /Type /Catalog /Pages 2 0 R >>`, `<< /Type /Pages /Count 4000 /Kids [${kids}] >>`, ...Array.from({ length: 200_000 }, () => '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9 9] >>')].map(object => Buffer.from(object)))
  await expect(bring('a.pdf', file)).rejects.toMatchObject({ problem: { code: 'pdf-too-many-pages', message: expect.stringContaining('200,000 pages') as string } })
})

