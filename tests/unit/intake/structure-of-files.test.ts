import { Document, HeadingLevel, LevelFormat, Packer, Paragraph, SymbolRun, TextRun } from 'docx'
import { execFileSync } from 'node:child_process'
import { zipSync, strToU8 } from 'fflate'
import { otherDivisions } from '#core/manuscript/divisions'
import { bring, dropped, labels, passages, proposed } from '../../support/intake'
import { chapterLine } from '#core/manuscript/chapter-lines'

/** A text long enough for its language to be told. */
const paragraph = 'The keeper walked up the hill to see what the wind had left of the hives, and wrote down what there was to see, for nobody else would do it at all, that year or any other.'

describe('lines that number chapters', () => {
  // Forms that books have, from memory.
  test.each([
    ['Chapter 1', 'chapter', 1], ['CHAPTER ONE', 'chapter', 1], ['Chapter the First', 'chapter', 1], ['CHAPTER XXIV. The Gate', 'chapter', 24], ['Part Two: Rain', 'part', 2], ['Book the Third', 'book', 3],
    ['Kapitel 3', 'kapitel', 3], ['Erstes Kapitel', 'kapitel', 1], ['2. Kapitel', 'kapitel', 2], ['Dritter Teil', 'teil', 3], ['II. Teil', 'teil', 2], ['Zweites Buch', 'buch', 2],
    ['Première partie', 'partie', 1], ['Deuxième partie', 'partie', 2], ['Chapitre premier', 'chapitre', 1], ['Chapitre II', 'chapitre', 2], ['Capítulo primero', 'capítulo', 1], ['Segunda parte', 'parte', 2],
    ['Capitolo terzo', 'capitolo', 3], ['Parte prima', 'parte', 1], ['Hoofdstuk 4', 'hoofdstuk', 4], ['Rozdział 5', 'rozdział', 5], ['Rozdział pierwszy', 'rozdział', 1], ['Глава 6', 'глава', 6], ['Глава первая', 'глава', 1], ['Часть вторая', 'часть', 2],
    ['Bölüm 7', 'bölüm', 7], ['Κεφάλαιο 8', 'κεφάλαιο', 8], ['I.', 'roman', 1], ['IV', 'roman', 4], ['3', 'figures', 3], ['12. The Gate', 'figures', 12], ['TWENTY-ONE', 'words', 21],
  ])('%s', (text, family, number) => {
    expect(chapterLine(text)).toMatchObject({ family, number })
  })

  test.each(['Chapter 1 of the book says that bees fly.', 'Part of the hive', 'Part due to the rain', 'I went home', '1984 was a good year', 'One day it rained', 'A part.', 'He read chapter 3 aloud', 'Teil des Gartens', '3 frames'])('%s names none', text => {
    expect(chapterLine(text)).toBeNull()
  })

  test('begin parts in plain text, a list of contents before them does not, and what stands beside them does', async () => {
    const text = ['THE MEADOW', 'CONTENTS', 'CHAPTER ONE. The Gate', 'CHAPTER TWO. The Jar', 'PROLOGUE', 'Before.', 'CHAPTER ONE. The Gate', paragraph, 'Note', 'A note within.', 'CHAPTER TWO. The Jar', 'More.', 'EPILOGUE', 'The end.'].join('\n\n')
    const found = await bring('a.txt', text)
    expect(labels(found)).toEqual(['a', 'CONTENTS', 'PROLOGUE', 'CHAPTER ONE. The Gate', 'CHAPTER TWO. The Jar', 'EPILOGUE'])
    expect(dropped(found)).toEqual({ contents: 2 })
  })

  test('the first chapter of a part begins with it, and bare numbers count where text stands between them', async () => {
    expect(labels(await bring('a.txt', ['PART ONE', 'Chapter 1', 'Text.', 'Chapter 2', 'Text.', 'PART TWO', 'Chapter 3', 'Text.'].join('\n\n')))).toEqual(['PART ONE – Chapter 1', 'Chapter 2', 'PART TWO – Chapter 3'])
    expect(labels(await bring('a.txt', ['I.', paragraph, paragraph, 'II.', paragraph, paragraph, 'III.', paragraph].join('\n\n')))).toEqual(['I.', 'II.', 'III.'])
    expect(labels(await bring('a.txt', ['You need', '1. A frame', '2. A jar', '3. A spoon'].join('\n\n')))).toHaveLength(1)
  })

  test('begin parts of a document whose headings are only bold', async () => {
    const bold = (text: string): Paragraph => new Paragraph({ alignment: 'center', children: [new TextRun({ text, bold: true })] })
    const file = await Packer.toBuffer(new Document({ sections: [{ children: [bold('Kapitel 1'), new Paragraph('Text.'), bold('Kapitel 2'), new Paragraph('Mehr.')] }] }))
    expect(labels(await bring('a.docx', file))).toEqual(['Kapitel 1', 'Kapitel 2'])
  })

  test('other ways to divide are named with how often they occur', async () => {
    expect(otherDivisions(await bring('a.md', '# A\n\n## B\n\nx\n\n## C\n\ny\n\n# D\n\n## E\n\nz'))).toContainEqual({ by: 'heading:2', places: 5 })
  })
})

