import { defineStore } from 'pinia'
import { ref } from 'vue'
import type { EditHistory, UndoAnswer, UndoConflict, UndoConflictBody } from '#shared/api'
import type { Operation } from '#shared/operations'
import type { UndoRequest } from '#shared/schemas'
import { ApiError, ask } from '~/utils/api'
import { windowName } from '~/utils/window-name'
import { editName } from '~/utils/words'
import { useDesk } from './desk'
import { useNotices } from './notices'
import { usePage } from './page'

type Direction = UndoRequest['direction']

/** An undo or redo that was refused, because of what was changed since. */
export interface RefusedUndo {
  readonly direction: Direction
  readonly editId: string
  readonly conflicts: readonly UndoConflict[]
}

/** Undo and redo over all edits of this window, across parts and reloads. */
export const useHistory = defineStore('history', () => {
  const desk = useDesk()
  const page = usePage()
  const notices = useNotices()
  const next = ref<EditHistory>({ undo: null, redo: null })
  const refused = ref<RefusedUndo | null>(null)

  async function load(): Promise<void> {
    next.value = await ask<EditHistory>(`/api/editions/${desk.editionId}/history?window=${await windowName()}`)
  }

  let last: Promise<unknown> = Promise.resolve()
  /** Takes a step after those already asked for. Resolves to the part in which the change is to be seen, if any. */
  function step(direction: Direction): Promise<string | null> {
    const taken = last.then(() => takeStep(direction))
    last = taken
    return taken
  }

  async function takeStep(direction: Direction): Promise<string | null> {
    try {
      await page.flush()
      if (page.status !== 'saved') {
        notices.show('Undo waits until your text is saved. Nothing of it is lost.')
        return null
      }
      const answer = await send({ window: await windowName(), direction })
      next.value = answer
      refused.value = null
      page.apply(answer.passages)
      if (answer.done !== null && answer.done.kind !== 'text') {
        notices.show(`${direction === 'undo' ? 'Taken back' : 'Done again'}: ${editName(answer.done)}.`)
        await desk.refresh()
      }
      return answer.partId
    } catch (error) {
      if (error instanceof ApiError && error.problem.code === 'undo-conflict') {
        const { editId, conflicts } = error.body as UndoConflictBody
        refused.value = { direction, editId, conflicts }
      } else {
        notices.show((error as Error).message)
      }
      return null
    }
  }

  const send = (request: UndoRequest): Promise<UndoAnswer> => ask<UndoAnswer>(`/api/editions/${desk.editionId}/undo`, 'POST', request)

  /** Keeps what is there; the edit that met it is given up, so that the one before it comes next. */
  async function keepThatIsThere(): Promise<void> {
    const { direction, editId } = refused.value!
    next.value = await send({ window: await windowName(), direction, giveUp: editId })
    refused.value = null
  }

  /** Puts the earlier texts back over what is there, as an edit of its own. */
  async function putBack(): Promise<void> {
    const operations = refused.value!.conflicts.flatMap((conflict): Operation[] => conflict.content === null || conflict.revision === null
      ? []
      : [{ op: 'setContent', passageId: conflict.id, revision: conflict.revision, content: conflict.content }])
    await keepThatIsThere()
    await desk.operate(operations)
  }

  return { next, refused, load, step, keepThatIsThere, putBack }
})
