import { ProblemError, type Problem } from '#core/problem'
import type { Spoken } from '../port'
import { listVoices, speak, type LibraryVoices, type SpeakOrder } from './library'

export type ChildTask = { readonly list: true } | { readonly speak: SpeakOrder }
export type ChildAnswer = { readonly voices: LibraryVoices } | { readonly spoken: Spoken } | { readonly problem: Problem }

process.on('message', (task: ChildTask) => { process.send!(answer(task)) })
process.on('disconnect', () => process.exit(0))

function answer(task: ChildTask): ChildAnswer {
  try {
    return 'list' in task ? { voices: listVoices() } : { spoken: speak(task.speak) }
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem }
    throw error
  }
}
