import { useDebounceFn } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'
import type { Sayable } from '#shared/api'
import type { SayableRequest } from '#shared/schemas'
import { useDesk } from '~/stores/desk'
import { ask } from '~/utils/api'

/**
 * Why the narrator's voice cannot say a pronunciation (IPA, null for none) in a language (BCP 47), soon after it was written.
 * `settled` asks at once when that is not known yet.
 */
export function useSayable(ipa: Readonly<Ref<string | null>>, language: Readonly<Ref<string>>): { readonly reason: Ref<string | null>, readonly settled: () => Promise<void> } {
  const desk = useDesk()
  const reason = ref<string | null>(null)
  let [asked, answered] = [0, 0]

  async function settled(): Promise<void> {
    if (answered === asked) return
    const own = asked
    const request: SayableRequest | null = ipa.value === null ? null : { ph: ipa.value, language: language.value }
    // Where the server is away, that is told when the word is kept.
    const answer = request === null || desk.editionId === null ? null : await ask<Sayable>(`/api/editions/${desk.editionId}/sayable`, 'POST', request).catch(() => null)
    if (own !== asked) return
    answered = own
    reason.value = answer?.reason ?? null
  }

  const soon = useDebounceFn(settled, 200)
  watch([ipa, language], () => {
    asked += 1
    reason.value = null
    void soon()
  }, { immediate: true })
  return { reason, settled }
}
