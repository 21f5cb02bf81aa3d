import type { KnownWords } from '#core/words/known-words'
import type { KnownWordsRequest } from '#shared/schemas'
import { narratorOf } from '#store/editions'
import { englishWords, knownWords } from '#voices/known-words'
import type { Place } from './place'

/** What dictionaries know of the words of a script, and how the narrator's voice says them. */
export async function knownWordsOf({ engines }: Place, { editionId, language, words, names }: KnownWordsRequest & { readonly editionId: string }): Promise<KnownWords> {
  return knownWords(engines, await narratorOf(editionId), language, { words, names })
}

/** The words of the CMU Pronouncing Dictionary, one a line. */
export function dictionaryWords(): Promise<Buffer> {
  return Promise.resolve(Buffer.from(englishWords().join('\n')))
}
