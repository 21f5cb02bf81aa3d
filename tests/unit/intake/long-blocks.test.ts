import type { Block } from '#core/manuscript/manuscript'
import { writtenText } from '#core/script/content'
import { withoutLongBlocks } from '../../../intake/long-blocks'

const longest = 20_000
/** 50 characters with the space behind it. */
const sentence = 'The bees of hive seven came home late today, all. '
const long = sentence.repeat(1000).trimEnd()
const cut = (block: Partial<Block>): Block[] => withoutLongBlocks([{ kind: 'paragraph', text: long, ...block }], 'en').blocks

describe('a very long paragraph', () => {
  test('is cut at the last end of a sentence that fits, with a note', () => {
    const { blocks, problems } = withoutLongBlocks([{ kind: 'paragraph', text: 'Short.' }, { kind: 'paragraph', text: long, after: 'page', page: '3' }], 'en')
    expect(blocks.slice(1).map(block => block.text.length)).toEqual([longest - 1, longest - 1, 9_999])
    expect(blocks.map(block => block.text).join(' ')).toBe(`Short. ${long}`)
    expect(blocks.map(({ page, after }) => [page, after])).toEqual([[undefined, undefined], ['3', 'page'], [undefined, undefined], [undefined, undefined]])
    expect(problems).toEqual([{ code: 'paragraph-cut-1', message: 'The paragraph that begins with “The bees of hive seven came home late today, all. The bees o” has 49,999 characters. It is cut into 3 passages, at ends of sentences.' }])
  })

  test('is left alone up to the limit', () => {
    const text = `${sentence.repeat(399)}${sentence.trimEnd()}!`
    expect(withoutLongBlocks([{ kind: 'paragraph', text }], 'en')).toEqual({ blocks: [{ kind: 'paragraph', text }], problems: [] })
  })

  test('is cut between words where a sentence is longer, and within a word without any end, never within a sign', () => {
    const words = 'honey '.repeat(5000).trimEnd()
    expect(cut({ text: words }).map(({ text }) => [text.length, text.startsWith('honey'), text.endsWith('honey')])).toEqual([[19_997, true, true], [10_001, true, true]])
    const signs = '🐝'.repeat(15_000)
    const pieces = cut({ text: `.${signs}` }).map(block => block.text)
    expect(pieces.join('')).toBe(`.${signs}`)
    for (const piece of pieces) expect(piece.isWellFormed()).toBe(true)
  })

  test('keeps its notes, its cuts, what is emphasised and its directions at their words', () => {
    const at = [0, longest - 1, longest, longest + 3, long.length]
    const marks = at.map((place, index) => ({ at: place, note: String(index) }))
    const pieces = cut({ marks, cuts: [{ kind: 'comment', at: longest + 4, text: 'x' }], emphasis: [[longest - 5, longest + 3]] })
    expect(pieces.map(piece => piece.marks)).toEqual([[{ at: 0, note: '0' }, { at: longest - 1, note: '1' }], [{ at: 0, note: '2' }, { at: 3, note: '3' }], [{ at: 9_999, note: '4' }]])
    expect(pieces.map(piece => piece.cuts?.map(each => each.at))).toEqual([undefined, [4], undefined])
    expect(pieces.map(piece => piece.emphasis)).toEqual([[[longest - 5, longest - 1]], [[0, 3]], undefined])
    const content = { version: 2 as const, runs: [{ text: long.slice(0, 25_000), on: [] }, { text: long.slice(25_000, 25_010), on: ['a'] }, { text: long.slice(25_010), on: [] }], directions: [{ id: 'a', kind: 'emphasis' as const, level: 'strong' as const }] }
    const directed = cut({ content })
    expect(directed.map(piece => writtenText(piece.content!))).toEqual(directed.map(piece => piece.text))
    expect(directed.map(piece => piece.content!.directions.length)).toEqual([0, 1, 0])
  })

  test('that is a heading goes on as text; a footnote stays one', () => {
    expect(cut({ kind: 'heading', level: 1 }).map(({ kind, level }) => [kind, level])).toEqual([['heading', 1], ['paragraph', undefined], ['paragraph', undefined]])
    expect(cut({ note: '7' }).map(({ note }) => note)).toEqual(['7', '7', '7'])
  })

  test('is told by itself up to five times, and not where it is not read', () => {
    const { problems } = withoutLongBlocks([...Array.from({ length: 7 }, (): Block => ({ kind: 'paragraph', text: long })), { kind: 'paragraph', text: long, dropped: 'code' }], 'en')
    expect(problems.map(({ code }) => code)).toEqual(['paragraph-cut-1', 'paragraph-cut-2', 'paragraph-cut-3', 'paragraph-cut-4', 'paragraph-cut-5', 'paragraphs-cut'])
    expect(problems.at(-1)!.message).toMatch(/^2 more paragraphs/u)
  })
})
