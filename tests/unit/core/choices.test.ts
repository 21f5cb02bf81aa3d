import { defaultChoices, type Choices } from '#core/manuscript/choices'
import type { Block, Manuscript, SourceUnit } from '#core/manuscript/manuscript'
import { matterOf } from '#core/manuscript/matter'
import { openingLine } from '#core/manuscript/opening'
import { compilePattern, usualPatterns } from '#core/manuscript/pattern'
import { dropped, labels, passages, proposed } from '../../support/intake'

const paragraph = (text: string, rest: Partial<Block> = {}): Block => ({ kind: 'paragraph', text, ...rest })
const heading = (text: string, level = 1, rest: Partial<Block> = {}): Block => ({ kind: 'heading', text, level, ...rest })

function manuscript(blocks: Block[], rest: Partial<Manuscript> = {}): Manuscript {
  return { format: 'text', title: null, author: null, language: 'en', languageSource: 'declared', units: [], problems: [], blocks, ...rest }
}

describe('where parts begin', () => {
  const text = manuscript([
    paragraph('CHAPTER I'), paragraph('It rained. As chapter II says, it went on raining.'), paragraph('CHAPTER II', { emptyLines: 3 }), paragraph('It stopped.'),
    paragraph('Later that day', { after: 'rule' }), paragraph('It rained again.'),
  ])

  test('by a pattern that a passage begins with, not one that stands within it', () => {
    expect(labels(text, { split: { by: 'pattern', pattern: '(?i)chapter [ivx]+' } })).toEqual(['CHAPTER I', 'CHAPTER II'])
    expect(proposed(text, { split: { by: 'pattern', pattern: 'CHAPTER' } }).parts[1]!.passages[0]).toMatchObject({ kind: 'title', text: 'CHAPTER II' })
  })

  test('by empty lines, by rules, and by a mark set by hand', () => {
    expect(labels(text, { split: { by: 'blank', lines: 3 } })).toEqual(['CHAPTER I', 'CHAPTER II'])
    expect(labels(text, { split: { by: 'blank', lines: 4 } })).toEqual(['CHAPTER I'])
    expect(labels(text, { split: { by: 'rule' } })).toEqual(['CHAPTER I', 'Later that day'])
    expect(labels(text, { begins: [3] })).toEqual(['CHAPTER I', 'It stopped'])
    expect(labels(text, { split: { by: 'rule' }, joins: [4] })).toEqual(['CHAPTER I'])
  })

  test('evenly, at a heading where one is near, else between paragraphs', () => {
    const words = (count: number): string => 'word '.repeat(count).trim()
    const book = manuscript([...Array.from({ length: 30 }, (_, index) => paragraph(`${words(60)} ${index}.`)), heading('Turn', 2), ...Array.from({ length: 30 }, () => paragraph(`${words(60)}.`))])
    const { parts } = proposed(book, { split: { by: 'even', minutes: 12 } })
    expect(parts).toHaveLength(2)
    expect(parts[1]!.label).toBe('Turn')
    const sizes = proposed(book, { split: { by: 'even', minutes: 3 } }).parts.map(part => part.passages.length)
    expect(sizes.reduce((sum, size) => sum + size, 0)).toBe(61)
    expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(5)
  })

  test.each([['(', 'pattern-broken'], ['(?=x)', 'pattern-broken'], ['x'.repeat(501), 'pattern-too-long']])('a pattern that cannot be: %s', (pattern, code) => {
    expect(() => compilePattern(pattern)).toThrow(expect.objectContaining({ problem: expect.objectContaining({ code }) }))
  })

  test('a pattern that takes others for ever ends', () => {
    expect(compilePattern('(a+)+$')(`${'a'.repeat(5000)}b`)).toBe(false)
  })

  // Common practice: how chapters are named where no style says so.
  test.each([
    ['Chapter 7', 'Chapter 7. The Brook'], ['Chapter 7', 'KAPITEL IV'], ['Chapter One', 'Chapter the Last'], ['VII.', 'VII.'], ['7.', '12 The Brook'], ['Part One', 'PART TWO'],
  ])('the usual pattern %s knows “%s”', (name, text) => {
    expect(compilePattern(usualPatterns.find(each => each.name === name)!.pattern)(text)).toBe(true)
  })

  test('front and back matter is proposed to be left out', () => {
    const book = manuscript([heading('Contents'), paragraph('One 3'), heading('One'), paragraph('a'), heading('Index'), paragraph('bees 12')])
    expect(proposed(book).parts.map(part => [part.label, part.kind, part.included])).toEqual([['Contents', 'frontMatter', false], ['One', 'chapter', true], ['Index', 'backMatter', false]])
    expect(proposed(book, { included: { 4: true } }).parts[2]!.included).toBe(true)
    expect(['Table of Contents', 'INHALTSVERZEICHNIS', '9. Notes', 'Noting the Weather'].map(matterOf)).toEqual(['contents', 'contents', 'notes', null])
  })

  test('the title page alone makes no part, is listed, and can be read', () => {
    const book = manuscript([heading('The Year', 0, { titlePage: true }), paragraph('T. Orrery', { titlePage: true }), heading('One'), paragraph('a')], { title: 'The Year' })
    expect([labels(book), dropped(book)]).toEqual([['One'], { 'title-page': 2 }])
    expect(labels(book, { restoredKinds: ['title-page'] })).toEqual(['The Year', 'One'])
  })
})

