import { primaryLanguage } from '#core/language/abbreviations'
import { canonicalLanguage } from '#core/language/tag'
import type { Voice } from './port'

/** The voices that speak a language: the exact tag first, then the others of the same language. */
export function voicesFor<V extends Pick<Voice, 'id' | 'language'>>(voices: readonly V[], language: string): V[] {
  const tag = language.toLowerCase()
  const primary = spokenLanguage(language)
  return voices
    .filter(voice => spokenLanguage(voice.language) === primary)
    .sort((a, b) => closeness(b, tag) - closeness(a, tag))
}

/** Chinese has two names: `cmn` is `zh` (BCP 47, canonical form). */
function spokenLanguage(language: string): string {
  return primaryLanguage(canonicalLanguage(language) ?? language)
}

/** The usual voice of a language that has several and none without a region. The other one for Chinese calls the tones by English numbers. */
const usual: ReadonlySet<string> = new Set(['en-gb', 'fr-fr', 'cmn-latn-pinyin'])

function closeness(voice: Pick<Voice, 'id'>, tag: string): number {
  if (voice.id === tag) return 2
  return usual.has(voice.id) ? 1 : 0
}
