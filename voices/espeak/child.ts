import { ProblemError, type Problem } from '#core/problem'
import { childIsUp } from '../child-pool'
import type { Spoken } from '../port'
import { examine, listVoices, readInIpa, speak, type LibraryVoices, type SpeakOrder } from './library'

export type ChildTask = { readonly list: true } | { readonly speak: SpeakOrder } | { readonly examine: readonly SpeakOrder[] } | { readonly inIpa: readonly string[], readonly identifier: string }
export type ChildAnswer = { readonly voices: LibraryVoices } | { readonly spoken: Spoken } | { readonly ipa: readonly string[] } | { readonly problems: readonly (Problem | null)[] } | { readonly problem: Problem }

process.on('message', (task: ChildTask) => { process.send!(answer(task)) })
process.on('disconnect', () => process.exit(0))
process.send!(childIsUp)

function answer(task: ChildTask): ChildAnswer {
  try {
    if ('list' in task) return { voices: listVoices() }
    if ('examine' in task) return { problems: examine(task.examine) }
    return 'inIpa' in task ? { ipa: readInIpa(task.identifier, task.inIpa) } : { spoken: speak(task.speak) }
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem }
    throw error
  }
}
