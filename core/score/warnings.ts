import type { Problem } from '../problem'
import type { CastScore, CastUtterance } from './request'
import { isReadable } from './readable'

/** Language (BCP 47) of a voice by its engine and id; null for one that nobody knows. */
export type LanguageOfVoice = (engine: string, voice: string) => string | null

/** Sentences of a part in letters that their voices do not read: how many, and the first. */
export interface UnreadText {
  readonly count: number
  readonly voice: string
  readonly text: string
}

/** The sentences of a score that its voices do not read; null when there are none. */
export function unreadIn(score: CastScore, languageOf: LanguageOfVoice): UnreadText | null {
  const isForeign = ({ text, request }: CastUtterance): boolean => {
    const language = languageOf(request.engine, request.voice)
    return language !== null && !isReadable(text, language)
  }
  const found = score.utterances.filter(isForeign)
  const [first] = found
  return first === undefined ? null : { count: found.length, voice: first.request.voice, text: [...first.text].slice(0, 60).join('') }
}

/** What a reading would probably get wrong as a whole, with the first place. */
export function warningsOf(parts: readonly { readonly label: string, readonly unread: UnreadText | null }[]): Problem[] {
  const found = parts.flatMap(({ label, unread }) => unread === null ? [] : [{ label, ...unread }])
  const [first] = found
  if (first === undefined) return []
  const count = found.reduce((sum, each) => sum + each.count, 0)
  return [{
    code: 'script-unread',
    message: `${count === 1 ? 'One sentence is' : `${count.toLocaleString('en')} sentences are`} written in letters that the voice “${first.voice}” does not read; `
      + `the first is “${first.text}”. Choose a voice of that language, or leave it out.`,
    place: first.label,
  }]
}
