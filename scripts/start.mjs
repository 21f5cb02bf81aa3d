// The supervisor behind bin/start: database, schema, demo, web server, worker; ends them in reverse order.
import { existsSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { variable } from './paths.mjs'
import { freePort, startLastingCluster } from './postgres.mjs'
import { environmentFor, runProgram, startServices } from './services.mjs'

const empty = process.argv.includes('--empty')
let cluster = null
let services = null
let ending = null
let watching = null

function end(code) {
  clearInterval(watching)
  ending ??= (async () => {
    await services?.stop()
    cluster?.stop()
    rmSync(join(variable, 'address'), { force: true })
    process.exit(code)
  })()
  return ending
}

process.on('SIGINT', () => void end(0))
process.on('SIGTERM', () => void end(0))

try {
  cluster = await startLastingCluster()
  const environment = environmentFor(cluster.url('orator_quill'), join(variable, 'data'))
  runProgram('prepare', environment)
  const demoMark = join(variable, 'demo-loaded')
  if (!empty && !existsSync(demoMark)) {
    runProgram('demo', environment)
    writeFileSync(demoMark, '')
  }
  const wanted = Number(process.env.QUILL_PORT ?? 4180)
  const port = await freePort(wanted)
  if (port !== wanted) console.error(`Port ${wanted} is in use by another program; taking ${port}.`)
  services = await startServices({
    environment, port, logFolder: join(variable, 'log'),
    onEnd: (name, how, givenUp) => {
      if (ending !== null) return
      console.error(`The ${name} ended (${how}; see var/log/${name}.log)${givenUp ? ', too often: stopping.' : ' and is started again.'}`)
      if (givenUp) void end(1)
    },
  })
  watching = setInterval(() => {
    if (ending !== null) return
    try {
      if (cluster.revive()) console.error('The database had ended and was started again.')
    } catch (error) {
      // Its last processes may still be there; the next look tries again.
      console.error(error.message)
    }
  }, 2000)
  writeFileSync(join(variable, 'address'), `${services.address}\n`)
  console.log(`Orator Quill: ${services.address}   (Ctrl-C stops it)`)
} catch (error) {
  console.error(error.message)
  await end(1)
}
