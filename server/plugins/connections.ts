import type { Server } from 'node:http'
import type { Socket } from 'node:net'
import { defineNitroPlugin } from 'nitropack/runtime'

/** A connection that nothing is asked on stays open for so long. The usual five seconds end while a client that was just idle asks again: its question would be lost. */
const idleMs = 75_000

export default defineNitroPlugin(nitro => {
  nitro.hooks.hook('request', event => {
    const { server } = event.node.req.socket as Socket & { readonly server?: Server }
    if (server !== undefined) server.keepAliveTimeout = idleMs
  })
})
