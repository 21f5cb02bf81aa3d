import { setFlagsFromString } from 'node:v8'
import { handlers } from '#nitro-internal-virtual/server-handlers'
import { defineNitroPlugin } from 'nitropack/runtime'
import { log } from '#store/log'

/** Loads all routes now, with the checks of what they are sent: whoever is the first to ask one would keep everybody else waiting meanwhile. */
export default defineNitroPlugin(() => {
  // What was compiled once stays so: V8 drops what was not called for a while, and the checks of requests are long.
  setFlagsFromString('--no-flush-bytecode')
  const loads = handlers.flatMap(({ lazy, handler }) => lazy ? [handler as () => Promise<unknown>] : [])
  Promise.all(loads.map(load => load())).catch((error: unknown) => { log.error({ err: error }, 'Some routes cannot be loaded') })
})
