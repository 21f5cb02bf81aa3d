import type { Problem } from '../problem'
import type { PartScore, Utterance } from './compile'
import { isReadable } from './readable'

/** Utterances stay the same while their passage does, so each is looked at once. */
const judged = new WeakMap<Utterance, boolean>()

function isForeign(utterance: Utterance): boolean {
  let foreign = judged.get(utterance)
  if (foreign === undefined) {
    foreign = !isReadable(utterance.text, utterance.request.voice.split('+')[0]!)
    judged.set(utterance, foreign)
  }
  return foreign
}

/** What a reading would probably get wrong as a whole, with the first place. */
export function warningsOf(parts: readonly { readonly label: string, readonly score: PartScore }[]): Problem[] {
  const found = parts.flatMap(({ label, score }) => score.utterances.filter(isForeign).map(utterance => ({ label, utterance })))
  const [first] = found
  if (first === undefined) return []
  return [{
    code: 'script-unread',
    message: `${found.length === 1 ? 'One sentence is' : `${found.length.toLocaleString('en')} sentences are`} written in letters that the voice “${first.utterance.request.voice}” does not read; `
      + `the first is “${[...first.utterance.text].slice(0, 60).join('')}”. Choose a voice of that language, or leave it out.`,
    place: first.label,
  }]
}