describe('plain text', () => {
  test('underscores around words are emphasis, and hyphens at the ends of lines close', async () => {
    const text = 'It was the _first day_ of the year, and nobody had deter-\nmined what to do about the well-\nknown wind. The file_name_here stays, and __init__ too, when a keep-\ner comes.'
    const found = await bring('a.txt', text, { language: 'en' })
    expect(passages(found)).toEqual(['It was the first day of the year, and nobody had determined what to do about the well-known wind. The file_name_here stays, and __init__ too, when a keeper comes.'])
    expect(found.blocks[0]!.emphasis).toEqual([[11, 20]])
  })
})

describe('numbers of headings, drop caps, symbols, powers', () => {
  test('a DOCX gives its numbers to the labels, and reads them by choice', async () => {
    const file = await Packer.toBuffer(new Document({
      numbering: { config: [{ reference: 'h', levels: [{ level: 0, format: LevelFormat.DECIMAL, text: 'Chapter %1' }, { level: 1, format: LevelFormat.DECIMAL, text: '%1.%2' }] }] },
      sections: [{ children: [
        new Paragraph({ heading: HeadingLevel.HEADING_1, numbering: { reference: 'h', level: 0 }, children: [new TextRun('The Gate')] }),
        new Paragraph({ children: [new TextRun('10'), new TextRun({ text: '8', superScript: true }), new TextRun(' cells, CO'), new TextRun({ text: '2', subScript: true }), new TextRun(', the 1'), new TextRun({ text: 'st', superScript: true }), new TextRun(' and '), new SymbolRun({ char: 'F061', symbolfont: 'Symbol' })] }),
        new Paragraph({ heading: HeadingLevel.HEADING_1, numbering: { reference: 'h', level: 0 }, children: [] }),
        new Paragraph('Text.'),
      ] }],
    }))
    const found = await bring('a.docx', file, { language: 'en' })
    expect(labels(found)).toEqual(['Chapter 1 The Gate', 'Chapter 2'])
    expect(passages(found).slice(0, 2)).toEqual(['The Gate', '10⁸ cells, CO₂, the 1st and α'])
    expect(passages(found, { restoredKinds: ['heading-number'] })[0]).toBe('Chapter 1 The Gate')
    expect(dropped(found)).toEqual({ 'heading-number': 1 })
  })

  test.each(['docx', 'odt', 'html', 'epub', 'md'])('powers and fractions keep their meaning in %s', async format => {
    const text = '# Numbers\n\nAbout 10^8^ cells, 5 m^2^, the 1^st^, CO~2~ and 3^1^/~2~ cups.\n'
    const input = format === 'md' ? text.replaceAll(/\^([^^]+)\^/gu, '<sup>$1</sup>').replaceAll(/~([^~]+)~/gu, '<sub>$1</sub>') : text
    const file = format === 'md' ? Buffer.from(input) : execFileSync('pandoc', ['-f', 'markdown', '-t', format === 'html' ? 'html' : format, '-o', '-'], { input })
    expect(passages(await bring(`a.${format}`, file, { language: 'en' }))).toContain('About 10⁸ cells, 5 m², the 1st, CO₂ and 3 1⁄2 cups.')
  })

  test('formulas are one line: of DOCX, HTML and Markdown', async () => {
    const text = 'It is $\\frac{1}{2}$ or $x^2$ or $\\sqrt{2}$, but $5 and $6 are money.\n'
    for (const format of ['docx', 'html']) {
      const file = execFileSync('pandoc', ['-f', 'markdown', '-t', format, '--mathml', '-s', '--metadata', 'title=x', '-o', '-'], { input: text })
      expect(passages(await bring(`a.${format}`, file, { language: 'en' }))).toContain('It is 1⁄2 or x² or √2, but $5 and $6 are money.')
    }
    expect(passages(await bring('a.md', text, { language: 'en' }))).toEqual(['It is 1⁄2 or x² or √2, but $5 and $6 are money.'])
  })
})

