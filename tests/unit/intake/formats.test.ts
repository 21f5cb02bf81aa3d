import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { readableEndings } from '~/utils/words'
import { readers } from '../../../intake/registry'
import { takeIn } from '../../../intake/take-in'
import { docxOf, p, zipOf } from '../../support/docx'
import { epubOf, pageOf } from '../../support/html'
import { bring, dropped, labels, passages, proposed } from '../../support/intake'
import { odtOf } from '../../support/odt'
import { programs, temporaryFolder } from '../../support/paths'
import { pptxOf, shape } from '../../support/pptx'

const folder = temporaryFolder()

describe('a web page', () => {
  test('numbers of nested lists, quotations, tables with heads, and passages in another language are kept', async () => {
    const page = await bring('a.html', pageOf('<h1>One</h1><ol start="3"><li>third<ol type="a"><li>inner</li></ol></li><li>fourth</li></ol><ul><li>dot</li></ul>'
      + '<blockquote><p>Said.</p></blockquote><table><tr><th>Month</th></tr><tr><td>March</td></tr></table><p lang="fr">Bonjour.</p>'))
    expect(passages(page)).toEqual(['One', '3. third', 'a. inner', '4. fourth', 'dot', 'Said.', 'Month', 'March', 'Bonjour.'])
    expect(page.blocks.find(block => block.text === 'March')!.columns).toEqual(['Month'])
    expect(page.blocks.at(-1)!.language).toBe('fr')
    expect(proposed(page).parts[0]!.passages.map(passage => passage.kind).slice(4, 7)).toEqual(['listItem', 'quotation', 'tableRow'])
  })

  test('what stands around the article, is hidden, code or a link target is dropped and counted', async () => {
    const page = await bring('a.html', pageOf('<header><nav><a href="/">Home</a></nav></header><main><h1>Bees</h1><p>See <a href="https://a.example/b">this</a><span hidden> not</span>.</p>'
      + '<pre>x = 1</pre><p><img alt="a hive">There.</p></main><aside>Buy honey</aside><footer>2026</footer>'))
    expect(passages(page)).toEqual(['Bees', 'See this.', 'There.'])
    expect(dropped(page)).toEqual({ 'navigation': 3, 'link-target': 1, 'hidden': 1, 'code': 1, 'image': 1 })
  })

  test('an article is found in a page of divisions by how dense its text is', async () => {
    const paragraph = `<p>${'The bees fly out early in the morning, and they come home late, with pollen on their legs. '.repeat(4)}</p>`
    const page = await bring('a.html', pageOf(`<div class="menu"><a href="/a">First</a> <a href="/b">Second</a></div><div class="content"><h1>Bees</h1>${paragraph.repeat(5)}</div><div class="sidebar"><a href="/c">Buy honey here</a></div>`))
    expect(passages(page).join(' ')).not.toMatch(/Buy honey|Second/u)
    expect(passages(page)).toContain('Bees')
    expect(dropped(page)['navigation']).toBeGreaterThan(0)
  })

  test('one page is one part whatever its headings; it can be divided', async () => {
    const page = await bring('a.html', pageOf('<h1>Bees</h1><h2>In May</h2><p>a</p><h2>In June</h2><p>b</p>'))
    expect([labels(page), labels(page, { split: { by: 'heading', level: 2 } })]).toEqual([['Bees'], ['Bees', 'In May', 'In June']])
  })

  test('footnotes are found by their links, their marks and way back are not read', async () => {
    const page = await bring('a.html', pageOf('<h1>Count</h1><p>Ten hives<sup><a href="#fn1" id="r1">1</a></sup> stand, or <a href="#sec">more</a>.</p><p>End.</p><ol><li id="fn1">Counted twice. <a href="#r1">↩</a></li></ol>'))
    expect(passages(page)).toEqual(['Count', 'Ten hives stand, or more.', 'End.'])
    expect(passages(page, { footnotes: 'in-place' })).toEqual(['Count', 'Ten hives stand, or more.', 'Counted twice.', 'End.'])
  })

  test('a link that runs a program is reported, its text kept; nesting without end is refused', async () => {
    const page = await bring('a.html', pageOf('<h1>Press</h1><p><a href=" java&#10;script:alert(1)">Press</a> here.</p>'))
    expect([passages(page), page.problems[0]]).toEqual([['Press', 'Press here.'], expect.objectContaining({ code: 'link-unsafe' })])
    await expect(bring('a.html', pageOf('<div>'.repeat(5000)))).rejects.toMatchObject({ problem: { code: 'xml-too-deep' } })
  })

  test('the declared encoding counts where the bytes are no UTF-8', async () => {
    const page = await bring('a.html', Buffer.from(pageOf('<h1>Brief</h1><p>Gr\u00fc\u00dfe vom Stand</p>', '<meta charset="iso-8859-1">'), 'latin1'))
    expect(passages(page)).toEqual(['Brief', 'Grüße vom Stand'])
  })
})

