import { computed, toValue, type ComputedRef, type MaybeRefOrGetter, type Ref } from 'vue'
import { ipaOf, saidFault } from '#core/words/faults'
import type { Said } from '#core/words/wordbook'

/** What is wrong with how words are said in a language (BCP 47), and their sounds in IPA where nothing is wrong. */
export function useSaid(said: Readonly<Ref<Said>>, language: MaybeRefOrGetter<string>): { readonly fault: ComputedRef<string | null>, readonly ipa: ComputedRef<string | null> } {
  const fault = computed(() => saidFault(said.value, toValue(language)))
  const ipa = computed(() => fault.value === null ? ipaOf({ said: [said.value], language: toValue(language) }) : null)
  return { fault, ipa }
}