describe('web pages', () => {
  test('what attributes, classes and style sheets hide stays out, in cells and lists as well', async () => {
    const page = `<html><head><title>The Meadow</title><style>.secret, #gone p { display: none } @media print { p { display: none } }</style></head><body><h1>One</h1>
      <table><tr><td>Shown <span class="secret">hidden one</span><div hidden>hidden two</div><pre>code</pre><nav>menu</nav></td><td class="d-none">hidden three</td></tr></table>
      <ol><li hidden>hidden four</li><li>First <pre>code</pre></li><li><div class="sr-only">hidden five</div>Second</li></ol><div id="gone"><p>hidden six</p></div><p>Last.</p></body></html>`
    const found = await bring('a.html', page, { language: 'en' })
    expect(found.title).toBe('The Meadow')
    expect(passages(found)).toEqual(['One', 'Shown', '1. First', '2. Second', 'Last.'])
    expect(dropped(found)).toEqual({ hidden: 5, code: 2, navigation: 1 })
  })

  test('a title that goes on behind the heading is the heading', async () => {
    expect((await bring('a.html', '<html><head><title>The Jar | Meadow News</title></head><body><h1>The Jar</h1><p>Text.</p></body></html>')).title).toBe('The Jar')
  })
})

describe('e-books', () => {
  const book = (documents: Readonly<Record<string, string>>, nav: string, landmarks = ''): Buffer => {
    const names = Object.keys(documents)
    const xhtml = (body: string): string => `<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops"><head><link rel="stylesheet" href="a.css"/></head><body>${body}</body></html>`
    const files: Record<string, string> = {
      'mimetype': 'application/epub+zip',
      'META-INF/container.xml': '<container xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="b.opf"/></rootfiles></container>',
      'b.opf': `<package xmlns="http://www.idpf.org/2007/opf"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>The Meadow</dc:title><dc:language>en</dc:language></metadata><manifest><item id="nav" href="nav.xhtml" media-type="application/xhtml+xml" properties="nav"/>${names.map(name => `<item id="${name}" href="${name}.xhtml" media-type="application/xhtml+xml"/>`).join('')}</manifest><spine>${names.map(name => `<itemref idref="${name}"/>`).join('')}</spine></package>`,
      'nav.xhtml': xhtml(`<nav epub:type="toc">${nav}</nav><nav epub:type="landmarks"><ol>${landmarks}</ol></nav>`),
      'a.css': '.hide-me { display: none }',
      ...Object.fromEntries(names.map(name => [`${name}.xhtml`, xhtml(documents[name]!)])),
    }
    return Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, content]) => [name, strToU8(content)]))))
  }
  const entry = (name: string, label: string, inner = ''): string => `<li><a href="${name}.xhtml">${label}</a>${inner}</li>`

  test('their own words decide what is front and back matter', async () => {
    const found = await bring('a.epub', book({
      t: '<section epub:type="titlepage"><h1>The Meadow</h1></section>', d: '<section epub:type="dedication"><p>For the bees.</p></section>', c: '<section role="doc-toc"><p>One ... 1</p></section>',
      l: '<p>Plates</p>', a: `<h1>1</h1><p>${paragraph}</p><aside epub:type="footnote">Nobody marks it.</aside><p class="hide-me">Hidden.</p>`, b: '<h1>2</h1><p>More text.</p>', i: '<section role="doc-index"><h1>Things</h1><p>Bee, 1</p></section>',
    }, `<ol>${entry('a', '1. The Gate')}${entry('b', '2. The Jar')}</ol>`, '<li><a epub:type="loi" href="l.xhtml">x</a></li>'))
    const { parts } = proposed(found)
    expect(parts.map(part => [part.label, part.kind, part.included])).toEqual([
      ['For the bees', 'frontMatter', true], ['1. The Gate', 'chapter', true], ['2. The Jar', 'chapter', true], ['Things', 'backMatter', false],
    ])
    expect(dropped(found)).toEqual({ 'title-page': 1, 'contents': 2, 'footnote': 1, 'hidden': 1 })
  })

  test('a heading of the first level in every section makes no parts against nested contents', async () => {
    const found = await bring('a.epub', book({ a: '<h1>Frames</h1><p>x</p>', b: '<h1>Wood</h1><p>x</p>', c: '<h1>Wax</h1><p>x</p>', d: '<h1>Honey</h1><p>x</p>' },
      `<ol>${entry('a', 'Frames', `<ol>${entry('b', 'Wood')}${entry('c', 'Wax')}</ol>`)}${entry('d', 'Honey')}</ol>`))
    expect(labels(found)).toEqual(['Frames', 'Honey'])
  })
})

