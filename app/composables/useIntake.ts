import { computed, onScopeDispose, ref, watch, type ComputedRef, type Ref } from 'vue'
import type { Choices } from '#core/manuscript/choices'
import type { DropKind } from '#core/manuscript/manuscript'
import type { ManuscriptFound, ManuscriptProposal, ManuscriptView } from '#shared/api'
import type { ReaderOptions } from '#shared/schemas'
import { useNotices } from '~/stores/notices'
import { ask, messageOf, OfflineError } from '~/utils/api'

/** Between two questions of how far a document is. */
const pollMs = 300

export interface Intake {
  readonly document: Ref<ManuscriptView | null>
  readonly found: ComputedRef<ManuscriptFound | null>
  readonly proposal: Ref<ManuscriptProposal | null>
  readonly choices: ComputedRef<Choices | null>
  /** Choices that differ from the defaults. */
  readonly chosen: Ref<Partial<Choices>>
  readonly shown: Ref<number>
  /** Why the last choice could not be followed. */
  readonly refused: Ref<string | null>
  readonly choose: (change: Partial<Choices>) => void
  readonly restore: (drop: { readonly id?: string, readonly kind: DropKind }, restored: boolean) => void
  readonly readAgain: (options: ReaderOptions) => Promise<void>
  readonly stop: () => Promise<void>
}

/** A document on its way in: how far its reading is, what was found, and the proposal by the choices made. */
export function useIntake(id: string): Intake {
  const notices = useNotices()
  const document = ref<ManuscriptView | null>(null)
  const proposal = ref<ManuscriptProposal | null>(null)
  const chosen = ref<Partial<Choices>>({})
  const shown = ref(0)
  const refused = ref<string | null>(null)
  const found = computed(() => document.value?.found ?? null)
  const choices = computed<Choices | null>(() => found.value === null ? null : { ...found.value.choices, ...chosen.value })
  let timer: ReturnType<typeof setTimeout> | undefined
  let asked = 0

  async function follow(): Promise<void> {
    clearTimeout(timer)
    try {
      document.value = await ask<ManuscriptView>(`/api/manuscripts/${id}`)
    } catch (error) {
      if (!(error instanceof OfflineError)) {
        showError({ statusCode: 404, data: messageOf(error) })
        return
      }
    }
    if (document.value === null || document.value.state === 'reading') timer = setTimeout(() => void follow(), pollMs)
    else if (document.value.state === 'ready') await propose()
  }

  /** Asks for the proposal; an answer that was overtaken by a later question is not shown. */
  async function propose(): Promise<void> {
    asked += 1
    const own = asked
    try {
      const answer = await ask<ManuscriptProposal>(`/api/manuscripts/${id}/proposal`, 'POST', { choices: chosen.value, shown: shown.value })
      if (own !== asked) return
      proposal.value = answer
      refused.value = null
      if (answer.shown === null && answer.parts.length > 0) shown.value = 0
    } catch (error) {
      if (own === asked) refused.value = messageOf(error)
    }
  }

  function choose(change: Partial<Choices>): void {
    chosen.value = { ...chosen.value, ...change }
  }

  function restore({ id: drop, kind }: { readonly id?: string, readonly kind: DropKind }, restored: boolean): void {
    const { restoredKinds = [], restored: single = [] } = chosen.value
    if (drop === undefined) choose({ restoredKinds: restored ? [...restoredKinds, kind] : restoredKinds.filter(each => each !== kind) })
    else choose({ restored: restored ? [...single, drop] : single.filter(each => each !== drop) })
  }

  async function readAgain(options: ReaderOptions): Promise<void> {
    const answer = await notices.attempt(() => ask<ManuscriptView>(`/api/manuscripts/${id}/read`, 'POST', options))
    if (answer === null) return
    document.value = answer
    proposal.value = null
    await follow()
  }

  async function stop(): Promise<void> {
    document.value = await notices.attempt(() => ask<ManuscriptView>(`/api/manuscripts/${id}/stop`, 'POST', {})) ?? document.value
  }

  watch([chosen, shown], () => { if (found.value !== null) void propose() })
  onScopeDispose(() => clearTimeout(timer))
  void follow()
  return { document, found, proposal, choices, chosen, shown, refused, choose, restore, readAgain, stop }
}
