import { ProblemError, type Problem } from '#core/problem'
import type { Casting } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'
import { ipaOf } from '#core/words/faults'
import type { Operation } from '#shared/operations'
import { loadEdition } from '#store/editions'
import type { PartFacts } from '#store/summaries'
import { requestUnder } from '#voices/cast-score'
import type { SpeechEngines } from '#voices/engines'

export interface Pronunciation {
  /** In IPA. */
  readonly ph: string
  readonly language: string
}

/** For each pronunciation, why the narrator's voice cannot say it in its language; null where it can. */
export async function faultsOfPronunciations(engines: SpeechEngines, casting: Casting, asked: readonly Pronunciation[]): Promise<readonly (Problem | null)[]> {
  return engines.examine(asked.map(({ ph, language }) => requestUnder({ kind: 'phoneme', ph }, casting, language)))
}

/** Throws a problem for a word with sounds that the narrator's voice has not in the word's language, unless somebody has heard how it says them. */
export async function refuseUnsayableWords(engines: SpeechEngines, editionId: string, operations: readonly Operation[]): Promise<void> {
  const words = operations.flatMap(operation => {
    if (operation.op !== 'setWord' || operation.entry === null) return []
    const { entry } = operation
    const ph = ipaOf(entry)
    return ph === null || entry.heard === true ? [] : [{ entry, ph, language: entry.language }]
  })
  if (words.length === 0) return
  const { casting } = await loadEdition(editionId)
  const problems = await faultsOfPronunciations(engines, casting, words)
  const at = problems.findIndex(problem => problem !== null)
  if (at >= 0) throw new ProblemError({ ...problems[at]!, message: `“${words[at]!.entry.graphemes[0]}” cannot be said so. ${problems[at]!.message} Hear it first: an entry that is checked by ear is kept.` })
}

/** Places that are named before they are only counted. */
const mostNamed = 12

/** What the voices of a script cannot do, each reason once with its first place: sounds, voices and languages that they have not, what is beyond their range. */
export async function unsayableIn(engines: SpeechEngines, parts: readonly (Pick<PartFacts, 'examined' | 'cannot'> & { readonly label: string })[]): Promise<Problem[]> {
  const asked = new Map<string, { readonly label: string, readonly text: string, readonly request: EngineRequest }>()
  for (const { label, examined } of parts) {
    for (const { sort, text, request } of examined) if (!asked.has(sort)) asked.set(sort, { label, text, request })
  }
  const all = [...asked.values()]
  const problems = await engines.examine(all.map(({ request }) => request))
  const found = new Map<string, { readonly label: string, readonly text: string }>()
  const tell = (message: string, label: string, text: string): void => { if (!found.has(message)) found.set(message, { label, text }) }
  for (const { label, cannot } of parts) for (const { text, message } of cannot) tell(message, label, text)
  all.forEach(({ label, text }, index) => {
    const problem = problems[index]
    if (problem !== null && problem !== undefined) tell(problem.message, label, text)
  })
  return [...found].slice(0, mostNamed).map(([message, { label, text }], index) => ({
    code: `voice-cannot-${index}`,
    message: `“${[...text].slice(0, 60).join('')}”: ${message}${index === mostNamed - 1 && found.size > mostNamed ? ` There are ${found.size - mostNamed} more.` : ''}`,
    place: label,
  }))
}
