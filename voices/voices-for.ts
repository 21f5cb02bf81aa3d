import { primaryLanguage } from '#core/language/abbreviations'
import type { Voice } from './port'

/** The voices that speak a language: the exact tag first, then the others of the same language. */
export function voicesFor<V extends Pick<Voice, 'id' | 'language'>>(voices: readonly V[], language: string): V[] {
  const tag = language.toLowerCase()
  const primary = primaryLanguage(language)
  return voices
    .filter(voice => primaryLanguage(voice.language) === primary)
    .sort((a, b) => closeness(b, tag) - closeness(a, tag))
}

/** The usual voice of a language that has several and none without a region. */
const usual: ReadonlySet<string> = new Set(['en-gb', 'fr-fr', 'cmn'])

function closeness(voice: Pick<Voice, 'id'>, tag: string): number {
  if (voice.id === tag) return 2
  return usual.has(voice.id) ? 1 : 0
}
