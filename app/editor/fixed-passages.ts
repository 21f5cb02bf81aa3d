import { Extension } from '@tiptap/core'
import { Plugin } from '@tiptap/pm/state'
import { Slice, Fragment, type Node } from '@tiptap/pm/model'

/** Text is edited within passages; their number and order are not changed by typing, pasting or dropping. */
export const FixedPassages: Extension = Extension.create({
  name: 'fixedPassages',
  addProseMirrorPlugins: () => [new Plugin({
    filterTransaction: (transaction, state) =>
      !transaction.docChanged || transaction.getMeta('load') === true || passageIds(transaction.doc) === passageIds(state.doc),
    props: {
      // What is pasted comes as plain text into one passage.
      clipboardTextParser: (text, _context, _plain, view) => {
        const line = text.replace(/\s+/gu, ' ')
        return new Slice(line === '' ? Fragment.empty : Fragment.from(view.state.schema.text(line)), 0, 0)
      },
      handlePaste: (view, event) => {
        const text = event.clipboardData?.getData('text/plain').replace(/\s+/gu, ' ') ?? ''
        if (text !== '') view.dispatch(view.state.tr.insertText(text).scrollIntoView())
        return true
      },
    },
  })],
})

function passageIds(doc: Node): string {
  const ids: string[] = []
  doc.forEach(node => ids.push(String(node.attrs.id)))
  return ids.join(' ')
}
