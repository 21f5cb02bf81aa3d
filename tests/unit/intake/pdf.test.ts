import { fork } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Manuscript } from '#core/manuscript/manuscript'
import type { ReaderAnswer, ReaderMessage } from '../../../intake/reader-child'
import { bring, passages } from '../../support/intake'
import { programs, temporaryFolder } from '../../support/paths'
import { assemble, linesOfText, pdfOf, turnedLines } from '../../support/pdf'

const folder = temporaryFolder()
const program = join(programs, 'reader-child.mjs')
const text = ['The bees came home late in the evening, and nobody', 'saw them go in.']
const whole = 'The bees came home late in the evening, and nobody saw them go in.'

/** The bounds that users are promised, on a machine of two cores. */
const mostPromisedMb = 500
const longestPromisedMs = 20_000

/** A file through the guarded reader, with the most memory that its process had. One that takes longer than is promised is ended, and gives no answer. */
function watched(path: string): Promise<{ readonly answer: ReaderAnswer, readonly mostMb: number }> {
  return new Promise((resolve, reject) => {
    const child = fork(program, { execArgv: ['--max-old-space-size=1024'], serialization: 'advanced', timeout: longestPromisedMs, killSignal: 'SIGKILL' })
    let mostMb = 0
    const look = (): void => { mostMb = Math.max(mostMb, Number(/VmHWM:\s+(\d+)/u.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'))?.[1] ?? 0) / 1024) }
    const timer = setInterval(look, 50)
    child.on('message', (message: ReaderMessage) => {
      if ('progress' in message) return
      look()
      clearInterval(timer)
      resolve({ answer: message, mostMb })
    })
    child.once('disconnect', () => {
      clearInterval(timer)
      reject(new Error('The reader ended without an answer.'))
    })
    child.send({ path, name: 'large.pdf', options: {} })
  })
}

describe('pages that are turned', () => {
  test.each([
    ['by 90 degrees', 90, turnedLines(text)],
    ['by 270 degrees', 270, `1 0 0 1 600 800 cm ${turnedLines(text).replace('0 1 -1 0 60 60', '0 -1 1 0 -540 -60')}`],
    ['by 180 degrees', 180, `-1 0 0 -1 600 800 cm ${linesOfText(text)}`],
    ['on the page only', 0, turnedLines(text)],
  ])('%s keep their text, in order', async (_, rotate, draws) => {
    const found = await bring('a.pdf', pdfOf([{ draws, rotate }]), { language: 'en' })
    expect(passages(found)).toEqual([whole])
    expect(found.problems).toEqual([])
  })

  test('among upright ones, too; what runs up the margin stays decoration', async () => {
    const found = await bring('a.pdf', pdfOf([{ draws: `${linesOfText(text)} BT /F 8 Tf 0 1 -1 0 30 60 Tm (margin) Tj ET` }, { draws: turnedLines(['Then it rained.']), rotate: 90 }]), { language: 'en' })
    expect(passages(found)).toEqual([whole, 'Then it rained.'])
  })
})

test('pages that give nothing are named', async () => {
  const found = await bring('a.pdf', pdfOf([{ draws: linesOfText(text) }, { draws: '' }, { draws: '0 0 10 10 re f' }, { draws: linesOfText(['Then it rained.']) }, { draws: '' }]), { language: 'en' })
  expect(found.problems).toEqual([expect.objectContaining({ code: 'pdf-page-silent', message: expect.stringContaining('3 pages give no text: 2, 3, 5.') as string, place: 'page 2' })])
})

test('the pages of a long file are read by threads, to the same blocks', async () => {
  const file = pdfOf(Array.from({ length: 130 }, (_, page) => ({ draws: linesOfText([`On day ${page * 7} the keeper wrote ${page * 13} lines, and`, `nobody read more than ${page * 3} of them.`]) })))
  const path = join(folder(), 'long.pdf')
  await writeFile(path, file)
  const { answer } = await watched(path)
  const manuscript = JSON.parse(('manuscript' in answer ? Buffer.from(answer.manuscript) : Buffer.from('null')).toString('utf8')) as Manuscript
  expect(manuscript.blocks).toEqual((await bring('large.pdf', file)).blocks)
  expect(manuscript.blocks).toHaveLength(130)
}, 60_000)

describe('files that grow without end are given up within 20 s and 500 MB, with what to do', () => {
  const line = '(The bees came home.) Tj T* '
  const manyPages = (count: number, contents: string, extra: readonly string[] = []): Buffer => assemble([
    '<< /Type /Catalog /Pages 2 0 R >>', `<< /Type /Pages /Count ${count} /Kids [${'4 0 R '.repeat(count)}] >>`, '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
    `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Resources << /Font << /F 3 0 R >> /XObject << /X 6 0 R >> >> /Contents ${contents} >>`, ...extra,
  ].map(object => Buffer.from(object, 'latin1')))
  const stream = (draws: string, dictionary = ''): string => `<< /Length ${draws.length} ${dictionary} >>\nstream\n${draws}\nendstream`
  const form = (draws: string, inner: number): string => stream(draws, `/Type /XObject /Subtype /Form /BBox [0 0 600 800] /Resources << /Font << /F 3 0 R >> /XObject << /X ${inner} 0 R >> >>`)

  test.each([
    ['a drawing of 300 MB in 300 KB', () => pdfOf([{ draws: `BT /F 11 Tf ${line.repeat(10_000_000)} ET` }], { deflated: true }), 'pdf-grows'],
    ['200,000 pages that are one', () => manyPages(200_000, '5 0 R', [stream('')]), 'pdf-too-many-pages'],
    ['one drawing a hundred thousand times on a page', () => manyPages(1, `[${'5 0 R '.repeat(100_000)}]`, [stream(`BT /F 11 Tf 9 TL ${line.repeat(20)} ET`)]), 'pdf-grows'],
    ['forms within forms within forms', () => manyPages(1, '5 0 R', [stream('/X Do '.repeat(100)), ...[7, 8, 9].map(inner => form('/X Do '.repeat(100), inner)), form(`BT /F 11 Tf ${line} ET`, 9)]), 'pdf-grows'],
    ['4,900 pages of much drawing and no text', () => manyPages(4_900, '5 0 R', [stream('0 0 10 10 re f '.repeat(20_000))]), 'pdf-no-text'],
  ])('%s', async (_, make, code) => {
    const path = join(folder(), 'large.pdf')
    await writeFile(path, make())
    const { answer, mostMb } = await watched(path)
    expect([answer, mostMb < mostPromisedMb]).toEqual([{ problem: expect.objectContaining({ code }) as unknown }, true])
  }, 60_000)
})
