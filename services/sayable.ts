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

/** Throws a problem for a word with sounds that the narrator's voice has not in the word's language. */
export async function refuseUnsayableWords(engines: SpeechEngines, editionId: string, operations: readonly Operation[]): Promise<void> {
  const words = operations.flatMap(operation => {
    if (operation.op !== 'setWord' || operation.entry === null) return []
    const { entry } = operation
    const ph = ipaOf(entry)
    return ph === null ? [] : [{ entry, ph, language: entry.language }]
  })
  if (words.length === 0) return
  const { casting } = await loadEdition(editionId)
  const problems = await faultsOfPronunciations(engines, casting, words)
  const at = problems.findIndex(problem => problem !== null)
  if (at >= 0) throw new ProblemError({ ...problems[at]!, message: `“${words[at]!.entry.graphemes[0]}” cannot be said so. ${problems[at]!.message}` })
}

/** Places that are named before they are only counted. */
const mostNamed = 12

/** What the voices of a script cannot say, as one warning for each reason: sounds that they have not, voices and languages that do not exist. */
export async function unsayableIn(engines: SpeechEngines, parts: readonly (Pick<PartFacts, 'examined'> & { readonly label: string })[]): Promise<Problem[]> {
  const asked = new Map<string, { readonly label: string, readonly text: string, readonly request: EngineRequest }>()
  for (const { label, examined } of parts) {
    for (const { sort, text, request } of examined) if (!asked.has(sort)) asked.set(sort, { label, text, request })
  }
  const all = [...asked.values()]
  const problems = await engines.examine(all.map(({ request }) => request))
  const found = all.flatMap((each, index) => problems[index] === null || problems[index] === undefined ? [] : [{ ...each, problem: problems[index] }])
  return found.slice(0, mostNamed).map(({ label, text, request, problem }, index) => ({
    code: `${problem.code}-${index}`,
    message: `The voice “${request.voice}” cannot say “${[...text].slice(0, 60).join('')}”. ${problem.message}${index === mostNamed - 1 && found.length > mostNamed ? ` There are ${found.length - mostNamed} more.` : ''}`,
    place: label,
  }))
}
