import { computed, ref, type ComputedRef, type Ref } from 'vue'
import { primaryLanguage } from '#core/language/abbreviations'
import type { VoicesView } from '#shared/api'
import { useNotices } from '~/stores/notices'
import { ask } from '~/utils/api'
import { languageName } from '~/utils/format'

export interface LanguageItem {
  readonly title: string
  readonly value: string
}

/** The voices, and the languages they speak as items of a list: with their regions, or by primary tag alone. */
export function useLanguages(withRegions: boolean, own: Ref<string | undefined>): { voices: Ref<VoicesView | null>, languages: ComputedRef<LanguageItem[]> } {
  const notices = useNotices()
  const voices = ref<VoicesView | null>(null)
  void notices.attempt(async () => { voices.value = await ask<VoicesView>('/api/voices') })
  const languages = computed(() => {
    const spoken = voices.value?.voices.map(voice => voice.language) ?? []
    const tags = new Set([...spoken.map(primaryLanguage), ...(withRegions ? spoken : []), ...(own.value === undefined ? [] : [own.value])])
    return [...tags].map(value => ({ title: `${languageName(value)} (${value})`, value })).sort((a, b) => a.title.localeCompare(b.title))
  })
  return { voices, languages }
}
