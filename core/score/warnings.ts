import type { Problem } from '../problem'
import type { CastScore, CastUtterance } from './request'

/** Whether a voice, by its engine and id, reads the letters of a text. */
export type ReadsLetters = (engine: string, voice: string, text: string) => boolean

/** Sentences of a part in letters that their voices do not read: how many, and the first. */
export interface UnreadText {
  readonly count: number
  readonly voice: string
  readonly text: string
}

/** The sentences of a score that its voices do not read; null when there are none. */
export function unreadIn(score: CastScore, reads: ReadsLetters): UnreadText | null {
  const found = score.utterances.filter(({ text, request: { engine, voice } }: CastUtterance) => !reads(engine, voice, text))
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
