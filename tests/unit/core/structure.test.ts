import type { Block, Manuscript } from '#core/manuscript/manuscript'
import { countWords, isSpeakable } from '#core/manuscript/manuscript'
import { defaultChoices, defaultSplit, headingLevels, type Choices } from '#core/manuscript/choices'
import { propose } from '#core/manuscript/structure'

const heading = (text: string, level: number): Block => ({ kind: 'heading', text, level })
const paragraph = (text: string): Block => ({ kind: 'paragraph', text })

function manuscript(blocks: Block[], title: string | null = null): Manuscript {
  return { format: 'text', title, author: null, language: 'en', languageSource: 'declared', units: [], problems: [], blocks }
}

const parts = (book: Manuscript, choices: Partial<Choices> = {}) => propose(book, { ...defaultChoices(book), ...choices }).parts

describe('structure', () => {
  test('parts begin at the shallowest heading level that occurs', () => {
    const book = manuscript([heading('One', 2), paragraph('a'), heading('Inside', 3), heading('Two', 2), paragraph('b')])
    expect(defaultSplit(book)).toEqual({ by: 'heading', level: 2 })
    const found = parts(book)
    expect(found.map(part => part.label)).toEqual(['One', 'Two'])
    expect(found[0]!.passages.map(passage => passage.kind)).toEqual(['title', 'paragraph', 'heading'])
  })

  test('one heading that opens the document above deeper ones is its title, and alone makes no part', () => {
    const book = manuscript([heading('The Book', 1), heading('One', 2), paragraph('a'), heading('Two', 2), paragraph('b')], 'The Book')
    expect(parts(book).map(part => part.label)).toEqual(['One', 'Two'])
  })

  test.each([
    ['a dedication', [paragraph('For the bees.'), heading('The Book', 1)]],
    ['a line of a draft and what a cover shows', [paragraph('Draft 3'), paragraph('A hive on a cover'), heading('The Book', 1)]],
    ['a second line of the title', [heading('The Book', 0), heading('A year among hives', 0)]],
    ['a line between title and subtitle', [heading('The Book', 0), paragraph('by T. Orrery'), heading('A year', 0)]],
    ['a logo that is left out', [{ kind: 'paragraph', text: 'Logo', dropped: 'image' } as Block, heading('The Book', 1)]],
  ])('%s before or behind the title leaves the chapters what they are', (_, opening) => {
    const book = manuscript([...opening, heading('One', 2), paragraph('a'), heading('Two', 2), paragraph('b')], 'The Book')
    expect(defaultSplit(book)).toEqual({ by: 'heading', level: 2 })
    expect(parts(book).filter(part => part.label !== 'The Book').map(part => part.label)).toEqual(['One', 'Two'])
    // Nothing is lost: what belongs to the title is read with it, or listed.
    const { parts: all, drops } = propose(book, defaultChoices(book))
    const shown = [...all.flatMap(part => part.passages.map(passage => passage.text)), ...drops.map(drop => drop.text)]
    expect(opening.filter(block => !shown.includes(block.text))).toEqual([])
  })

  test('two chapters of one level are no title, whatever is below the second', () => {
    const book = manuscript([heading('One', 1), paragraph('a few words'), heading('Two', 1), heading('Inside', 2), paragraph('b')])
    expect(parts(book).map(part => part.label)).toEqual(['One', 'Two'])
    const long = manuscript([paragraph('word '.repeat(200)), heading('One', 1), paragraph('a'), heading('Inside', 2), heading('More', 2)])
    expect(parts(long).map(part => part.label)).toEqual(['word word word word word word …', 'One'])
  })

  test('a document whose title is “Contents” keeps its introduction; a chapter of that name is left out', () => {
    const book = manuscript([heading('Contents', 1), paragraph('What is in a hive.'), heading('One', 2), paragraph('a'), heading('Contents', 2), paragraph('b')], 'Contents')
    expect(parts(book).map(part => [part.label, part.included])).toEqual([['Contents', true], ['One', true], ['Contents', false]])
  })

  test('a document that is nothing but notes is read, and one whose own title is “Notes” is no matter', () => {
    const only = manuscript([heading('Notes', 1), paragraph('Ten hives stand.')])
    expect(parts(only).map(part => [part.label, part.kind, part.included])).toEqual([['Notes', 'chapter', true]])
    const titled = manuscript([heading('Notes', 1), paragraph('a'), heading('One', 1), paragraph('b')], 'Notes')
    expect(parts(titled).map(part => [part.label, part.included])).toEqual([['Notes', true], ['One', true]])
    expect(parts(only, { included: { 0: false } }).map(part => part.included)).toEqual([false])
  })

  test('text below the document’s title is a part under that title', () => {
    const book = manuscript([heading('The Book', 1), paragraph('preface'), heading('One', 2), paragraph('a')], 'The Book')
    const [first] = parts(book)
    expect(first).toMatchObject({ label: 'The Book', passages: [{ kind: 'title', text: 'The Book' }, { kind: 'paragraph', text: 'preface' }] })
  })

  test('text before the first heading is a part, named by its first words when the document has no title', () => {
    const book = manuscript([paragraph('It was a wet spring in the lane, and nobody came.'), heading('One', 1), paragraph('a')])
    expect(parts(book).map(part => part.label)).toEqual(['It was a wet spring in …', 'One'])
  })

  test('the heading level can be chosen', () => {
    const book = manuscript([heading('I', 1), heading('a', 2), paragraph('x'), heading('b', 2), heading('II', 1), paragraph('y')])
    expect(parts(book, { split: { by: 'heading', level: 1 } }).map(part => part.label)).toEqual(['I', 'II'])
    expect(parts(book, { split: { by: 'heading', level: 2 } }).map(part => part.label)).toEqual(['I', 'a', 'b', 'II'])
    expect(headingLevels(book.blocks)).toEqual([{ level: 1, count: 2 }, { level: 2, count: 2 }])
  })

  test('a document without headings is one part', () => {
    const book = manuscript([paragraph('a b'), paragraph('c d')], 'Notes')
    expect(parts(book)).toEqual([
      { kind: 'chapter', label: 'Notes', included: true, level: null, block: 0, about: null, passages: [{ kind: 'paragraph', text: 'a b', block: 0 }, { kind: 'paragraph', text: 'c d', block: 1 }] },
    ])
  })

  test('words are counted as a producer counts them', () => {
    expect(countWords('Bees – and 11 hives, isn’t it? —')).toBe(6)
  })

  test('punctuation alone cannot be spoken, a sign or a figure can', () => {
    expect([isSpeakable('* * *'), isSpeakable('—'), isSpeakable('7'), isSpeakable('€'), isSpeakable('é')]).toEqual([false, false, true, true, true])
  })
})
