import { defineNitroPlugin } from 'nitropack/runtime'
import { log } from '#store/log'

/** Between two looks, ms. */
const lookMs = 25
/** Nobody may be kept waiting for longer than this, ms. */
const longestMs = 50

/** Notes in the log when the main thread was busy for so long that it answered nobody, and how much of that it computed itself. */
export default defineNitroPlugin(nitro => {
  let last = performance.now()
  let cpu = process.cpuUsage()
  const looking = setInterval(() => {
    const now = performance.now()
    const { user, system } = process.cpuUsage(cpu)
    const [heldMs, cpuMs] = [now - last, (user + system) / 1000].map(Math.round) as [number, number]
    // Without computing it waited for a processor.
    if (heldMs - lookMs > longestMs && cpuMs > longestMs) log.info({ heldMs, cpuMs }, 'Everybody was kept waiting')
    last = now
    cpu = process.cpuUsage()
  }, lookMs)
  looking.unref()
  nitro.hooks.hook('close', () => { clearInterval(looking) })
})