describe('what is read', () => {
  const book = manuscript([
    heading('One'),
    paragraph('Ten hives stand.', { marks: [{ at: 9, note: 'n1' }], cuts: [{ kind: 'footnote-mark', at: 9, text: '1' }] }),
    paragraph('Counted twice.', { note: 'n1' }), paragraph('By hand.', { note: 'n1' }),
    { kind: 'tableRow', text: 'Month, Work', cells: ['Month', 'Work'] }, { kind: 'tableRow', text: 'March, look', cells: ['March', 'look'], columns: ['Month', 'Work'] },
    paragraph('x = 1', { dropped: 'code' }),
    paragraph('See the list now.', { cuts: [{ kind: 'link-target', at: 12, text: 'https://a.example' }, { kind: 'image', at: 16, text: 'a hive' }], emphasis: [[13, 16]] }),
  ])
  const read = (choices: Partial<Choices> = {}): string[] => passages(book, choices)

  test('footnotes are left out, read after their passage, or at the end of the part', () => {
    expect(read()).toEqual(['One', 'Ten hives stand.', 'Month, Work', 'March, look', 'See the list now.'])
    expect(read({ footnotes: 'in-place' }).slice(1, 4)).toEqual(['Ten hives stand.', 'Counted twice.', 'By hand.'])
    expect(read({ footnotes: 'at-end' }).slice(-2)).toEqual(['Counted twice.', 'By hand.'])
    expect(proposed(book, { footnotes: 'at-end' }).parts[0]!.passages.at(-1)!.kind).toBe('note')
  })

  test('tables are read row by row, with the names of their columns, or not', () => {
    expect(read({ tables: 'with-headers' })).toContain('Month: March, Work: look')
    expect(read({ tables: 'leave-out' })).toEqual(['One', 'Ten hives stand.', 'See the list now.'])
  })

  test('every drop is counted once, a note whatever its length', () => {
    expect(dropped(book)).toEqual({ 'footnote-mark': 1, 'footnote': 1, 'code': 1, 'link-target': 1, 'image': 1 })
    expect(dropped(book, { tables: 'leave-out', footnotes: 'in-place' })).toEqual({ 'footnote-mark': 1, 'table': 2, 'code': 1, 'link-target': 1, 'image': 1 })
  })

  test('one drop, or all of a kind, can be read all the same', () => {
    expect(read({ restored: ['6'] })).toContain('x = 1')
    expect(read({ restored: ['7.0'] }).at(-1)).toBe('See the list https://a.example now.')
    expect(read({ images: 'read', restoredKinds: ['link-target'] }).at(-1)).toBe('See the list https://a.example now a hive.')
    expect(read({ restored: ['2'] })[2]).toBe('Counted twice.')
  })

  test('emphasis moves with what is put back before it', () => {
    const { text, emphasis } = proposed(book, { restored: ['7.0'] }).parts[0]!.passages.at(-1)!
    expect(emphasis!.map(([start, end]) => text.slice(start, end))).toEqual(['now'])
  })
})