describe('an e-book', () => {
  test('gives title, author, language, and chapters by headings', async () => {
    const book = await bring('a.epub', await epubOf({ '1.xhtml': '<h1>One</h1><p>a</p>', '2.xhtml': '<h1>Two</h1><p>b</p>' }))
    expect(book).toMatchObject({ format: 'epub', title: 'The Year', author: 'T. Orrery', language: 'en-GB' })
    expect(labels(book)).toEqual(['One', 'Two'])
  })

  test('chapters without headings are named by the contents list, whose words are not read twice', async () => {
    const nav = '<li><a href="1.xhtml">The Start</a></li><li><a href="1.xhtml#b">The Middle</a></li>'
    const book = await bring('a.epub', await epubOf({ '1.xhtml': '<p>First text.</p><p id="b">The Middle</p><p>More.</p>' }, { nav }))
    expect(labels(book)).toEqual(['The Start', 'The Middle'])
    expect(passages(book)).toEqual(['First text.', 'The Middle', 'More.'])
  })

  test('footnotes in a document of their own are found, with page breaks as positions', async () => {
    const book = await bring('a.epub', await epubOf({
      '1.xhtml': '<h1>One</h1><p><span epub:type="pagebreak" title="12"/>Ten hives<a epub:type="noteref" href="n.xhtml#n1">1</a>.</p>',
      'n.xhtml': '<section epub:type="footnotes"><h1>Notes</h1><aside epub:type="footnote" id="n1"><p>Counted twice.</p></aside></section>',
    }))
    expect(passages(book, { footnotes: 'in-place' }).slice(0, 3)).toEqual(['One', 'Ten hives.', 'Counted twice.'])
    expect(proposed(book).parts.map(part => [part.label, part.included])).toEqual([['One', true], ['Notes', false]])
    expect(book.blocks.find(block => block.text === 'Ten hives.')!.page).toBe('12')
  })

  test('what is not in the reading order itself, and a copyright page that nothing says to be one, are left out', async () => {
    const book = await bring('a.epub', await epubOf({
      'cover.xhtml': '<p>A year among hives</p>', 'c.xhtml': '<p>Copyright © 2024 T. Orrery</p><p>All rights reserved. First published in Hivestead.</p>', 'd.xhtml': '<p>For the bees.</p>',
      '1.xhtml': '<h1>One</h1><p>On copyright, all rights reserved by bees.</p>'.padEnd(200) + '<p>word </p>'.repeat(700), 'x.xhtml': '<p>An answer to a riddle.</p>', '2.xhtml': '<h1>Two</h1><p>b</p>',
    }, { itemref: { 'x.xhtml': ' linear="no"' } }))
    expect(proposed(book).parts.map(part => [part.label, part.included, part.kind])).toEqual([
      ['The Year', true, 'chapter'], ['Copyright © 2024 T. Orrery', false, 'frontMatter'], ['For the bees', true, 'chapter'], ['One', true, 'chapter'], ['An answer to a riddle', false, 'backMatter'], ['Two', true, 'chapter'],
    ])
  })

  test('an empty element does not swallow the text; a missing document is reported', async () => {
    const bytes = await epubOf({ '1.xhtml': '<h1>One</h1><div/><p>Here.</p>', '2.xhtml': '' })
    expect(passages(await bring('a.epub', bytes))).toEqual(['One', 'Here.'])
    const book = await bring('a.epub', Buffer.from(bytes.toString('latin1').replaceAll('OEBPS/2.xhtml', 'OEBPS/3.xhtml'), 'latin1'))
    expect(book.problems).toMatchObject([{ code: 'epub-document-missing', place: expect.stringContaining('2.xhtml') }])
  })

  test('an encrypted book is refused, encrypted fonts are not', async () => {
    const encrypted = (file: string) => epubOf({ '1.xhtml': '<p>a b</p>' }, { extra: { 'META-INF/encryption.xml': `<encryption><CipherReference URI="${file}"/></encryption>` } })
    await expect(bring('a.epub', await encrypted('OEBPS/1.xhtml'))).rejects.toMatchObject({ problem: { code: 'file-encrypted' } })
    expect(passages(await bring('a.epub', await encrypted('OEBPS/font.otf')))).toEqual(['a b'])
  })
})

