import { strangeSign } from './ipa'
import { respell } from './respelling'
import { readingOf, type Said, type WordEntry } from './wordbook'

/** What is wrong with how a word is said: a sentence for the user with the place in it; null when nothing is. */
export function saidFault(said: Said, language: string): string | null {
  if (said.by === 'letters') return null
  if (said.text.trim() === '') return said.by === 'alias' ? 'Write the words that are spoken instead.' : said.by === 'ipa' ? 'Write its sounds in IPA.' : 'Write the syllables as they sound, such as var-ROH-ah.'
  if (said.by === 'respelling') {
    const respelt = respell(said.text, language)
    return 'ipa' in respelt ? null : `At sign ${respelt.at + 1}: ${respelt.message}`
  }
  const strange = said.by === 'ipa' ? strangeSign(said.text) : null
  return strange === null ? null : `At sign ${strange.at + 1}: “${strange.sign}” is no sign of IPA.`
}

/** The IPA of a reading, when it is one of sounds. */
export function ipaOf(entry: Pick<WordEntry, 'said' | 'language'>): string | null {
  const said = readingOf(entry)
  if (said.by === 'ipa') return said.text
  const respelt = said.by === 'respelling' ? respell(said.text, entry.language) : null
  return respelt !== null && 'ipa' in respelt ? respelt.ipa : null
}

/** Ids of entries of one wordbook that speak for the same word at the same places: only the first of them counts. */
export function conflictsIn(entries: readonly WordEntry[]): ReadonlySet<string> {
  const first = new Map<string, string>()
  const found = new Set<string>()
  for (const { id, graphemes, language, matchCase, partOfWord, beside, partsOfSpeech } of entries) {
    for (const grapheme of graphemes) {
      const place = JSON.stringify([matchCase === true ? grapheme : grapheme.toLowerCase(), language.toLowerCase(), matchCase ?? false, partOfWord ?? false, beside?.before ?? [], beside?.after ?? [], partsOfSpeech ?? []])
      const earlier = first.get(place)
      if (earlier === undefined) first.set(place, id)
      else if (earlier !== id) found.add(id).add(earlier)
    }
  }
  return found
}