describe('Markdown beyond CommonMark', () => {
  test('attributes, boxes, contents, new pages, titles, definitions, tasks and notes are read without their signs', async () => {
    const text = ['% The Meadow', '% Ann Example; Bo Sample', '', '[TOC]', '', '# Gate {#gate .big}', '', 'A [small]{.caps} word with `code`{.js}, and {name} stays.', '', '::: warning Look out', 'Within.', ':::', '', '\\newpage', '',
      'Term', ': Its meaning.', '', '- [ ] open', '- [x] done', '', 'Note.[^1] And.^[inline]', '', '[^1]: The note.', '[^2]: Unmarked.'].join('\n')
    const found = await bring('a.md', text, { language: 'en' })
    expect([found.title, found.author]).toEqual(['The Meadow', 'Ann Example, Bo Sample'])
    expect(passages(found)).toEqual(['Gate', 'A small word with code, and {name} stays.', 'Look out', 'Within.', 'Term', 'Its meaning.', 'open', 'done', 'Note. And.'])
    expect(found.blocks.find(block => block.text === 'Term')!.after).toBe('page')
    expect(passages(found, { footnotes: 'in-place' }).slice(-2)).toEqual(['The note.', 'inline'])
    expect(found.blocks.at(-1)!.text).toBe('Unmarked.')
  })

  test('addresses that are taken away leave nothing behind', async () => {
    const text = 'See <https://example.org/a>, and write (<https://example.org/b>) or <b@example.org>, <c@example.org>, today to <d@example.org>.'
    expect(passages(await bring('a.md', text, { language: 'en' }))).toEqual(['See, and write or, today to.'])
  })

  test('twelve thousand notes do not take time that grows with their square', async () => {
    const many = Array.from({ length: 12_000 }, (_, index) => index)
    const found = await bring('a.md', `${many.map(index => `[^${index}]: note ${index}`).join('\n')}\n\n${many.map(index => `x[^${index}]`).join(' ')}`, { language: 'en' })
    expect(found.blocks.filter(block => block.note !== undefined)).toHaveLength(12_000)
    expect(found.blocks.flatMap(block => block.marks ?? [])).toHaveLength(12_000)
  }, 8_000)
})

