import type { Content } from '#core/script/content'
import type { Said } from '#core/words/wordbook'

/** The ways to say a word, as they are offered. */
export const saidWays: readonly { readonly by: Said['by'], readonly title: string, readonly hint: string }[] = [
  { by: 'respelling', title: 'Respelt', hint: 'syllables as they sound, the stressed one in capitals: var-ROH-ah' },
  { by: 'ipa', title: 'In IPA', hint: 'its sounds: vəˈɹəʊə' },
  { by: 'alias', title: 'As other words', hint: 'what is spoken in its place' },
  { by: 'letters', title: 'Letter by letter', hint: '' },
]

/** A word as a passage that says it so, to be heard before it is kept. */
export function heardContent(word: string, said: Said, ipa: string | null): Content {
  const direction = said.by === 'letters' ? { kind: 'sayAs' as const, interpretAs: 'characters' }
    : said.by === 'alias' ? { kind: 'substitute' as const, alias: said.text }
      : { kind: 'phoneme' as const, ph: ipa ?? said.text }
  return { version: 2, runs: [{ text: word, on: ['said'] }], directions: [{ id: 'said', ...direction }] }
}
