import { answerTasks } from '../engine-child'
import type { Spoken } from '../port'
import { installedVoices, speak, type SpeakOrder } from './library'
import type { VoiceName } from './voices'

export type ChildTask = { readonly list: true } | { readonly speak: SpeakOrder }
export type ChildAnswer = { readonly installed: readonly VoiceName[] } | { readonly spoken: Spoken }

answerTasks((task: ChildTask): ChildAnswer => 'list' in task ? { installed: installedVoices() } : { spoken: speak(task.speak) })