describe('an excerpt', () => {
  const book = manuscript([
    heading('Contents', 1, { page: '1' }), paragraph('One'), heading('One', 1, { page: '2' }), paragraph('First here. Second here.'), heading('Two', 1, { page: '3' }), paragraph('Third here. Fourth here.', { emphasis: [[6, 10], [19, 23]] }),
  ])

  test('of the first parts that are read, sentences or pages', () => {
    expect(labels(book, { excerpt: { parts: 1 } })).toEqual(['Contents', 'One'])
    expect(proposed(book, { excerpt: { sentences: 2 } }).parts.filter(part => part.included).flatMap(part => part.passages.map(passage => passage.text))).toEqual(['One', 'First here.'])
    expect(labels(book, { excerpt: { pages: ['2', '2'] } })).toEqual(['One'])
    expect(() => proposed(book, { excerpt: { pages: ['2', '9'] } })).toThrow('it has pages 1 to 3')
  })

  test('of every part: its first sentences or words, with the emphasis that is left', () => {
    expect(passages(book, { excerpt: { each: { words: 3 } } })).toEqual(['Contents', 'One', 'One', 'First here.', 'Two', 'Third here.'])
    const [two] = proposed(book, { excerpt: { each: { sentences: 2 } } }).parts.slice(-1)
    expect(two!.passages[1]).toMatchObject({ text: 'Third here.', emphasis: [[6, 10]] })
  })
})

describe('decks and batches', () => {
  const units: SourceUnit[] = [{ kind: 'slide', label: 'Welcome' }, { kind: 'slide', label: 'Secret', hidden: true }, { kind: 'slide', label: 'Slide 3' }]
  const deck = manuscript([
    heading('Welcome', 1, { unit: 0, layer: 'slide' }), paragraph('Bring tea', { unit: 0, layer: 'slide' }), paragraph('Say hello.', { unit: 0, layer: 'notes' }),
    paragraph('Whisper.', { unit: 1, layer: 'notes' }), paragraph('A picture', { unit: 2, layer: 'slide' }),
  ], { units })

  test('a slide is a part with its notes; hidden ones are left out, those without notes stay', () => {
    expect(proposed(deck).parts).toMatchObject([
      { kind: 'slide', label: 'Welcome', included: true, passages: [{ text: 'Say hello.' }], about: { onScreen: ['Welcome', 'Bring tea'] } },
      { label: 'Secret', included: false, about: { hidden: true } }, { label: 'Slide 3', included: true, passages: [] },
    ])
  })

  test('what is on the slides can be read instead, or both', () => {
    expect(passages(deck, { from: 'slide' })).toEqual(['Welcome', 'Bring tea', 'A picture'])
    expect(passages(deck, { from: 'both' })).toEqual(['Welcome', 'Bring tea', 'Say hello.', 'Whisper.', 'A picture'])
  })

  test('a table on a slide is what is on the slide', () => {
    const row: Block = { kind: 'tableRow', text: 'March, look', cells: ['March', 'look'], unit: 0, layer: 'slide' }
    expect(passages({ ...deck, blocks: [...deck.blocks.slice(0, 2), row, ...deck.blocks.slice(2)] })).toEqual(['Say hello.', 'Whisper.'])
  })

  test('short texts of a slide can be parts of their own, after it', () => {
    expect(proposed(deck, { hints: true }).parts.map(part => [part.kind, part.label, part.included])).toEqual([
      ['slide', 'Welcome', true], ['hint', 'Bring tea', true], ['slide', 'Secret', false], ['slide', 'Slide 3', true], ['hint', 'A picture', true],
    ])
  })

  test('an article is one part whatever its headings, with a first line from a template', () => {
    const articles = manuscript([paragraph('Bees fly.', { unit: 0 }), heading('Sub', 2, { unit: 0 }), paragraph('Bees fly.', { unit: 1 }), heading('Sub', 2, { unit: 1 })], {
      units: [{ kind: 'article', label: 'Swarm', author: 'W. Orrery', date: '2026-05-04' }, { kind: 'article', label: 'Swarm' }],
    })
    const { parts } = proposed(articles, { opening: '{title}, by {author}' })
    expect(parts.map(part => part.passages[0]!.text)).toEqual(['Swarm, by W. Orrery', 'Swarm'])
    expect(proposed(articles, { opening: '{title}, {date}' }).parts.map(part => [part.included, part.about?.duplicateOf])).toEqual([[true, undefined], [false, 'Swarm']])
    expect(proposed(articles, { included: { 2: true } }).parts[1]).toMatchObject({ included: true, about: { duplicateOf: 'Swarm' } })
  })

  test.each([
    ['{title}, by {author} ({date}).', 'Swarm, by A (2026).', { author: 'A', date: '2026' }], ['{title}, by {author}', 'Swarm', {}],
    ['By {author}: {title}', 'Swarm', {}], ['Now: {title}', 'Now: Swarm', {}], ['', '', { author: 'A' }],
  ])('the template %s gives “%s”', (template, line, rest) => {
    expect(openingLine(template, { kind: 'article', label: 'Swarm', ...rest })).toBe(line)
  })

  test('the default for units is a part for each', () => {
    expect(defaultChoices(deck).split).toEqual({ by: 'unit' })
  })
})
