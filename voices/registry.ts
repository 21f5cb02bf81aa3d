import { lookup } from '#core/lookup'
import { fail } from '#core/problem'
import type { EngineId, Engines } from '#core/score/cast'
import type { WriteRequest } from '#core/score/request'
import { isReadable } from '#core/score/readable'
import type { ReadsLetters } from '#core/score/warnings'
import { espeak } from './espeak/index'
import { flite } from './flite/index'
import type { EngineKind } from './port'
import { netvoice } from './netvoice/index'

const kinds: Record<EngineId, EngineKind> = {}

/** Makes an engine known. */
export function registerEngine(kind: EngineKind): void {
  kinds[kind.capabilities.id] = kind
}

registerEngine(espeak)
registerEngine(flite)
registerEngine(netvoice)

/** Every engine, the one that is used first where nothing is chosen before the others. */
export function engineKinds(): readonly EngineKind[] {
  return Object.values(kinds)
}

/** An engine by its id. Throws a problem for one that is not there. */
export function engineKind(id: EngineId): EngineKind {
  return lookup(kinds, id) ?? fail('engine-unknown', `There is no speech engine “${id}” here. Choose another voice on the Cast page.`)
}

/** What the engines can do. */
export function engineCapabilities(): Engines {
  return Object.fromEntries(engineKinds().map(({ capabilities }) => [capabilities.id, capabilities]))
}

/** Writes a request as the casting's engine wants it. */
export const writeRequest: WriteRequest = (casting, segments) => engineKind(casting.engine).write(casting, segments)

export const readsLetters: ReadsLetters = (engine, voice, text) => {
  const { languageOf, losesLetters } = engineKind(engine)
  const language = languageOf(voice)
  return (language === null || isReadable(text, language)) && losesLetters?.(text) !== true
}
