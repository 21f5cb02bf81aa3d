import { ProblemError, type Problem } from '#core/problem'
import { childIsUp } from '../child-pool'
import type { Spoken } from '../port'
import { installedVoices, speak, type SpeakOrder } from './library'
import type { VoiceName } from './voices'

export type ChildTask = { readonly list: true } | { readonly speak: SpeakOrder }
export type ChildAnswer = { readonly installed: readonly VoiceName[] } | { readonly spoken: Spoken } | { readonly problem: Problem }

process.on('message', (task: ChildTask) => { process.send!(answer(task)) })
process.on('disconnect', () => process.exit(0))
process.send!(childIsUp)

function answer(task: ChildTask): ChildAnswer {
  try {
    return 'list' in task ? { installed: installedVoices() } : { spoken: speak(task.speak) }
  } catch (error) {
    if (error instanceof ProblemError) return { problem: error.problem }
    throw error
  }
}
