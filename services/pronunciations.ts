import { inSoundsOf } from '#core/words/sounds-of'
import { primaryLanguage } from '#core/language/abbreviations'
import type { Pronunciations, ProposedPronunciation } from '#shared/api'
import type { PronunciationsRequest } from '#shared/schemas'
import { narratorOf } from '#store/editions'
import { likelyLanguages } from '#voices/likely-languages'
import { nearWords } from '#voices/near-words'
import { voicesFor } from '#voices/voices-for'
import type { Place } from './place'

/** So many other languages are proposed, and so many words that look alike. */
const [mostLanguages, mostWords] = [3, 2]
/** Shorter words may come from anywhere. */
const leastLetters = 3

/**
 * How the narrator's voice says a word now, and how it could be said: as the languages that it may come from say it, as words that look like it are said, and letter by
 * letter. With `as` (BCP 47), as that language says it alone. Nothing is told where the engine tells no sounds.
 */
export async function pronunciationsOf({ engines }: Place, { editionId, word, language, as }: PronunciationsRequest & { readonly editionId: string }): Promise<Pronunciations> {
  const narrator = await narratorOf(editionId)
  const { voices } = await engines.list()
  const speakers = voices.filter(voice => voice.engine === narrator.engine)
  const saidBy = async (voice: string, texts: readonly string[]): Promise<readonly string[]> => (await engines.inIpa({ engine: narrator.engine, voice }, texts)).map(ipa => ipa.trim())
  // A word of another language than the narrator's is said by a voice of that language.
  const own = speakers.find(voice => voice.id === narrator.voice.split('+')[0] && primaryLanguage(voice.language) === primaryLanguage(language)) ?? voicesFor(speakers, language)[0]
  const voice = own === undefined || own.id === narrator.voice.split('+')[0] ? narrator.voice : own.id
  const [now = ''] = await saidBy(voice, [word])

  const asLanguage = async (other: string): Promise<ProposedPronunciation[]> => {
    const [speaker] = voicesFor(speakers, other)
    const [ipa = ''] = speaker === undefined ? [] : await saidBy(speaker.id, [word])
    return ipa === '' ? [] : [{ by: 'language', of: other, ipa: inSoundsOf(ipa, language) }]
  }
  if (as !== undefined) return { now, proposals: await asLanguage(as) }

  const [foreign, near] = await Promise.all([[...word].length < leastLetters ? [] : likelyLanguages(word), nearWords(language, word)])
  const languages = foreign.filter(each => primaryLanguage(each) !== primaryLanguage(language)).slice(0, mostLanguages)
  const byLanguage = (await Promise.all(languages.map(asLanguage))).flat()
  const words = near.slice(0, mostWords)
  const byWord = (await saidBy(voice, words)).map((ipa, index): ProposedPronunciation => ({ by: 'word', of: words[index]!, ipa }))
  const [letters = ''] = await saidBy(voice, [[...word.replace(/[^\p{L}\p{N}]/gu, '').toUpperCase()].join(', ')])
  const known = new Set([now])
  const differing = [...byLanguage, ...byWord].filter(({ ipa }) => ipa !== '' && !known.has(ipa) && known.add(ipa).size > 0)
  return { now, proposals: [...differing, ...letters === '' || known.has(letters) ? [] : [{ by: 'letters' as const, of: null, ipa: letters }]] }
}
