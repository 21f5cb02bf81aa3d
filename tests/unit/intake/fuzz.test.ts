import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { readManuscript } from '../../../intake/read-manuscript'
import { docxOf, p, zipOf } from '../../support/docx'
import { mutated, randomOf } from '../../support/fuzz'
import { epubOf, pageOf } from '../../support/html'
import { odtOf } from '../../support/odt'
import { pptxOf, shape } from '../../support/pptx'
import { proposed } from '../../support/intake'

const data = join(dirname(createRequire(import.meta.url).resolve('pdf-parse/package.json')), 'test/data')
const text = '# One\n\nThe bees *fly* out[^1]; see [this](https://a.example).\n\n1. a\n2. b\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n[^1]: Noted.\n'
const samples: readonly (readonly [name: string, make: () => Buffer | Promise<Buffer>])[] = [
  ['a.docx', () => docxOf(p('One', 'H1') + p('The bees fly out.') + '<w:tbl><w:tr><w:tc><w:p><w:r><w:t>a</w:t></w:r></w:p></w:tc></w:tr></w:tbl>')],
  ['a.odt', () => odtOf('<text:h text:outline-level="1">One</text:h><text:p>The bees fly out.</text:p>')],
  ['a.pptx', () => pptxOf([{ shapes: shape('Welcome', 'title') + shape('tea'), notes: 'Say hello.' }])],
  ['a.epub', () => epubOf({ '1.xhtml': '<h1>One</h1><p>The bees fly out.</p>' }, { nav: '<li><a href="1.xhtml">One</a></li>' })],
  ['a.pdf', () => readFileSync(join(data, '05-versions-space.pdf'))],
  ['a.html', () => Buffer.from(pageOf('<h1>One</h1><ol><li>a<table><tr><td>b<table><tr><td>c</td></tr></table></td></tr></table></li></ol><p>The bees <em>fly</em> out.</p>'))],
  ['a.md', () => Buffer.from(`---\ntitle: The Year\n---\n${text}`)],
  ['a.txt', () => Buffer.from('One\n\nThe bees fly out.\n\n\n* * *\n\nAnd home.')],
  ['a.csv', () => Buffer.from('title,author,body\nSwarm,Ann,"<p>Bees <b>fly</b>.</p>"\nDrones,,"Plain, ""quoted"""\n')],
  ['a.rss', () => Buffer.from('<rss version="2.0"><channel><title>H</title><item><title>One</title><description>&lt;p&gt;Bees.&lt;/p&gt;</description></item></channel></rss>')],
  ['a.json', () => Buffer.from('{"version":"https://jsonfeed.org/version/1.1","title":"H","items":[{"id":"1","title":"One","content_html":"<p>Bees.</p>"}]}')],
  ['a.ssml', () => Buffer.from(`<speak xml:lang="en"><p>Hello <emphasis>big</emphasis> bees. ${'They fly out early and come home late. '.repeat(12)}</p></speak>`)],
  ['a.zip', () => zipOf({ 'a.md': text, 'b.txt': 'Second.' })],
]

const times = Number(process.env['QUILL_FUZZ'] ?? 50)

// A file that was damaged is read, or refused with a message: never a crash of another kind, never without end.
test.each(samples)(`%s, damaged ${times} times, is read or refused with a message`, async (name, make) => {
  const sample = await make()
  const random = randomOf([...name].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7))
  let read = 0
  for (let time = 0; time < times; time += 1) {
    const bytes = mutated(sample, random)
    const result = await readManuscript({ name, bytes }, {}).then(manuscript => proposed(manuscript).parts.length, (error: unknown) => error)
    if (typeof result === 'number') read += 1
    else expect(result).toMatchObject({ name: 'ProblemError', problem: { code: expect.any(String), message: expect.stringMatching(/\S.*[.!?]$/u) } })
  }
  // The changes are small: some of the files must survive them, and not all, or nothing was tested.
  expect(read).toBeGreaterThan(0)
}, 300_000)
