import { appendFileSync, closeSync, openSync, readFileSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { join } from 'node:path'
import { rotate } from '../../../scripts/services.mjs'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()

test('a log that has grown long is set aside while somebody writes to it, and nothing of it is lost', () => {
  const path = join(folder(), 'server.log')
  writeFileSync(path, '')
  const log = openSync(path, 'a')
  writeSync(log, 'first\n')
  rotate(path)
  expect(readFileSync(path, 'utf8')).toBe('first\n')
  appendFileSync(path, `${'x'.repeat(10_000_000)}\n`)
  rotate(path)
  writeSync(log, 'after\n')
  closeSync(log)
  expect(readFileSync(path, 'utf8')).toBe('after\n')
  expect(statSync(`${path}.1`).size).toBe(10_000_007)
})
