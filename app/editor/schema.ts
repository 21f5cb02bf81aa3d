import { Mark, Node } from '@tiptap/core'

/** One part: its passages, in order. */
export const PartDocument: Node = Node.create({ name: 'doc', topNode: true, content: 'passage+' })

export const WrittenText: Node = Node.create({ name: 'text', group: 'inline' })

/** One passage; its id ties it to the script, its kind gives it its look. */
export const PassageNode: Node = Node.create({
  name: 'passage',
  content: 'text*',
  defining: true,
  addAttributes: () => ({ id: { default: '' }, kind: { default: 'paragraph' } }),
  parseHTML: () => [{ tag: 'p' }],
  renderHTML: ({ node }) => ['p', { 'class': `passage passage-${String(node.attrs.kind)}`, 'data-id': String(node.attrs.id) }, 0],
})

/** Written but not spoken. Directions of one kind may overlap, so the mark excludes nothing. */
export const LeftOutMark: Mark = Mark.create({
  name: 'leftOut',
  excludes: '',
  addAttributes: () => ({ id: { default: '' } }),
  renderHTML: () => ['s', { class: 'left-out' }, 0],
})
