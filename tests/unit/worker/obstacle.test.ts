import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { ProblemError } from '#core/problem'
import { FolderStorage } from '../../../takes/folder-storage'
import { openEngines, type SpeechEngines } from '../../../voices/engines'
import { obstacle } from '../../../worker/obstacle'
import { programs, temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 1 })
const saying = (about: () => Promise<string>): SpeechEngines => ({ ...engines, about: () => [{ name: 'One', about }] })

test('nothing keeps a worker from working whose engines answer and whose folder can be written', async () => {
  expect(await obstacle(saying(() => Promise.resolve('fine')), new FolderStorage(join(folder(), 'new')))).toBeNull()
})

test('an engine that does not work is the reason, with what to do', async () => {
  const problem = { code: 'engine-missing', message: 'It is not installed. Install it.' }
  expect(await obstacle(saying(() => Promise.reject(new ProblemError(problem))), new FolderStorage(folder()))).toEqual(problem)
})

test('so is a folder that is none', async () => {
  await writeFile(join(folder(), 'file'), '')
  expect(await obstacle(saying(() => Promise.resolve('fine')), new FolderStorage(join(folder(), 'file', 'takes')))).toMatchObject({ code: 'internal', message: expect.stringContaining('ENOTDIR') })
})
