import { truncate, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { openArchive } from '../../../intake/archive'
import { parseXml } from '../../../intake/xml'
import { takeIn } from '../../../intake/take-in'
import { docxOf, p, zipOf } from '../../support/docx'
import { programs, temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const program = join(programs, 'reader-child.mjs')

/** Changes a name everywhere in a ZIP without changing its length, as no well-behaved program would write it. */
function renamed(zip: Buffer, from: string, to: string): Buffer {
  return Buffer.from(zip.toString('latin1').replaceAll(from, to), 'latin1')
}

describe('containers that mean harm', () => {
  test('a small file that inflates to 200 MB is given up at the cap', async () => {
    const bomb = await zipOf({ 'word/document.xml': Buffer.alloc(200 * 1024 * 1024, 0x20) })
    expect(bomb.length).toBeLessThan(300 * 1024)
    await writeFile(join(folder(), 'bomb.docx'), bomb)
    await expect(takeIn(program, join(folder(), 'bomb.docx'), 'bomb.docx', {})).rejects.toMatchObject({ problem: { code: 'archive-too-large' } })
  })

  test.each([
    ['climbing names', 'aa/document.xml', '../document.xml'],
    ['absolute names', 'aa/document.xml', '/aadocument.xml'],
  ])('%s are refused', async (_, from, to) => {
    const zip = renamed(await zipOf({ [from]: 'x' }), from, to)
    await expect(openArchive(zip, 'a.docx')).rejects.toMatchObject({ problem: { code: 'archive-broken' } })
  })

  test('two entries of one name are refused', async () => {
    const zip = renamed(await zipOf({ 'one.xml': 'x', 'two.xml': 'y' }), 'two.xml', 'one.xml')
    await expect(openArchive(zip, 'a.docx')).rejects.toMatchObject({ problem: { code: 'archive-unsafe' } })
  })

  test('an entry that is damaged is named', async () => {
    const zip = await zipOf({ 'a.xml': 'some text that is long enough to be compressed, compressed, compressed, compressed' })
    zip.fill(0, 40, 60)
    const archive = await openArchive(zip, 'a.docx').catch((error: unknown) => error)
    const opened = archive as Awaited<ReturnType<typeof openArchive>>
    await expect('bytes' in opened ? opened.bytes('a.xml') : Promise.reject(archive)).rejects.toMatchObject({ problem: { code: 'archive-broken' } })
  })

  test('entities are never expanded', () => {
    const bomb = '<!DOCTYPE a [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]><a>&b;</a>'
    expect(() => parseXml(bomb, 'document.xml', {})).toThrow('document type definition')
  })

  test('broken XML is reported with line and column', () => {
    expect.assertions(1)
    try {
      parseXml('<a>\n  <b>\n</a>', 'document.xml', {})
    } catch (error) {
      expect(error).toMatchObject({ problem: { code: 'xml-broken', place: expect.stringMatching(/^document\.xml, line 3, column \d+$/u) } })
    }
  })
})

describe('the guarded reader', () => {
  test('reads an honest file in a process of its own', async () => {
    await writeFile(join(folder(), 'honest.docx'), await docxOf(p('One', 'H1') + p('The bees came home.')))
    expect(await takeIn(program, join(folder(), 'honest.docx'), 'honest.docx', { language: 'en' })).toMatchObject({
      format: 'docx', language: 'en', blocks: [{ kind: 'heading', text: 'One', level: 1 }, { kind: 'paragraph', text: 'The bees came home.' }],
    })
  })

  test('a file beyond the limit is refused before it is read', async () => {
    await writeFile(join(folder(), 'huge.txt'), 'x')
    await truncate(join(folder(), 'huge.txt'), 201 * 1024 * 1024)
    await expect(takeIn(program, join(folder(), 'huge.txt'), 'huge.txt', {})).rejects.toMatchObject({ problem: { code: 'file-too-large' } })
  })

  test('a reader that dies is a problem with the file’s name', async () => {
    await writeFile(join(folder(), 'dying.mjs'), 'process.on("message", () => process.kill(process.pid, "SIGKILL"))')
    await writeFile(join(folder(), 'a.txt'), 'x')
    await expect(takeIn(join(folder(), 'dying.mjs'), join(folder(), 'a.txt'), 'a.txt', {})).rejects.toMatchObject({ problem: { code: 'intake-crashed', message: expect.stringContaining('a.txt') } })
  })

  test('a paragraph of 100,000 characters without punctuation is taken in whole', async () => {
    await writeFile(join(folder(), 'long.txt'), 'word '.repeat(20_000))
    const { blocks } = await takeIn(program, join(folder(), 'long.txt'), 'long.txt', { language: 'en' })
    expect(blocks.map(block => block.text.length)).toEqual([99_999])
  })
})
