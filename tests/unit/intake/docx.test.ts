import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import mammoth from 'mammoth'
import { docxReader } from '../../../intake/docx/reader'
import { readerFor } from '../../../intake/registry'
import { docxOf, p, zipOf } from '../../support/docx'

const read = async (bytes: Buffer, name = 'a.docx') => docxReader.read((await readerFor({ name, bytes })).file, {})
const readBody = async (body: string) => (await read(await docxOf(body))).blocks

describe('a word-processing document', () => {
  test('headings are found by style name, through styles based on others, and by outline level', async () => {
    expect(await readBody(p('One', 'H1') + p('Two', 'H2') + p('Three', 'Own') + p('Four', undefined, '<w:outlineLvl w:val="2"/>') + p('Five'))).toEqual([
      { kind: 'heading', text: 'One', level: 1 }, { kind: 'heading', text: 'Two', level: 2 }, { kind: 'heading', text: 'Three', level: 1 },
      { kind: 'heading', text: 'Four', level: 3 }, { kind: 'paragraph', text: 'Five' },
    ])
  })

  test('the title style gives the title of the document', async () => {
    expect((await read(await docxOf(p('The Year', 'T') + p('One', 'H1')))).title).toBe('The Year')
  })

  test('list items and quotations are known by their numbering and style', async () => {
    expect(await readBody(p('slate', 'L') + p('tea', undefined, '<w:numPr><w:numId w:val="3"/></w:numPr>') + p('not one', 'L', '<w:numPr><w:numId w:val="0"/></w:numPr>') + p('a breath', 'Q'))).toEqual([
      { kind: 'listItem', text: 'slate' }, { kind: 'listItem', text: 'tea' }, { kind: 'paragraph', text: 'not one' }, { kind: 'quotation', text: 'a breath' },
    ])
  })

  test('hidden text is not read, whether a run or its style hides it', async () => {
    const body = '<w:p><w:r><w:t>Seen</w:t></w:r><w:r><w:rPr><w:vanish/></w:rPr><w:t> hidden</w:t></w:r>'
      + '<w:r><w:rPr><w:rStyle w:val="Secret"/></w:rPr><w:t> secret</w:t></w:r><w:r><w:rPr><w:vanish w:val="0"/></w:rPr><w:t> again</w:t></w:r></w:p>'
    expect(await readBody(body)).toEqual([{ kind: 'paragraph', text: 'Seen again', cuts: [{ kind: 'hidden', at: 4, text: 'hidden secret' }] }])
  })

  test('deleted text, field codes and footnote marks are not read, inserted text is', async () => {
    const body = '<w:p><w:r><w:t>Ten</w:t></w:r><w:del><w:r><w:delText> old</w:delText></w:r></w:del><w:ins><w:r><w:t> new</w:t></w:r></w:ins>'
      + '<w:moveFrom><w:r><w:t> moved</w:t></w:r></w:moveFrom><w:r><w:instrText>PAGE</w:instrText></w:r><w:r><w:footnoteReference w:id="2"/></w:r><w:r><w:t> hives</w:t></w:r></w:p>'
    expect(await readBody(body)).toMatchObject([{
      text: 'Ten new hives', cuts: [{ kind: 'deleted', text: 'old' }, { kind: 'deleted', text: 'moved' }, { kind: 'footnote-mark', text: '1' }],
    }])
  })

  test('a table is read row by row', async () => {
    const cell = (text: string): string => `<w:tc>${p(text)}</w:tc>`
    expect(await readBody(`<w:tbl><w:tr>${cell('willow')}${cell('March')}</w:tr><w:tr>${cell('lime')}${cell('July')}</w:tr></w:tbl>`)).toMatchObject([
      { kind: 'tableRow', text: 'willow, March' }, { kind: 'tableRow', text: 'lime, July' },
    ])
  })
})

describe('a file that is none', () => {
  test.each([
    ['a ZIP without a document', async () => zipOf({ 'a.txt': 'x' }), 'docx-no-document'],
    ['a ZIP that is cut short', async () => (await docxOf(p('One'))).subarray(0, 300), 'archive-broken'],
    ['an encrypted or old document', async () => Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(600)]), 'office-encrypted-or-old'],
    ['XML that is not well formed', async () => docxOf('<w:p>'), 'xml-broken'],
    ['XML with a document type', async () => zipOf({ 'word/document.xml': '<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>' }), 'xml-doctype'],
    ['nesting without end', async () => docxOf('<w:p>'.repeat(400)), 'xml-too-deep'],
  ])('%s is refused with its own message', async (_, make, code) => {
    await expect(make().then(read)).rejects.toMatchObject({ problem: { code } })
  })
})

// The documents that the independent reader is tested with itself; nobody here wrote them.
describe('text compared with an independent reader', () => {
  const folder = join(dirname(createRequire(import.meta.url).resolve('mammoth/package.json')), 'test/test-data')
  const files = readdirSync(folder).filter(name => name.endsWith('.docx') && name !== 'empty.docx')
  const words = (text: string): string[] => text.split(/[\s,]+/u).filter(word => word !== '')

  test('there are at least fifteen of them', () => {
    expect(files.length).toBeGreaterThanOrEqual(15)
  })

  test.each(files)('%s has the same words in the same order', async name => {
    const bytes = readFileSync(join(folder, name))
    const ours = await read(bytes, name)
    const { value } = await mammoth.extractRawText({ buffer: bytes })
    // The other reader leaves notes out of its plain text.
    expect(ours.blocks.filter(block => block.note === undefined).flatMap(block => words(block.text))).toEqual(words(value))
  })

  test('the one empty document has no blocks', async () => {
    expect((await read(readFileSync(join(folder, 'empty.docx')), 'empty.docx')).blocks).toEqual([])
  })
})
