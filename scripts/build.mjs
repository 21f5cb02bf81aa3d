// Builds the web application and the programs beside it, when a source has changed since the last build.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { bundle } from './bundle.mjs'
import { programs, root } from './paths.mjs'

const sources = [
  'app', 'bench', 'cli', 'core', 'demo', 'intake', 'press', 'public', 'reading', 'scripts', 'server', 'services', 'shared', 'store', 'takes', 'voices', 'worker',
  'nuxt.config.ts', 'package-lock.json',
]
const stamp = join(programs, '.stamp')

function hashOfSources() {
  const digest = createHash('sha256').update(process.version)
  const visit = path => {
    if (!existsSync(path)) return
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) visit(join(path, name))
    } else if (!path.endsWith('.md')) {
      digest.update(path.slice(root.length)).update(readFileSync(path))
    }
  }
  for (const source of sources) visit(join(root, source))
  return digest.digest('hex')
}

const wanted = hashOfSources()
if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== wanted || !existsSync(join(root, '.output/server/index.mjs'))) {
  console.log('Building')
  const built = spawnSync(process.execPath, [join(root, 'node_modules/nuxt/bin/nuxt.mjs'), 'build', '--logLevel', 'silent'], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] })
  if (built.status !== 0) process.exit(built.status ?? 1)
  await bundle()
  writeFileSync(stamp, wanted)
}
