import type { About } from '#core/health'
import type { Problem } from '#core/problem'
import type { Casting, EngineId } from '#core/score/cast'
import type { EngineRequest } from '#core/score/request'
import type { Engine, EngineOptions, Spoken, VoiceList } from './port'
import { engineKind, engineKinds } from './registry'

/** The engines of a process: each request goes to its own. */
export interface SpeechEngines {
  /** One of them. Throws a problem for one that is not there. */
  readonly of: (id: EngineId) => Engine
  /** The voices of all of them. */
  readonly list: () => Promise<VoiceList>
  readonly speak: (request: EngineRequest) => Promise<Spoken>
  /** How a casting's voice reads each of some short texts by itself, in IPA; empty where its engine does not tell. */
  readonly inIpa: (casting: Pick<Casting, 'engine' | 'voice'>, texts: readonly string[]) => Promise<readonly string[]>
  /** Why each of some requests could not be spoken; null for those that can, and where an engine does not tell. */
  readonly examine: (requests: readonly EngineRequest[]) => Promise<readonly (Problem | null)[]>
  /** Name of each engine, and what it says about itself. */
  readonly about: () => readonly { readonly name: string, readonly about: () => Promise<About> }[]
  readonly close: () => Promise<void>
}

/** Opens engines as they are needed; their children start with the first question. */
export function openEngines(options: EngineOptions): SpeechEngines {
  const opened = new Map<EngineId, Engine>()
  const of = (id: EngineId): Engine => {
    const engine = opened.get(id) ?? engineKind(id).open(options)
    opened.set(id, engine)
    return engine
  }
  return {
    of,
    list: async () => {
      const answers = await Promise.allSettled(engineKinds().map(({ capabilities }) => of(capabilities.id).list()))
      // Another than the usual one has no voices where it does not work; Health tells why. In place of the usual one none is chosen.
      if (answers[0]?.status === 'rejected') throw answers[0].reason
      const lists = answers.flatMap(answer => answer.status === 'fulfilled' ? [answer.value] : [])
      return { voices: lists.flatMap(({ voices }) => voices), variants: lists.flatMap(({ variants }) => variants) }
    },
    speak: request => of(request.engine).speak(request),
    inIpa: async ({ engine, voice }, texts) => await of(engine).inIpa?.(voice, texts) ?? [],
    examine: async requests => {
      const problems: (Problem | null)[] = requests.map(() => null)
      for (const id of new Set(requests.map(({ engine }) => engine))) {
        const own = [...requests.keys()].filter(at => requests[at]!.engine === id)
        const found = await of(id).examine?.(own.map(at => requests[at]!)) ?? []
        found.forEach((problem, index) => { problems[own[index]!] = problem })
      }
      return problems
    },
    about: () => engineKinds().map(({ capabilities: { id, name } }) => ({ name, about: () => of(id).about() })),
    close: async () => { await Promise.all([...opened.values()].map(engine => engine.close())) },
  }
}
