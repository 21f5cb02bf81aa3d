import { truncate, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { compilePassage } from '#core/score/compile'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { openArchive } from '../../../intake/archive'
import { readManuscript } from '../../../intake/read-manuscript'
import { parseXml } from '../../../intake/xml'
import { takeIn } from '../../../intake/take-in'
import { docxOf, p, zipOf } from '../../support/docx'
import { casting, engines } from '../../support/casting'
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
    await expect(openArchive(zip, 'a.docx')).rejects.toMatchObject({ problem: { code: 'archive-unsafe', message: expect.stringContaining(`“${to}”`) as string } })
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

describe('files that are not what they say', () => {
  const read = (name: string, bytes: Buffer) => readManuscript({ name, bytes }, { language: 'en' })

  test.each([
    ['a picture named as text', 'a.txt', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13]), 'a NUL', 'line 3, column 1'],
    ['a text with a NUL', 'a.txt', Buffer.from('One line.\nTwo\u0000 words.'), 'a NUL', 'line 2, column 4'],
    ['Markdown with a NUL', 'a.md', Buffer.from('# One\u0000'), 'a NUL', 'line 1, column 6'],
    ['a text with control characters', 'a.txt', Buffer.from('Ring the\u0007 bell.'), 'a control character', 'line 1, column 9'],
  ])('%s is refused with the place', async (_, name, bytes, what, place) => {
    await expect(read(name, bytes)).rejects.toMatchObject({ problem: { code: 'text-binary', message: expect.stringContaining(what), place } })
  })

  test('a few control characters in a long text are dropped, and so are NULs in UTF-16', async () => {
    const { blocks } = await read('a.txt', Buffer.from(`Ring\u0007 the bell. ${'And so on. '.repeat(20)}`))
    expect(blocks[0]!.text).toMatch(/^Ring the bell\./u)
    const wide = await read('b.txt', Buffer.from('\ufeffOne\u0000 word and half a sign \ud83d.', 'utf16le'))
    expect(wide.blocks[0]!.text).toBe('One word and half a sign .')
  })

  test('a page, a feed and SSML with hundreds of comments before their first element are read', async () => {
    const comments = '<!-- saved from somewhere -->\n'.repeat(400)
    expect(await read('a.html', Buffer.from(`${comments}<html><body><p>The bees came home.</p></body></html>`))).toMatchObject({ format: 'html', blocks: [{ text: 'The bees came home.' }] })
    expect(await read('a.xml', Buffer.from(`${comments}<rss version="2.0"><channel><title>A</title><item><title>B</title><description>The bees came home.</description></item></channel></rss>`))).toMatchObject({ format: 'feed' })
    expect(await read('a', Buffer.from(`${comments}<speak version="1.1" xml:lang="en" xmlns="http://www.w3.org/2001/10/synthesis">The bees came home.</speak>`))).toMatchObject({ format: 'ssml' })
  })

  test('50 MB of text are refused with the count and what to do, and quickly', async () => {
    const sentence = 'This is one of very many sentences in a text without any end. '
    await expect(read('long.txt', Buffer.from(sentence.repeat(50_000_000 / sentence.length))))
      .rejects.toMatchObject({ problem: { code: 'text-too-long', message: expect.stringMatching(/long\.txt has 49,999,9\d\d characters.*at most 10,000,000.*Divide it/u) } })
  })

  test('one word of 200,000 characters is taken in and cut where the engine must have it', async () => {
    const { blocks } = await read('word.txt', Buffer.from('a'.repeat(200_000)))
    expect(blocks.map(block => block.text.length)).toEqual(Array.from({ length: 10 }, () => 20_000))
    const passage = { id: 'p', kind: 'paragraph' as const, content: plainContent('a'.repeat(200_000)) }
    const { utterances } = compilePassage(passage, { previousKind: null, language: 'en', style: defaultHouseStyle, casting, engines })
    expect(utterances).toHaveLength(200)
    expect(utterances.every((utterance, index) => utterance.text.length === 1000 && utterance.beginsSentence === (index === 0))).toBe(true)
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

  test('a paragraph of 100,000 characters without punctuation is cut between words, with a note', async () => {
    await writeFile(join(folder(), 'long.txt'), 'word '.repeat(20_000))
    const { blocks, problems } = await takeIn(program, join(folder(), 'long.txt'), 'long.txt', { language: 'en' })
    expect(blocks.map(block => block.text.length)).toEqual([19_999, 19_999, 19_999, 19_999, 19_999])
    expect(problems).toMatchObject([{ code: 'paragraph-cut-1' }])
  })

  test('no passage is longer than can be edited: a text without punctuation is divided between words, one without words between signs', async () => {
    await writeFile(join(folder(), 'longer.txt'), 'word '.repeat(250_000))
    const words = await takeIn(program, join(folder(), 'longer.txt'), 'longer.txt', { language: 'en' })
    expect(Math.max(...words.blocks.map(block => block.text.length))).toBeLessThanOrEqual(20_000)
    expect(words.blocks.map(block => block.text).join(' ')).toBe('word '.repeat(250_000).trimEnd())
    await writeFile(join(folder(), 'wordless.txt'), `a${'🐝'.repeat(600_000)}`)
    const signs = await takeIn(program, join(folder(), 'wordless.txt'), 'wordless.txt', { language: 'en' })
    expect(Math.max(...signs.blocks.map(block => block.text.length))).toBeLessThanOrEqual(20_000)
    expect(signs.blocks.map(block => block.text).join('')).toBe(`a${'🐝'.repeat(600_000)}`)
  })
})
