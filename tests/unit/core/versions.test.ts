import { compareVersions, type OldPassage } from '#core/manuscript/compare'
import { directionSpans, emphasised, writtenText } from '#core/script/content'
import { divideScript, type DividedPart } from '#core/script/divide'
import { renamed } from '#core/script/rename'
import { withText } from '#core/script/retext'

const old = (...texts: (string | [imported: string, written: string])[]): OldPassage[] => texts.map((text, index) => {
  const [imported, written] = typeof text === 'string' ? [text, text] : text
  return { id: String(index), part: 'p', imported, written }
})
const states = (before: OldPassage[], ...after: string[]) =>
  compareVersions(before, after.map(text => ({ text }))).map(row => `${row.state}${row.conflict ? '!' : ''} ${row.before ?? '-'}>${row.after ?? '-'}`)

describe('a new version of a manuscript', () => {
  test('what is equal is the same, whatever the white space', () => {
    expect(states(old('One.', 'Two  bees.'), 'One.', 'Two bees.')).toEqual(['same 0>0', 'same 1>1'])
  })

  test('knows what moved, what was edited, what is new, and what is gone and where', () => {
    expect(states(old('The bees came home at dusk.', 'Nobody saw them.', 'Then it rained all night.', 'The end.'),
      'Then it rained all night.', 'The bees came home before dusk.', 'A wholly new sentence stands here.', 'The end.')).toEqual(['same 2>0', 'edited 0>1', 'gone 1>-', 'new ->2', 'same 3>3'])
    expect(states(old('Alpha alpha.', 'Beta beta.', 'Gamma gamma.'), 'Gamma gamma.', 'Alpha alpha.', 'Beta beta.')).toEqual(['moved 2>0', 'same 0>1', 'same 1>2'])
  })

  test('a passage that was edited on both sides is a conflict, one that was edited here alone is the same', () => {
    expect(states(old(['The bees came home at dusk.', 'The bees came home late.']), 'The bees came home before dusk.')).toEqual(['edited! 0>0'])
    expect(states(old(['The bees came home at dusk.', 'The bees came home late.']), 'The bees came home at dusk.')).toEqual(['same 0>0'])
    expect(states(old(['The bees came home at dusk.', 'The bees came home before dusk.']), 'The bees came home before dusk.')).toEqual(['edited 0>0'])
  })

  test('a passage that was changed here and is gone there is a conflict', () => {
    expect(states(old('One.', ['Two bees.', 'Two bees or three.']), 'One.')).toEqual(['same 0>0', 'gone! 1>-'])
  })

  test('5,000 passages with a hundred changes are compared', () => {
    const texts = Array.from({ length: 5000 }, (_, index) => `Sentence number ${index} of a long manuscript says thing ${index * 7919 % 104729}.`)
    const rows = compareVersions(old(...texts), texts.map((text, index) => ({ text: index % 50 === 7 ? `${text} And more.` : text })))
    expect(rows.filter(row => row.state === 'edited')).toHaveLength(100)
  })
})

describe('a content with another text', () => {
  const marked = (text: string, edited: string): string[] => {
    const content = emphasised(text, [[4, 8]])
    const after = withText(content, edited)
    expect(writtenText(after)).toBe(edited)
    return directionSpans(after).map(({ start, end }) => edited.slice(start, end))
  }

  test.each([
    ['The bees fly.', 'The bees fly home.', ['bees']], ['The bees fly.', 'Now the bees fly.', ['bees']], ['The bees fly.', 'The bumblebees fly.', ['bumblebees']], ['The bees fly.', 'It fly.', []],
  ])('“%s” → “%s” keeps the emphasis on %j', (text, edited, expected) => {
    expect(marked(text, edited)).toEqual(expected)
  })
})

describe('dividing a script anew', () => {
  const passage = (id: string, text: string, level: number | null = null) => ({ id, kind: level === null ? 'paragraph' as const : 'heading' as const, text, level, block: null })
  const parts: DividedPart[] = [
    { id: 'A', label: 'My own name', passages: [{ ...passage('1', 'One', 1), kind: 'title' }, passage('2', 'text'), passage('3', 'Inside', 2), passage('4', 'more')] },
    { id: 'B', label: 'Two', passages: [{ ...passage('5', 'Two', 1), kind: 'title' }, passage('6', 'text')] },
  ]

  test('parts that begin where one began are the same and keep their names', () => {
    expect(divideScript(parts, { by: 'heading', level: 2 }, []).map(group => [group.part, group.label, group.passages.map(each => `${each.id} ${each.kind}`)])).toEqual([
      ['A', 'My own name', ['1 title', '2 paragraph']], [null, 'Inside', ['3 title', '4 paragraph']], ['B', 'Two', ['5 title', '6 paragraph']],
    ])
  })

  test('a title that begins no part any more is a heading', () => {
    const [group, ...others] = divideScript(parts, { by: 'pattern', pattern: 'nothing' }, [])
    expect([others, group!.passages[4]]).toEqual([[], { id: '5', kind: 'heading' }])
  })
})

describe('renaming by a pattern', () => {
  test('replaces the first match, with groups and numbers', () => {
    expect(renamed(['1. The Lane', '2. Lime Flow', 'Coda'], '^\\d+\\. (.*)$', 'Chapter {n}: $1')).toEqual(['Chapter 1: The Lane', 'Chapter 2: Lime Flow', 'Coda'])
  })

  test('never leaves a part without a name', () => {
    expect(renamed(['Coda'], '.*', '')).toEqual(['Coda'])
  })

  test.each([['(', 'x', 'pattern-broken'], ['(a)', '$9', 'replacement-broken']])('%s → %s is refused', (find, replace, code) => {
    expect(() => renamed(['a'], find, replace)).toThrow(expect.objectContaining({ problem: expect.objectContaining({ code }) }))
  })
})