describe('an OpenDocument text', () => {
  const listStyle = '<text:list-style style:name="L1"><text:list-level-style-number text:level="1" style:num-format="1" style:num-suffix="."/>'
    + '<text:list-level-style-number text:level="2" style:num-format="a" style:num-suffix=")"/></text:list-style>'

  test('headings, numbers of nested lists, tables and notes are kept', async () => {
    const item = (text: string, inner = ''): string => `<text:list-item><text:p>${text}</text:p>${inner}</text:list-item>`
    const document = await bring('a.odt', await odtOf('<text:h text:outline-level="1">One</text:h>'
      + `<text:list text:style-name="L1">${item('first', `<text:list>${item('inner')}</text:list>`)}${item('second')}</text:list>`
      + '<text:p>Ten hives<text:note text:note-class="footnote"><text:note-citation>1</text:note-citation><text:note-body><text:p>Counted twice.</text:p></text:note-body></text:note> stand.</text:p>'
      + '<table:table><table:table-header-rows><table:table-row><table:table-cell><text:p>Month</text:p></table:table-cell></table:table-row></table:table-header-rows>'
      + '<table:table-row><table:table-cell><text:p>March</text:p></table:table-cell></table:table-row></table:table>', listStyle))
    expect(passages(document)).toEqual(['One', '1. first', 'a) inner', '2. second', 'Ten hives stand.', 'Month', 'March'])
    expect(passages(document, { footnotes: 'at-end', tables: 'with-headers' }).slice(-3)).toEqual(['Month', 'Month: March', 'Counted twice.'])
  })

  test('hidden, deleted and commented text, contents, running heads and page numbers are dropped and counted', async () => {
    const document = await bring('a.odt', await odtOf('<text:tracked-changes><text:changed-region text:id="c1"><text:deletion><text:p>old</text:p></text:deletion></text:changed-region></text:tracked-changes>'
      + '<text:table-of-content><text:index-body><text:p>One 3</text:p></text:index-body></text:table-of-content>'
      + '<text:p>New <text:change text:change-id="c1"/><text:span text:style-name="T1">secret </text:span>text<office:annotation><text:p>Check this.</text:p></office:annotation>.</text:p>',
    '<style:style style:name="T1" style:family="text"><style:text-properties text:display="none"/></style:style>'))
    expect(passages(document)).toEqual(['New text.'])
    expect(dropped(document)).toEqual({ 'page-number': 1, 'running-head': 1, 'contents': 1, 'deleted': 1, 'hidden': 1, 'comment': 1 })
  })

  test('an encrypted one is refused', async () => {
    const bytes = await odtOf('<text:p>a</text:p>', '', { 'META-INF/manifest.xml': '<manifest:manifest><manifest:encryption-data/></manifest:manifest>' })
    await expect(bring('a.odt', bytes)).rejects.toMatchObject({ problem: { code: 'file-encrypted' } })
  })
})

