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
