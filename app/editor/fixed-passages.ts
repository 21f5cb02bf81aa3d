import { Extension } from '@tiptap/core'
import { Plugin } from '@tiptap/pm/state'
import { Slice, Fragment, type Node } from '@tiptap/pm/model'
import { asInline } from './commands'
import { looksLikeSsml } from './paste'

export interface FixedPassagesOptions {
  /** Called with SSML that is pasted; nothing is put in then. */
  readonly onSsml: (text: string) => void
}

/**
 * Text is edited within passages; their number and order are not changed by typing, pasting or dropping. What is pasted
 * from a script keeps its directions; SSML is offered as directions; anything else comes as plain text.
 */
export const FixedPassages: Extension<FixedPassagesOptions> = Extension.create<FixedPassagesOptions>({
  name: 'fixedPassages',
  addOptions: () => ({ onSsml: () => undefined }),
  addProseMirrorPlugins() {
    const { onSsml } = this.options
    return [new Plugin({
      filterTransaction: (transaction, state) =>
        !transaction.docChanged || transaction.getMeta('load') === true || passageIds(transaction.doc) === passageIds(state.doc),
      props: {
        handleDOMEvents: {
          // The browser reports a moved caret later than the key that moved it. A key that follows at once acts where the caret is.
          keydown: view => {
            view.dom.ownerDocument.dispatchEvent(new Event('selectionchange'))
            return false
          },
        },
        clipboardTextParser: (text, _context, _plain, view) => {
          const line = text.replace(/\s+/gu, ' ')
          return new Slice(line === '' ? Fragment.empty : Fragment.from(view.state.schema.text(line)), 0, 0)
        },
        handlePaste: (view, event, slice) => {
          const html = event.clipboardData?.getData('text/html') ?? ''
          const text = event.clipboardData?.getData('text/plain') ?? ''
          if (html.includes('data-pm-slice')) {
            view.dispatch(view.state.tr.replaceSelection(asInline(slice)).scrollIntoView())
          } else if (looksLikeSsml(text)) {
            onSsml(text)
          } else if (text.trim() !== '') {
            view.dispatch(view.state.tr.insertText(text.replace(/\s+/gu, ' ')).scrollIntoView())
          }
          return true
        },
      },
    })]
  },
})

function passageIds(doc: Node): string {
  const ids: string[] = []
  doc.forEach(node => ids.push(String(node.attrs.id)))
  return ids.join(' ')
}
