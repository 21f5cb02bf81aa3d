import { Mark, Node } from '@tiptap/core'
import { type Direction, type DirectionValue } from '#core/script/directions'
import { signOf } from './signs'

/** One part: its passages, in order. */
export const PartDocument: Node = Node.create({ name: 'doc', topNode: true, content: 'passage*' })

export const WrittenText: Node = Node.create({ name: 'text', group: 'inline' })

/** One passage; its id ties it to the script, its kind gives it its look. */
export const PassageNode: Node = Node.create({
  name: 'passage',
  content: '(text | point)*',
  defining: true,
  addAttributes: () => ({ id: { default: '' }, kind: { default: 'paragraph' }, level: { default: null }, language: { default: null }, role: { default: null } }),
  parseHTML: () => [{ tag: 'p' }],
  renderHTML: ({ node }) => ['p', {
    'class': `passage passage-${String(node.attrs.kind)}`, 'data-id': String(node.attrs.id),
    ...(node.attrs.language === null ? {} : { 'lang': String(node.attrs.language), 'data-language': String(node.attrs.language) }),
  }, 0],
})

const stored = 'data-direction'

const directionAttribute = {
  direction: {
    default: null,
    parseHTML: (element: HTMLElement): unknown => JSON.parse(element.getAttribute(stored) ?? 'null'),
    renderHTML: (): object => ({}),
  },
}

function looks(direction: Direction): Record<string, string> {
  const { className, tag, title } = signOf(direction)
  return {
    'class': className, [stored]: JSON.stringify(direction), title,
    ...(tag === undefined ? {} : { 'data-tag': tag }),
  }
}

/** A direction on a span. Those of one kind may overlap, so the mark excludes nothing; what is typed behind it is not in it. */
export const DirectionMark: Mark = Mark.create({
  name: 'direction',
  excludes: '',
  inclusive: false,
  addAttributes: () => directionAttribute,
  parseHTML: () => [{ tag: `span[${stored}]` }],
  renderHTML: ({ mark }) => ['span', looks(mark.attrs.direction as Direction), 0],
})

/** A direction at a point: a rest, a sound, something that is kept. */
export const PointNode: Node = Node.create({
  name: 'point',
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  marks: '_',
  addAttributes: () => directionAttribute,
  parseHTML: () => [{ tag: `i[${stored}]` }],
  renderHTML: ({ node }) => {
    const direction = node.attrs.direction as Direction
    const { label, title } = signOf(direction)
    return ['i', { ...looks(direction), 'role': 'img', 'aria-label': title, 'data-label': label ?? '' }]
  },
})

/** The value of a direction, without its id. */
export function valueOf(direction: Direction): DirectionValue {
  const { id: _, ...value } = direction
  return value as DirectionValue
}
