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

function end(code) {
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
  const port = await freePort(Number(process.env.QUILL_PORT ?? 4180))
  services = await startServices({
    environment, port, logFolder: join(variable, 'log'),
    onEnd: (name, how) => {
      if (ending !== null) return
      console.error(`The ${name} ended (${how}); see var/log/${name}.log.`)
      void end(1)
    },
  })
  writeFileSync(join(variable, 'address'), `${services.address}\n`)
  console.log(`Orator Quill: ${services.address}   (Ctrl-C stops it)`)
} catch (error) {
  console.error(error.message)
  await end(1)
}