describe('tables and containers', () => {
  test('a first line that names the delimiter, and a table without names', async () => {
    expect(labels(await bring('a.csv', 'sep=;\ntitle;body\nOne;"Text; more"\nTwo;Text'))).toEqual(['One', 'Two'])
    const found = await bring('a.csv', '"The bees","They came home late in the evening, and nobody saw them."\n"Rain","Then it rained for a week, and all of them stayed inside."\n')
    expect(labels(found)).toEqual(['The bees', 'Rain'])
    expect(found.problems.map(({ code }) => code)).toEqual(['column-guessed', 'table-unnamed'])
    expect(labels(await bring('a.csv', 'One,Hello there friend\nTwo,Second row of it\n'))).toEqual(['One', 'Two'])
    const named = await bring('a.csv', 'Plant,What is known of it\nOak,"It grows slowly, and stands for a thousand years where nobody fells it."\n')
    expect(named.columns!.names).toEqual(['Plant', 'What is known of it'])
    const figures = await bring('a.csv', 'depth of the mud (cm),"Alga (Kuetz.) Lange-Bert."\n0.0,12\n0.5,7\n')
    expect(figures.columns!.names).toEqual(['depth of the mud (cm)', 'Alga (Kuetz.) Lange-Bert.'])
  })

  test('lock files and resource forks are passed over, bytes behind the end as well, and backslashes part folders', async () => {
    const files = { 'in\\one.md': '# One\n\nText.', 'in\\~$one.md': 'x', '._one.md': 'x', '__MACOSX/._one.md': 'x', '.~lock.one.md#': 'x', 'two.md': '# Two\n\nMore.' }
    const zip = Buffer.from(zipSync(Object.fromEntries(Object.entries(files).map(([name, content]) => [name, strToU8(content)]))))
    expect(labels(await bring('a.zip', Buffer.concat([zip, Buffer.from('\n')])))).toEqual(['One', 'Two'])
  })

  test('FB2 is refused with the way out', async () => {
    await expect(bring('a.fb2', '<?xml version="1.0"?><FictionBook xmlns="http://example.org"><body/></FictionBook>')).rejects.toMatchObject({ problem: { code: 'fb2', message: expect.stringContaining('EPUB') as string } })
  })
})

describe('languages', () => {
  test('are told from all of a text, without its code, and short passages by their script', async () => {
    const commands = Array.from({ length: 40 }, (_, index) => `apt-get install package-${index} --with-option=/usr/share/doc/file_${index}`).join('\n\n')
    const italian = 'Il guardiano salì sulla collina per vedere che cosa il vento aveva lasciato degli alveari, e scrisse tutto quello che vide nel suo libro.'
    const found = await bring('a.txt', `${commands}\n\n${italian}\n\n${italian.replace('Il', 'Poi il')}\n\n蜜蜂\n\nはちみつ\n\nМёд`)
    expect([found.language, found.languageSource]).toEqual(['it', 'detected'])
    expect(found.blocks.slice(-3).map(block => block.language)).toEqual(['zh', 'ja', 'ru'])
  })

  test('a declared one that the text is not in is told', async () => {
    const german = 'Der Imker ging jeden Tag den Hügel hinauf, um zu sehen, was der Wind von den Bienenstöcken übrig gelassen hatte, und schrieb auf, was es zu sehen gab. '
    const found = await bring('a.html', `<html lang="en"><body><p>${german.repeat(5)}</p></body></html>`)
    expect(found.language).toBe('en')
    expect(found.problems).toEqual([expect.objectContaining({ code: 'language-differs', message: expect.stringContaining('German (de)') as string })])
  })
})

test('letters of a formula are no passage in Greek, and a document with headings has no chapters by bare numbers', async () => {
  const found = await bring('a.txt', `${paragraph}\n\nμ = m(η)\n\n${paragraph}`)
  expect(found.blocks.map(block => block.language)).toEqual([undefined, undefined, undefined])
  expect(labels(await bring('a.md', `# One\n\n1\\. A frame\n\n${paragraph} ${paragraph}\n\n2\\. A jar\n\n${paragraph} ${paragraph}\n\n3\\. A spoon\n\n${paragraph}`))).toEqual(['One'])
})
