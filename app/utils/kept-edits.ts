import type { Content } from '#core/script/content'

/** A text on its way to the server, with the revision it started from. */
export interface KeptEdit {
  readonly passageId: string
  readonly revision: number
  readonly content: Content
}

export interface KeptEdits {
  readonly read: () => readonly KeptEdit[]
  readonly write: (edits: readonly KeptEdit[]) => void
}

/** The unsaved texts of a window in the browser's own store, so that a reload or a crash loses none. */
export function keptEdits(window: string, editionId: string): KeptEdits {
  const key = `unsaved ${window} ${editionId}`
  return {
    read: () => JSON.parse(localStorage.getItem(key) ?? '[]') as KeptEdit[],
    write: edits => {
      if (edits.length === 0) localStorage.removeItem(key)
      else localStorage.setItem(key, JSON.stringify(edits))
    },
  }
}
