import { defineNitroPlugin } from 'nitropack/runtime'
import { startProblem } from '#store/database'
import { log } from '#store/log'
import { endWithSupervisor } from '#store/supervised'
import { takeUpIntakes } from '../utils/intakes'
import { closeWorkshop, workshop } from '../utils/workshop'

export default defineNitroPlugin(nitro => {
  endWithSupervisor()
  let stopTakingUp = (): void => undefined
  workshop().then(shop => { stopTakingUp = takeUpIntakes(shop) }, (error: unknown) => {
    log.fatal(startProblem('server', process.env['QUILL_DATABASE_URL'], error))
    process.exit(1)
  })
  nitro.hooks.hook('close', async () => {
    stopTakingUp()
    await closeWorkshop()
  })
})
