import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { canonicalContent, type Content } from '#core/script/content'
import type { ConflictBody, OperationsAnswer, Page, PagePeaks } from '#shared/api'
import type { Operation } from '#shared/schemas'
import { ApiError, ask, OfflineError } from '~/utils/api'
import { useNotices } from './notices'

const saveAfterMs = 500
const retryAfterMs = 3000

/** A passage that was changed here and elsewhere. */
export interface PageConflict {
  readonly passageId: string
  readonly mine: Content
  readonly theirs: Content
  readonly revision: number
}

/** The part that is open: its passages, their utterances, and the edits on their way to the server. */
export const usePage = defineStore('page', () => {
  const notices = useNotices()
  const page = shallowRef<Page | null>(null)
  const peaks = shallowRef<PagePeaks>({})
  /** Counts loads that replace the text in the editor. */
  const loadTick = ref(0)
  const unsaved = ref(new Map<string, Content>())
  const state = ref<'saved' | 'saving' | 'offline'>('saved')
  const conflicts = ref<PageConflict[]>([])
  const revisions = new Map<string, number>()
  let editionId = ''

  const status = computed(() => {
    if (conflicts.value.length > 0) return 'conflict'
    if (state.value === 'offline') return 'offline'
    return unsaved.value.size > 0 || state.value === 'saving' ? 'saving' : 'saved'
  })

  async function open(edition: string, partId: string): Promise<void> {
    editionId = edition
    await flush()
    const loaded = await ask<Page>(`/api/parts/${partId}`)
    for (const passage of loaded.passages) revisions.set(passage.id, passage.revision)
    page.value = loaded
    loadTick.value += 1
    await loadPeaks()
  }

  /** Loads the utterances again, and the text too unless something here is not saved. */
  async function refresh(): Promise<void> {
    const id = page.value?.part.id
    if (id === undefined) return
    const loaded = await ask<Page>(`/api/parts/${id}`)
    if (page.value?.part.id !== id || unsaved.value.size > 0 || state.value !== 'saved' || conflicts.value.length > 0) return
    const foreign = loaded.passages.some(passage => revisions.get(passage.id) !== passage.revision)
    for (const passage of loaded.passages) revisions.set(passage.id, passage.revision)
    page.value = loaded
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

  function edit(passageId: string, content: Content): void {
    unsaved.value.set(passageId, canonicalContent(content))
    saveLater()
  }

  let saving: Promise<void> | null = null
  /** Sends what is not saved. Resolves when it is, or could not be. */
  function flush(): Promise<void> {
    if (timer !== null) clearTimeout(timer)
    timer = null
    saving ??= save().finally(() => {
      saving = null
      if (unsaved.value.size > 0 && conflicts.value.length === 0) saveLater(state.value === 'offline' ? retryAfterMs : saveAfterMs)
    })
    return saving
  }

  async function save(): Promise<void> {
    const batch = new Map(unsaved.value)
    if (batch.size === 0 || conflicts.value.length > 0) return
    const operations = [...batch].map(([passageId, content]): Operation => ({
      op: 'setContent', passageId, revision: revisions.get(passageId) ?? 1, content: content,
    }))
    if (state.value === 'saved') state.value = 'saving'
    try {
      const answer = await ask<OperationsAnswer>(`/api/editions/${editionId}/operations`, 'POST', { operations })
      for (const [id, revision] of Object.entries(answer.revisions)) revisions.set(id, revision)
      for (const [id, content] of batch) if (unsaved.value.get(id) === content) unsaved.value.delete(id)
      state.value = 'saved'
      if (unsaved.value.size === 0) await refresh()
    } catch (error) {
      settle(error, batch)
    }
  }

  function settle(error: unknown, batch: ReadonlyMap<string, Content>): void {
    if (error instanceof OfflineError) {
      state.value = 'offline'
    } else if (error instanceof ApiError && error.status === 409) {
      state.value = 'saved'
      conflicts.value = (error.body as ConflictBody).conflicts.flatMap(conflict => {
        const mine = batch.get(conflict.id)
        return mine === undefined || conflict.content === undefined ? [] : [{ passageId: conflict.id, mine, theirs: conflict.content, revision: conflict.revision }]
      })
    } else {
      // The text stays in the page and is sent again with the next change.
      state.value = 'offline'
      notices.show((error as Error).message)
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

  return { page, peaks, loadTick, status, conflicts, unsaved, open, refresh, edit, flush, resolve }
})