describe('a word-processing document brings along', () => {
  test('numbers of lists, notes, hidden and commented text, contents, page breaks, code, links and languages', async () => {
    const number = '<w:numPr><w:ilvl w:val="0"/><w:numId w:val="7"/></w:numPr>'
    const run = (text: string, properties = ''): string => `<w:r><w:rPr>${properties}</w:rPr><w:t xml:space="preserve">${text}</w:t></w:r>`
    const bytes = await docxOf(
      `${p('One', 'H1')}${p('first', undefined, number)}${p('second', undefined, number)}<w:p>${run('Big ')}${run('bees', '<w:i/>')}<w:r><w:br w:type="page"/></w:r></w:p>`
      + `<w:p>${run('Ten hives')}<w:r><w:footnoteReference w:id="2"/></w:r>${run(' stand.')}</w:p>`
      + '<w:sdt><w:sdtPr><w:docPartObj><w:docPartGallery w:val="Table of Contents"/></w:docPartObj></w:sdtPr><w:sdtContent><w:p><w:r><w:t>One 3</w:t></w:r></w:p></w:sdtContent></w:sdt>'
      + `<w:p>${run('Bonjour à toutes et à tous.', '<w:lang w:val="fr-FR"/>')}</w:p>`,
      {
        'word/_rels/document.xml.rels': '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
          + '<Relationship Id="r1" Type="http://x/footnotes" Target="footnotes.xml"/><Relationship Id="r2" Type="http://x/numbering" Target="numbering.xml"/></Relationships>',
        'word/footnotes.xml': '<w:footnotes xmlns:w="w"><w:footnote w:id="2"><w:p><w:r><w:t>Counted twice.</w:t></w:r></w:p></w:footnote></w:footnotes>',
        'word/numbering.xml': '<w:numbering xmlns:w="w"><w:abstractNum w:abstractNumId="0"><w:lvl w:ilvl="0"><w:start w:val="4"/><w:numFmt w:val="lowerRoman"/><w:lvlText w:val="(%1)"/></w:lvl></w:abstractNum>'
          + '<w:num w:numId="7"><w:abstractNumId w:val="0"/></w:num></w:numbering>',
      })
    const document = await bring('a.docx', bytes, { language: 'en' })
    expect(passages(document)).toEqual(['One', '(iv) first', '(v) second', 'Big bees', 'Ten hives stand.', 'Bonjour à toutes et à tous.'])
    expect(passages(document, { footnotes: 'in-place' })[5]).toBe('Counted twice.')
    expect(dropped(document)).toEqual({ 'footnote-mark': 1, 'footnote': 1, 'contents': 1 })
    expect(document.blocks[3]!.emphasis).toEqual([[4, 8]])
    expect(document.blocks[4]!.after).toBe('page')
    expect(document.blocks.at(-1)!.language).toBe('fr-FR')
  })
})

describe('a deck', () => {
  const slides = [
    { shapes: shape('Welcome', 'title') + shape('Bring tea\nand a hat') + shape('12 May', 'dt') + shape('3', 'sldNum'), notes: 'Say hello.\nSmile.' },
    { shapes: shape('No title here'), notes: 'Go on.', hidden: true },
    { shapes: '', notes: '' },
  ]

  test('has its slides in the deck’s order, with labels, notes, hidden ones marked and silent ones listed', async () => {
    const deck = await bring('a.pptx', await pptxOf(slides, [1, 0, 2]))
    expect(proposed(deck).parts.map(part => [part.label, part.included, part.passages.map(passage => passage.text)])).toEqual([
      ['No title here', false, ['Go on.']], ['Welcome', true, ['Say hello.', 'Smile.']], ['Slide 3', true, []],
    ])
    expect(deck.problems).toMatchObject([{ code: 'slides-without-notes', place: 'slide 3' }])
  })

  test('dates and numbers of the slides are dropped; what is on them can be read', async () => {
    const deck = await bring('a.pptx', await pptxOf(slides))
    expect(passages(deck, { from: 'slide' })).toEqual(['Welcome', 'Bring tea', 'and a hat', 'No title here'])
    expect(dropped(deck, { from: 'slide' })).toEqual({ 'running-head': 1, 'page-number': 1, 'notes': 3 })
  })
})

