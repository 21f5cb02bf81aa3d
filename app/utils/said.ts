import { primaryLanguage } from '#core/language/abbreviations'
import type { DirectionOf } from '#core/script/directions'
import { plainContent, type Content } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import type { Said } from '#core/words/wordbook'

/** The ways to say a word, as they are offered. What another language says is kept as its sounds. */
export const saidWays: readonly { readonly by: Said['by'] | 'language', readonly title: string, readonly hint: string }[] = [
  { by: 'respelling', title: 'By syllables', hint: 'as they sound, the stressed one in capitals: var-ROH-ah' },
  { by: 'ipa', title: 'In IPA', hint: 'its sounds: vəˈɹəʊə' },
  { by: 'language', title: 'As another language says it', hint: '' },
  { by: 'alias', title: 'As other words', hint: 'what is spoken in its place' },
  { by: 'letters', title: 'Letter by letter', hint: '' },
]

/** The way that a pronunciation in a language (BCP 47) is written in at first: English has syllables. */
export function usualWay(language: string): 'respelling' | 'ipa' {
  return primaryLanguage(language) === 'en' ? 'respelling' : 'ipa'
}

/** The direction that says words so; `ipa`: the sounds of a respelling. */
export function directionOf(said: Said, ipa: string | null): DirectionOf<'sayAs'> | DirectionOf<'substitute'> | DirectionOf<'phoneme'> {
  switch (said.by) {
    case 'letters': return { kind: 'sayAs', interpretAs: 'characters' }
    case 'alias': return { kind: 'substitute', alias: said.text }
    default: return { kind: 'phoneme', ph: ipa ?? said.text }
  }
}

/** A place in a text that is heard. */
export interface HeardPlace {
  readonly text: string
  readonly start: number
  readonly end: number
}

/** A text as a passage that says one place of it so, to be heard before it is kept; as it is without `said`. */
export function heardContent({ text, start, end }: HeardPlace, said: Said | null, ipa: string | null): Content {
  return said === null ? plainContent(text) : withDirection(plainContent(text), { id: 'said', ...directionOf(said, ipa) }, start, end)
}

export const wholePlace = (text: string): HeardPlace => ({ text, start: 0, end: text.length })
