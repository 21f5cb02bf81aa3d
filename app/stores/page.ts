import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { canonicalContent, type Content } from '#core/script/content'
import type { ConflictBody, OperationsAnswer, Page, PagePassage, PagePeaks } from '#shared/api'
import type { Operation } from '#shared/operations'
import { ApiError, ask, messageOf, OfflineError } from '~/utils/api'
import { keptEdits, type KeptEdits } from '~/utils/kept-edits'
import { windowName } from '~/utils/window-name'

const saveAfterMs = 500
/** Who types without a pause is saved this often. */
const saveAtLatestMs = 3000
const retryAfterMs = 3000

/** A passage that was changed here, where it is not saved, and elsewhere. */
export interface PageConflict {
  readonly passageId: string
  readonly theirs: Content
  readonly revision: number
}

/** The part that is open: its passages, their utterances, and the edits on their way to the server. */
export const usePage = defineStore('page', () => {
  const page = shallowRef<Page | null>(null)
  const peaks = shallowRef<PagePeaks>({})
  /** Counts loads that replace the text in the editor. */
  const loadTick = ref(0)
  const unsaved = ref(new Map<string, Content>())
  const state = ref<'saved' | 'saving' | 'offline' | 'refused'>('saved')
  /** Why the server refused what was typed. */
  const refusal = ref('')
  const conflicts = ref<PageConflict[]>([])
  const revisions = new Map<string, number>()
  let editionId = ''
  let kept: KeptEdits | null = null

  const status = computed(() => {
    if (conflicts.value.length > 0) return 'conflict'
    if (state.value === 'offline' || state.value === 'refused') return state.value
    return unsaved.value.size > 0 || state.value === 'saving' ? 'saving' : 'saved'
  })

  async function open(edition: string, partId: string): Promise<void> {
    if (editionId !== edition) {
      editionId = edition
      kept = keptEdits(await windowName(), edition)
      for (const { passageId, revision, content } of kept.read()) {
        unsaved.value.set(passageId, content)
        revisions.set(passageId, revision)
      }
    }
    await flush()
    const loaded = await ask<Page>(`/api/parts/${partId}`)
    show({ ...loaded, passages: loaded.passages.map(passage => ({ ...passage, content: unsaved.value.get(passage.id) ?? passage.content })) })
    loadTick.value += 1
    await loadPeaks()
  }

  /** What is not saved keeps the revision it started from. */
  function show(loaded: Page): void {
    for (const passage of loaded.passages) if (!unsaved.value.has(passage.id)) revisions.set(passage.id, passage.revision)
    page.value = loaded
  }

  /** Takes over passages as the server has them now. What was typed meanwhile stays. */
  function apply(passages: readonly PagePassage[]): void {
    const changed = new Map(passages.filter(passage => !unsaved.value.has(passage.id)).map(passage => [passage.id, passage]))
    for (const { id, revision } of passages) revisions.set(id, revision)
    if (page.value === null) return
    page.value = { ...page.value, passages: page.value.passages.map(passage => changed.get(passage.id) ?? passage) }
    loadTick.value += 1
  }

  /** Loads the utterances again, and the text too unless something here is not saved. */
  async function refresh(): Promise<void> {
    const id = page.value?.part.id
    if (id === undefined) return
    const loaded = await ask<Page>(`/api/parts/${id}`)
    if (page.value?.part.id !== id || unsaved.value.size > 0 || state.value !== 'saved' || conflicts.value.length > 0) return
    const shown = page.value.passages
    const foreign = loaded.passages.length !== shown.length
      || loaded.passages.some((passage, index) => shown[index]!.id !== passage.id || revisions.get(passage.id) !== passage.revision)
    show(loaded)
    if (foreign) loadTick.value += 1
    await loadPeaks()
  }

  async function loadPeaks(): Promise<void> {
    const id = page.value?.part.id
    if (id === undefined) return
    const wanted = page.value!.utterances.filter(utterance => utterance.read && peaks.value[utterance.key] === undefined)
    if (wanted.length === 0) return
    peaks.value = await ask<PagePeaks>(`/api/parts/${id}/peaks`)
  }

  let timer: ReturnType<typeof setTimeout> | null = null
  function saveLater(ms = saveAfterMs): void {
    if (timer !== null) clearTimeout(timer)
    timer = setTimeout(() => void flush(), ms)
  }

  let unsavedSince = 0
  function edit(passageId: string, content: Content): void {
    if (unsaved.value.size === 0) unsavedSince = Date.now()
    unsaved.value.set(passageId, canonicalContent(content))
    keep()
    saveLater(Math.min(saveAfterMs, Math.max(0, unsavedSince + saveAtLatestMs - Date.now())))
  }

  /** Writes what is not saved into the browser's own store, where a reload finds it. */
  function keep(): void {
    kept?.write([...unsaved.value].map(([passageId, content]) => ({ passageId, content, revision: revisions.get(passageId) ?? 1 })))
  }

  let saving: Promise<void> | null = null
  /** Sends what is not saved. Resolves when it is, or could not be. */
  function flush(): Promise<void> {
    if (timer !== null) clearTimeout(timer)
    timer = null
    saving ??= save().finally(() => {
      saving = null
      unsavedSince = Date.now()
      keep()
      if (state.value !== 'refused' && unsaved.value.size > 0 && conflicts.value.length === 0) saveLater(state.value === 'offline' ? retryAfterMs : saveAfterMs)
    })
    return saving
  }

  async function save(): Promise<void> {
    const batch = new Map(unsaved.value)
    if (batch.size === 0 || conflicts.value.length > 0) return
    const operations = [...batch].map(([passageId, content]): Operation => ({
      op: 'setContent', passageId, revision: revisions.get(passageId) ?? 1, content,
    }))
    if (state.value !== 'offline') state.value = 'saving'
    try {
      const answer = await ask<OperationsAnswer>(`/api/editions/${editionId}/operations`, 'POST', { window: await windowName(), operations })
      for (const [id, revision] of Object.entries(answer.revisions)) revisions.set(id, revision)
      for (const [id, content] of batch) if (unsaved.value.get(id) === content) unsaved.value.delete(id)
      state.value = 'saved'
      if (unsaved.value.size === 0) await refresh()
    } catch (error) {
      settle(error)
    }
  }

  function settle(error: unknown): void {
    if (error instanceof OfflineError) {
      state.value = 'offline'
    } else if (error instanceof ApiError && error.status === 409) {
      state.value = 'saved'
      conflicts.value = (error.body as ConflictBody).conflicts.flatMap(({ id, content, revision }) =>
        content === undefined ? [] : [{ passageId: id, theirs: content, revision }])
    } else {
      // The text stays in the page and is sent again with the next change.
      state.value = 'refused'
      refusal.value = messageOf(error)
    }
  }

  /** Decides a conflict: the text of this window is saved over the other one, or given up for it. */
  async function resolve(conflict: PageConflict, keep: 'mine' | 'theirs'): Promise<void> {
    revisions.set(conflict.passageId, conflict.revision)
    conflicts.value = conflicts.value.filter(other => other.passageId !== conflict.passageId)
    if (keep === 'theirs') unsaved.value.delete(conflict.passageId)
    await flush()
    if (keep === 'theirs' && page.value !== null) await open(editionId, page.value.part.id)
  }

  return { page, peaks, loadTick, status, refusal, conflicts, unsaved, open, apply, refresh, edit, flush, resolve }
})
