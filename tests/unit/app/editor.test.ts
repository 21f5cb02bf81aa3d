import { getSchema } from '@tiptap/core'
import { canonicalContent, plainContent, type Content } from '#core/script/content'
import { EditorState } from '@tiptap/pm/state'
import { directionsIn, moveDirection } from '~/editor/commands'
import { takeOver, toContent, toDocument } from '~/editor/convert'
import { DirectionMark, PartDocument, PassageNode, PointNode, WrittenText } from '~/editor/schema'

const schema = getSchema([PartDocument, WrittenText, PassageNode, DirectionMark, PointNode])

function roundTrip(content: Content): Content {
  const document = schema.nodeFromJSON(toDocument([{ id: 'p1', kind: 'paragraph', content, language: null, role: null, revision: 1 }]))
  document.check()
  return toContent(document.child(0))
}

const leftOut = (id: string) => ({ id, kind: 'leftOut' as const })

describe('the script in the editor and back', () => {
  test.each<[string, Content]>([
    ['plain text', plainContent('The bees came in low.')],
    ['an empty passage', plainContent('')],
    ['a direction in the middle', { version: 2, runs: [{ text: 'a ', on: [] }, { text: 'b', on: ['x'] }, { text: ' c', on: [] }], directions: [leftOut('x')] }],
    ['two neighbours of one kind', { version: 2, runs: [{ text: 'a', on: ['x'] }, { text: 'b', on: ['y'] }], directions: [leftOut('x'), leftOut('y')] }],
    ['one inside another of its kind', { version: 2, runs: [{ text: 'a', on: ['x'] }, { text: 'b', on: ['x', 'y'] }, { text: 'c', on: ['x'] }], directions: [leftOut('x'), leftOut('y')] }],
    ['two that overlap', { version: 2, runs: [{ text: 'a', on: ['x'] }, { text: 'b', on: ['x', 'y'] }, { text: 'c', on: ['y'] }], directions: [leftOut('x'), leftOut('y')] }],
  ])('keeps %s', (_, content) => {
    expect(roundTrip(content)).toEqual(canonicalContent(content))
  })

  test('keeps ids, kinds and order of the passages', () => {
    const passages = [
      { id: 'a', kind: 'title' as const, content: plainContent('One'), language: null, role: null, revision: 3 },
      { id: 'b', kind: 'quotation' as const, content: plainContent('Two'), language: 'de', role: 'Mentor', revision: 1 },
    ]
    const document = schema.nodeFromJSON(toDocument(passages))
    const found: unknown[] = []
    document.forEach(node => found.push([node.attrs.id, node.attrs.kind, node.textContent]))
    expect(found).toEqual([['a', 'title', 'One'], ['b', 'quotation', 'Two']])
  })
})

describe('taking over what the server has', () => {
  const document = (...texts: string[]) => texts.map((text, index) => ({ id: `p${index}`, kind: 'paragraph' as const, content: plainContent(text), language: null, role: null, revision: 1 }))
  const state = (...texts: string[]): EditorState => EditorState.create({ doc: schema.nodeFromJSON(toDocument(document(...texts))) })

  test.each([
    [['one', 'two'], ['one', 'two!']],
    [['aaa', 'b'], ['aaaa', 'b']],
    [['aaaa', 'b'], ['aa', 'bb']],
    [['', 'x'], ['new', '']],
    [['one', 'two'], ['one']],
    [['one'], ['one', 'two']],
  ])('turns %j into %j', (from, to) => {
    expect(takeOver(state(...from), document(...to)).doc.toJSON()).toEqual(schema.nodeFromJSON(toDocument(document(...to))).toJSON())
  })

  test('leaves passages that are the same alone', () => {
    expect(takeOver(state('one', 'two'), document('one', 'two')).steps).toEqual([])
    const { steps, doc } = takeOver(state('one', 'two', 'three'), document('one', 'too', 'three'))
    expect(steps).toHaveLength(1)
    expect(doc.textContent).toBe('onetoothree')
  })
})

describe('a direction that is moved', () => {
  const emphasis = { id: 'e', kind: 'emphasis' as const, level: 'strong' as const }
  const state = (content: Content): EditorState => EditorState.create({ doc: schema.nodeFromJSON(toDocument([{ id: 'p', kind: 'paragraph', content, language: null, role: null, revision: 1 }])) })
  /** The passage with brackets around each direction, and a bar for each point. */
  function shown(content: Content): string {
    return content.runs.map(run => run.point === undefined ? run.on.reduce(text => `[${text}]`, run.text) : '|').join('')
  }
  function moved(content: Content, id: string, ...steps: (-1 | 1)[]): string | null {
    let current = state(content)
    for (const by of steps) {
      const placed = directionsIn(current.doc).find(each => each.direction.id === id)!
      const transaction = moveDirection(current, placed, by)
      if (transaction === null) return null
      current = current.apply(transaction)
    }
    return shown(toContent(current.doc.child(0)))
  }
  const span: Content = { version: 2, runs: [{ text: 'The ', on: [] }, { text: 'bees came', on: ['e'] }, { text: ' home again.', on: [] }], directions: [emphasis] }
  const rest: Content = { version: 2, runs: [{ text: 'The ', on: [] }, { text: '', on: [], point: 'r' }, { text: 'bees came.', on: [] }], directions: [{ id: 'r', kind: 'rest', ms: 300 }] }

  test('goes on by words, and back', () => {
    expect(moved(span, 'e', 1)).toBe('The bees [came home] again.')
    expect(moved(span, 'e', 1, 1)).toBe('The bees came [home again.]')
    expect(moved(span, 'e', 1, -1)).toBe('The [bees came] home again.')
    expect(moved(rest, 'r', 1)).toBe('The bees |came.')
    expect(moved(rest, 'r', 1, 1)).toBe('The bees came.|')
    expect(moved(rest, 'r', -1)).toBe('|The bees came.')
  })

  test('stays in its passage', () => {
    expect(moved(span, 'e', 1, 1, 1)).toBeNull()
    expect(moved(span, 'e', -1, -1)).toBeNull()
    expect(moved(rest, 'r', -1, -1)).toBeNull()
  })

  test('does not go where something is spoken as one', () => {
    const both: Content = {
      version: 2, runs: [{ text: 'The ', on: [] }, { text: 'bees', on: ['e'] }, { text: ' ', on: [] }, { text: 'came home', on: ['s'] }],
      directions: [emphasis, { id: 's', kind: 'substitute', alias: 'x' }],
    }
    expect(moved(both, 'e', 1)).toBeNull()
    expect(moved(both, 's', -1)).toBeNull()
  })
})
