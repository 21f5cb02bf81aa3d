import { isOrnament } from '#core/manuscript/manuscript'
import type { Manuscript } from '#core/manuscript/manuscript'
import { scriptAsMarkdown, scriptAsSsml } from '#core/script/export'
import { toScript } from '#core/manuscript/to-script'
import { docxOf, p } from '../../support/docx'
import { epubOf, pageOf } from '../../support/html'
import { bring, proposed } from '../../support/intake'
import { odtOf } from '../../support/odt'
import { linesOfText, pdfOf } from '../../support/pdf'

const kinds = (manuscript: Manuscript): string[] => proposed(manuscript).parts.flatMap(part => part.passages.map(({ kind, text }) => kind === 'sceneBreak' ? text : kind === 'paragraph' ? 'p' : kind))

// The signs are *common practice* of printed books and of typescripts.
test.each(['***', '* * *', '*', '⁂', '❦', '~', '#', '# # #', '---', '— — —', '• • •', '◆'])('%s by itself parts scenes', sign => expect(isOrnament(sign)).toBe(true))
test.each(['', '—', '-', '…', '...', '* a', '1', '?', '“', '$'])('%j does not', text => expect(isOrnament(text)).toBe(false))

const one = 'The hive was quiet all day long.'
const two = 'It was night when they came home.'

describe.each<[format: string, made: () => Promise<Manuscript>]>([
  ['plain text', () => bring('a.txt', `${one}\n\n* * *\n\n${two}\n`)],
  ['plain text with an ornament', () => bring('a.txt', `${one}\n\n❦\n\n${two}\n`)],
  ['Markdown with a rule', () => bring('a.md', `${one}\n\n***\n\n${two}\n`)],
  ['Markdown with an ornament', () => bring('a.md', `${one}\n\n⁂\n\n${two}\n`)],
  ['a web page with a rule', () => bring('a.html', pageOf(`<p>${one}</p><hr><p>${two}</p>`))],
  ['a web page with an ornament', () => bring('a.html', pageOf(`<p>${one}</p><p class="center">* * *</p><p>${two}</p>`))],
  ['an e-book', () => epubOf({ 'a.xhtml': `<p>${one}</p><p>❦</p><p>${two}</p>` }).then(bytes => bring('a.epub', bytes))],
  ['DOCX', () => docxOf(p(one) + p('#') + p(two)).then(bytes => bring('a.docx', bytes))],
  ['ODT', () => odtOf(`<text:p>${one}</text:p><text:p>* * *</text:p><text:p>${two}</text:p>`).then(bytes => bring('a.odt', bytes))],
  ['SSML', () => bring('a.ssml', `<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en"><p>${one}</p><p>* * *</p><p>${two}</p></speak>`)],
  ['PDF', () => bring('a.pdf', pdfOf([{ draws: linesOfText([one, '', '* * *', '', two]) }]))],
])('%s', (_, made) => {
  test('has a scene break between two paragraphs', async () => {
    expect(kinds(await made()).filter(kind => kind !== 'title')).toEqual(['p', '* * *', 'p'])
  })

  test('can be divided there', async () => {
    const manuscript = await made()
    expect(proposed(manuscript, { split: { by: 'rule' } }).parts.map(part => part.passages.map(({ text }) => text))).toEqual([[one], [two]])
  })

  test('keeps it as SSML, and as Markdown', async () => {
    const manuscript = await made()
    const script = toScript(manuscript, proposed(manuscript).parts)
    for (const [name, text] of [['b.ssml', scriptAsSsml(script)], ['b.md', scriptAsMarkdown(script)]] as const) expect(kinds(await bring(name, text)).filter(kind => kind !== 'title' && kind !== 'heading')).toEqual(['p', '* * *', 'p'])
  })
})

test('a rule beside a heading, at the beginning or at the end parts no scenes', async () => {
  const manuscript = await bring('a.md', `---\n\n# One\n\n---\n\n${one}\n\n---\n\n## Inside\n\n${two}\n\n---\n`)
  expect(proposed(manuscript).parts.flatMap(part => part.passages.map(({ kind }) => kind))).not.toContain('sceneBreak')
})
