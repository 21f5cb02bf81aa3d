// Runs every check of the project and adds them up. The last line printed is the sum.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { root, variable } from './paths.mjs'
import { startTestCluster } from './postgres.mjs'

const results = join(variable, 'test-results')
const tool = path => join(root, 'node_modules', path)
let passed = 0
let failed = 0
/** Browser tests that passed only when they were tried again. */
const flaky = []

function run(name, parameters, environment = {}) {
  console.log(`\n== ${name}`)
  const { status } = spawnSync(process.execPath, parameters, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, NUXT_TELEMETRY_DISABLED: '1', ...environment } })
  return status === 0
}

function check(name, parameters, environment) {
  run(name, parameters, environment) ? passed += 1 : failed += 1
}

/** Counts of a runner's report. Without a report, or when the runner fails although no test did, that is one failure. */
function counted(name, parameters, environment, report, countsOf) {
  const succeeded = run(name, parameters, environment)
  if (!existsSync(report)) {
    failed += 1
    return
  }
  const counts = countsOf(JSON.parse(readFileSync(report, 'utf8')))
  passed += counts.passed
  failed += counts.failed === 0 && (!succeeded || counts.passed === 0) ? 1 : counts.failed
}

function flakyIn({ specs = [], suites = [] }) {
  return [...specs.filter(spec => spec.tests.some(test => test.status === 'flaky')).map(spec => `${spec.file}:${spec.line} ${spec.title}`), ...suites.flatMap(flakyIn)]
}

const notSources = new Set(['node_modules', '.git', '.nuxt', '.output', 'dist', 'var', 'docs'])

/** Lines of code that are not empty, below a folder. */
function linesIn(folder) {
  return readdirSync(folder, { withFileTypes: true }).reduce((sum, entry) => {
    if (entry.isDirectory()) return notSources.has(entry.name) ? sum : sum + linesIn(join(folder, entry.name))
    return /\.(?:ts|vue|mjs)$/u.test(entry.name) ? sum + readFileSync(join(folder, entry.name), 'utf8').split('\n').filter(line => line.trim() !== '').length : sum
  }, 0)
}

rmSync(results, { recursive: true, force: true })
mkdirSync(results, { recursive: true })

check('Production build', [join(root, 'scripts/build.mjs')])
run('Types of the framework', [tool('nuxt/bin/nuxt.mjs'), 'prepare', '--logLevel', 'silent'])
check('Lint', [tool('eslint/bin/eslint.js'), '.', '--max-warnings', '0'])
check('Types', [tool('vue-tsc/bin/vue-tsc.js'), '--noEmit'])

const cluster = await startTestCluster()
try {
  const environment = { QUILL_TEST_CLUSTER: cluster.url('postgres') }
  const jestReport = join(results, 'jest.json')
  counted('Unit and database tests', [tool('jest/bin/jest.js'), '--json', `--outputFile=${jestReport}`], {
    ...environment, NODE_OPTIONS: '--experimental-vm-modules --disable-warning=ExperimentalWarning',
  }, jestReport, report => ({ passed: report.numPassedTests, failed: report.numFailedTests + report.numRuntimeErrorTestSuites }))

  const browserReport = join(results, 'e2e.json')
  counted('Browser tests', [tool('@playwright/test/cli.js'), 'test'], environment, browserReport, ({ stats, errors, suites }) => {
    flaky.push(...suites.flatMap(flakyIn))
    return { passed: stats.expected + stats.flaky, failed: stats.unexpected + errors.length }
  })
} finally {
  cluster.stop()
}

const lines = { tests: linesIn(join(root, 'tests')), all: linesIn(root) }
const product = lines.all - lines.tests
console.log(`\nTests have ${lines.tests} lines, ${Math.round(lines.tests / product * 100)} % of the product's ${product}: between a quarter and a third is meant.`)
for (const test of flaky) console.log(`Flaky: ${test} passed only when it was tried again. Find out why.`)
console.log(`\n${passed} passed, ${failed} failed${flaky.length === 0 ? '' : `, ${flaky.length} of the passed flaky`}`)
process.exit(failed === 0 ? 0 : 1)
