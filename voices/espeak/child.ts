import type { Problem } from '#core/problem'
import { answerTasks } from '../engine-child'
import type { Spoken } from '../port'
import * as library from './library'
import type { EngineVoices } from './listed'
import type { SpeakOrder } from './order'
import * as program from './program'

export type ChildTask = { readonly list: true } | { readonly speak: SpeakOrder } | { readonly examine: readonly SpeakOrder[] } | { readonly inIpa: readonly string[], readonly identifier: string }
export type ChildAnswer = { readonly voices: EngineVoices, readonly byProgram: boolean } | { readonly spoken: Spoken } | { readonly ipa: readonly string[] } | { readonly problems: readonly (Problem | null)[] }

/** Its command-line program speaks where the library cannot be loaded. */
const byProgram = !library.isLoadable() && program.isInstalled()
const { listVoices, speak, examine, readInIpa } = byProgram ? program : library

answerTasks((task: ChildTask): ChildAnswer => {
  if ('list' in task) return { voices: listVoices(), byProgram }
  if ('examine' in task) return { problems: examine(task.examine) }
  return 'inIpa' in task ? { ipa: readInIpa(task.identifier, task.inIpa) } : { spoken: speak(task.speak) }
})
