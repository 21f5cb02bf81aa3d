import { appendFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { lastErrors } from '../../../server/utils/last-errors'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const line = (level: string, time: string, more: object = {}): string => `${JSON.stringify({ level, time, msg: 'A request failed', ...more })}\n`

test('the newest errors of server and worker come first, with the request or job they belong to', async () => {
  expect(await lastErrors(folder())).toEqual([])
  await writeFile(join(folder(), 'server.log'), `Listening\n${line('info', '1')}${line('error', '2', { request: 'r', err: { message: 'why' } })}{"level":"error",\n`)
  await writeFile(join(folder(), 'worker.log'), line('error', '3', { job: 'j' }))
  expect(await lastErrors(folder())).toEqual([
    { at: '3', process: 'worker', message: 'A request failed', job: 'j' },
    { at: '2', process: 'server', message: 'A request failed: why', request: 'r' },
  ])
})

test('of a long log only the end is read', async () => {
  await writeFile(join(folder(), 'worker.log'), line('error', '3').repeat(10_000))
  await appendFile(join(folder(), 'worker.log'), line('error', '9'))
  const errors = await lastErrors(folder())
  expect([errors.length, errors[0]!.at]).toEqual([20, '9'])
})

test('without a folder of logs there are none', async () => {
  expect(await lastErrors(undefined)).toEqual([])
})
