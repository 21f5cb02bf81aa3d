import { Extension } from '@tiptap/core'
import { Plugin } from '@tiptap/pm/state'

export interface HeldTypingOptions {
  /** Called when what was held goes on with a new passage. */
  readonly onEnter: () => void
}

interface HeldTypingStorage {
  /** What was typed meanwhile, a line end for each Enter; null when nothing is held. */
  held: string | null
}

declare module '@tiptap/core' {
  interface Storage {
    heldTyping: HeldTypingStorage
  }
  interface Commands<ReturnType> {
    heldTyping: {
      /** Keeps what is typed from now on until `typeHeld`. */
      holdTyping: () => ReturnType
      /** Puts in, where the caret is now, what was held. */
      typeHeld: () => ReturnType
    }
  }
}

/** While passages are parted or joined, what is typed waits for its place. */
export const HeldTyping: Extension<HeldTypingOptions, HeldTypingStorage> = Extension.create<HeldTypingOptions, HeldTypingStorage>({
  name: 'heldTyping',
  priority: 1000,
  addOptions: () => ({ onEnter: () => undefined }),
  addStorage: () => ({ held: null }),
  addCommands() {
    return {
      holdTyping: () => () => {
        this.storage.held ??= ''
        return true
      },
      typeHeld: () => ({ tr }) => {
        const [text = '', ...others] = (this.storage.held ?? '').split('\n')
        this.storage.held = null
        if (text !== '') tr.insertText(text).scrollIntoView()
        if (others.length > 0) {
          this.storage.held = others.join('\n')
          setTimeout(() => this.options.onEnter())
        }
        return true
      },
    }
  },
  addProseMirrorPlugins() {
    const { storage } = this
    return [new Plugin({
      props: {
        handleTextInput: (_view, _from, _to, text) => {
          if (storage.held === null) return false
          storage.held += text
          return true
        },
        handleKeyDown: (_view, event) => {
          if (storage.held === null || event.ctrlKey || event.metaKey || event.altKey) return false
          if (event.key === 'Enter') storage.held += '\n'
          else if (event.key === 'Backspace') storage.held = storage.held.slice(0, -1)
          else return event.key.length > 1 && event.key !== 'Process'
          return true
        },
      },
    })]
  },
})