describe('batches', () => {
  const table = 'Headline;Writer;published;Text\nSwarm;Ann;2026-05-04;"<p>Bees <b>flew</b>.</p>"\nDrones;;;"Plain.\n\nMore."\n'

  test('a table has an article in each row; columns are found by name, or named', async () => {
    const found = await bring('a.csv', table)
    expect(found.columns).toMatchObject({ delimiter: ';', mapping: { title: 'Headline', date: 'published', body: 'Text' } })
    expect(passages(found)).toEqual(['Swarm', 'Bees flew.', 'Drones', 'Plain.', 'More.'])
    const named = await bring('a.csv', table, { columns: { title: '2', body: 'headline' } })
    expect(labels(named)).toEqual(['Ann', 'Drones'])
    await expect(bring('a.csv', table, { columns: { body: 'Nothing' } })).rejects.toMatchObject({ problem: { code: 'column-unknown', message: expect.stringContaining('It has Headline, Writer') } })
  })

  test('a table without a column of text says which it took; one without rows is refused', async () => {
    const found = await bring('a.tsv', 'name\tnote\nSwarm\tBees fly out early in the morning.\n')
    expect(found.problems).toMatchObject([{ code: 'column-guessed', message: expect.stringContaining('“note”') }])
    await expect(bring('a.csv', 'title,body\n')).rejects.toMatchObject({ problem: { code: 'table-empty' } })
  })

  test.each([
    ['RSS', 'a.xml', '<rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/"><channel><title>Hive Notes</title><language>en-gb</language><item><title>One &amp; all</title>'
      + '<link>https://a.example/1</link><author>a@b.example (Ann)</author><pubDate>Mon, 04 May 2026 10:00:00 +0000</pubDate><content:encoded><![CDATA[<h2>Sub</h2><p>Bees.</p>]]></content:encoded></item></channel></rss>'],
    ['Atom', 'a.feed', '<?xml version="1.0"?><feed xmlns="http://www.w3.org/2005/Atom" xml:lang="en-GB"><title>Hive Notes</title><entry><title type="html">One &amp;amp; all</title><link href="https://a.example/1"/>'
      + '<author><name>Ann</name></author><published>2026-05-04T10:00:00Z</published><content type="html">&lt;h2&gt;Sub&lt;/h2&gt;&lt;p&gt;Bees.&lt;/p&gt;</content></entry></feed>'],
    ['JSON', 'a.json', JSON.stringify({ version: 'https://jsonfeed.org/version/1.1', title: 'Hive Notes', language: 'en-GB', items: [{ id: '1', url: 'https://a.example/1', title: 'One & all', content_html: '<h2>Sub</h2><p>Bees.</p>', date_published: '2026-05-04T10:00:00Z', authors: [{ name: 'Ann' }] }] })],
  ])('a feed has an article in each entry: %s', async (_, name, content) => {
    const feed = await bring(name, content)
    expect(feed).toMatchObject({ format: 'feed', title: 'Hive Notes', language: 'en-GB' })
    const [part] = proposed(feed).parts
    expect(part).toMatchObject({ kind: 'article', label: 'One & all', about: { author: 'Ann', date: '2026-05-04', source: 'https://a.example/1' } })
    expect(passages(feed)).toEqual(['One & all', 'Sub', 'Bees.'])
  })

  test('entities of a feed are never expanded', async () => {
    await expect(bring('long.rss', `<rss><channel>${'<item><title>a</title></item>'.repeat(20_001)}</channel></rss>`)).rejects.toMatchObject({ problem: { code: 'feed-too-long', message: expect.stringContaining('20,001 entries; at most 20,000') as string } })
    await expect(bring('a.rss', '<!DOCTYPE rss [<!ENTITY a "aaaa">]><rss><channel><item><title>&a;</title></item></channel></rss>')).rejects.toMatchObject({ problem: { code: 'xml-doctype' } })
  })

  test('a ZIP of files has an article for each, in natural order; what cannot be read is reported', async () => {
    const zip = await zipOf({
      '10.md': '# Ten\n\nLast.', '2.md': '---\ntitle: Two\nauthor: Ann\ndate: 2026-05-04\n---\nFirst[^1].\n\n[^1]: Noted.', 'rows.csv': 'title,body\nRow,In a row.\n',
      'broken.docx': 'PK\u0003\u0004 no', 'picture.png': 'x', '__MACOSX/2.md': 'no', 'inner.zip': await zipOf({ 'a.txt': 'x' }),
    })
    const batch = await bring('all.zip', zip)
    expect(labels(batch)).toEqual(['Two', 'Ten', 'Row'])
    expect(proposed(batch).parts[0]!.about).toEqual({ author: 'Ann', date: '2026-05-04', source: '2.md' })
    expect(passages(batch, { footnotes: 'in-place' }).slice(0, 3)).toEqual(['Two', 'First.', 'Noted.'])
    expect(batch.problems.map(problem => problem.code).sort()).toEqual(['archive-broken', 'archive-nested'])
  })

  test('a ZIP with one document is that document', async () => {
    expect(await bring('a.zip', await zipOf({ 'year.docx': await docxOf(p('One', 'H1') + p('a') + p('Two', 'H1') + p('b')) }))).toMatchObject({ units: [], title: 'year' })
  })

  test('a folder is a batch, without what its links point to', async () => {
    await mkdir(join(folder(), 'batch/sub'), { recursive: true })
    await writeFile(join(folder(), 'batch/b.txt'), 'Second text of the batch.')
    await writeFile(join(folder(), 'batch/sub/a.txt'), 'Third text of the batch.')
    const batch = await takeIn(join(programs, 'reader-child.mjs'), join(folder(), 'batch'), 'batch', {})
    expect(labels(batch)).toEqual(['b', 'a'])
  })
})

