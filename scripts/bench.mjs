// npm run bench: the benchmarks of bench/, on a build that is made when there is none.
import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { programs, root } from './paths.mjs'

if (!existsSync(join(programs, 'bench.mjs')) || !existsSync(join(root, '.output/server/index.mjs'))) {
  spawnSync(process.execPath, [join(root, 'scripts/build.mjs')], { cwd: root, stdio: 'inherit' })
}
process.exit(spawnSync(process.execPath, [join(programs, 'bench.mjs'), ...process.argv.slice(2)], { cwd: root, stdio: 'inherit' }).status ?? 1)
