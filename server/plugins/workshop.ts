import { defineNitroPlugin } from 'nitropack/runtime'
import { closeWorkshop, workshop } from '../utils/workshop'

export default defineNitroPlugin(nitro => {
  void workshop().catch((error: unknown) => {
    process.stderr.write(`The server cannot start: ${(error as Error).message}\n`)
    process.exit(1)
  })
  nitro.hooks.hook('close', closeWorkshop)
})