describe('SSML', () => {
  test('gives its paragraphs with their directions; what is wrong in it is reported with its place', async () => {
    const source = '<?xml version="1.0"?><speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en-GB"><p><s>Hello <emphasis>big</emphasis> bees.</s><s>Two.</s></p>'
      + '<p xml:lang="fr">Bonjour.</p>Tail<break time="1s"/> end.<metadata>no</metadata></speak>'
    const script = await bring('a.ssml', source)
    expect([script.language, passages(script)]).toEqual(['en-GB', ['Hello big bees. Two.', 'Bonjour.', 'Tail end.']])
    expect(script.blocks[0]!.content!.directions.map(direction => direction.kind)).toEqual(['kept', 'emphasis', 'kept'])
    expect(script.blocks[1]!.language).toBe('fr')
    expect(script.blocks[2]!.content!.directions).toMatchObject([{ kind: 'rest', ms: 1000 }, { kind: 'keptPoint', xml: '<metadata>no</metadata>' }])
    expect(script.problems).toMatchObject([{ code: 'ssml-element-misplaced', place: `a.ssml, line 1, column ${source.indexOf('<metadata>') + 1}` }])
  })

  test('what plays or rests in a paragraph without words is kept beside the words: of the one before, of the first one, and of a part that begins with it', async () => {
    const speak = (body: string): string => `<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xmlns:quill="urn:orator-quill:script:1" xml:lang="en">${body}</speak>`
    const script = await bring('a.ssml', speak('<p><audio src="first.wav"/></p><p>One.</p><p><break time="2s"/><audio src="gong.wav"/></p><p quill:part="Two"><audio src="two.wav"/></p><p>Three.</p>'))
    expect(passages(script)).toEqual(['One.', 'Three.'])
    const sounds = script.blocks.map(({ content }) => content!.directions.map(direction => direction.kind === 'sound' ? direction.sound : direction.kind))
    expect(sounds).toEqual([['first.wav', 'rest', 'gong.wav'], ['two.wav']])
    expect(script.blocks.map(({ content }) => content!.runs.map(run => run.text))).toEqual([['', 'One.', '', ''], ['', 'Three.']])
    expect(script.blocks[1]!.entry).toMatchObject({ label: 'Two' })
  })

  test.each([
    ['entities', '<!DOCTYPE speak [<!ENTITY a "b">]><speak>&a;</speak>', 'ssml-subset'], ['no root', '<p>a</p>', 'ssml-root'], ['broken XML', '<speak><p></speak>', 'ssml-syntax'],
  ])('%s: refused', async (_, content, code) => {
    await expect(bring('a.ssml', content)).rejects.toMatchObject({ problem: { code } })
  })
})

describe('the reader is found by content', () => {
  test.each([
    ['docx', 'a.zip', () => docxOf(p('One'))], ['epub', 'a.docx.bin', () => epubOf({ '1.xhtml': '<p>a</p>' })], ['odt', 'a.zip', () => odtOf('<text:p>a</text:p>')],
    ['pptx', 'a.zip', () => pptxOf([{ shapes: shape('a'), notes: 'b' }])], ['html', 'a.txt', () => pageOf('<p>a b</p>')], ['ssml', 'a.xml', () => '<speak>a b</speak>'],
    ['feed', 'a.txt', () => '<rss><channel><item><title>a</title><description>b c</description></item></channel></rss>'],
  ])('%s in %s', async (format, name, make) => {
    expect((await bring(name, await make())).format).toBe(format)
  })

  test('the file dialog offers the endings of every reader', () => {
    expect(readableEndings.split(',').sort()).toEqual(readers.flatMap(reader => reader.extensions).sort())
  })

  test('RTF is refused with what to do', async () => {
    await expect(bring('a.txt', '{\\rtf1 Bees}')).rejects.toMatchObject({ problem: { code: 'rtf', message: expect.stringContaining('save it as DOCX') } })
  })
})
