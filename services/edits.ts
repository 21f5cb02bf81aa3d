import type { Operation } from '#shared/operations'
import type { UndoRequest } from '#shared/schemas'
import { undo, type UndoResult } from '#store/edits'
import { applyOperations, type ApplyResult } from '#store/operations'
import type { Place } from './place'

// Changes of a script and how they are taken back. Most of them change a few passages, and are made in the server itself: what this file imports is loaded there.

interface OfWindow {
  readonly editionId: string
  readonly window: string
  readonly operations: readonly Operation[]
}

export function operate({ database }: Place, { editionId, window, operations }: OfWindow): Promise<ApplyResult> {
  return applyOperations(database, editionId, window, operations)
}

export function undoEdit({ database }: Place, { editionId, request }: { readonly editionId: string, readonly request: UndoRequest }): Promise<UndoResult> {
  return undo(database, editionId, request)
}
