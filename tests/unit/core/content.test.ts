import { canonicalContent, directionSpans, plainContent, writtenText, type Content } from '#core/script/content'
import { spokenForm, writtenSpan } from '#core/score/spoken'

const leftOut = (id: string) => ({ id, kind: 'leftOut' as const })

describe('content', () => {
  test('equal neighbours are joined and empty runs dropped', () => {
    const content: Content = { version: 2, runs: [{ text: 'a', on: [] }, { text: '', on: [] }, { text: 'b', on: [] }], directions: [] }
    expect(canonicalContent(content)).toEqual(plainContent('ab'))
  })

  test('two neighbouring directions of one kind stay apart', () => {
    const content: Content = { version: 2, runs: [{ text: 'a', on: ['x'] }, { text: 'b', on: ['y'] }], directions: [leftOut('x'), leftOut('y')] }
    expect(canonicalContent(content)).toEqual(content)
    expect(directionSpans(content).map(({ direction, start, end }) => [direction.id, start, end])).toEqual([['x', 0, 1], ['y', 1, 2]])
  })

  test('directions nest by start, then the longer first, then by id', () => {
    const content: Content = {
      version: 2, runs: [{ text: 'ab', on: ['c', 'b', 'a'] }, { text: 'c', on: ['b'] }], directions: [leftOut('a'), leftOut('b'), leftOut('c')],
    }
    expect(directionSpans(content).map(span => span.direction.id)).toEqual(['b', 'a', 'c'])
    expect(canonicalContent(content).runs[0]!.on).toEqual(['b', 'a', 'c'])
  })

  test('a direction that covers nothing is dropped', () => {
    expect(canonicalContent({ version: 2, runs: [{ text: 'a', on: ['gone'] }], directions: [leftOut('x')] })).toEqual(plainContent('a'))
  })
})

describe('spoken form', () => {
  test('what is left out is not spoken, and the map leads back over it', () => {
    const content: Content = {
      version: 2, directions: [leftOut('x')],
      runs: [{ text: 'The bees ', on: [] }, { text: '(see p. 4) ', on: ['x'] }, { text: 'came.', on: [] }],
    }
    const form = spokenForm(content, 'en')
    expect(form.text).toBe('The bees came.')
    expect(writtenText(content).slice(...writtenSpan(form, 4, 14))).toBe('bees (see p. 4) came.')
    expect(form.groups).toEqual([{ written: [0, 9], spoken: [0, 9] }, { written: [20, 25], spoken: [9, 14] }])
  })

  test('NUL, control characters and soft hyphens are not spoken; the written text keeps them', () => {
    const content = plainContent('Be\u0000es in su\u00adgar.')
    expect(spokenForm(content, 'en').text).toBe('Bees in sugar.')
    expect(writtenText(content)).toBe('Be\u0000es in su\u00adgar.')
  })
})
