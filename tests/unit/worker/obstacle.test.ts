import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { About } from '#core/health'
import { ProblemError } from '#core/problem'
import { FolderStorage } from '../../../takes/folder-storage'
import { openEngines, type SpeechEngines } from '../../../voices/engines'
import { obstacle } from '../../../worker/obstacle'
import { programs, temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 1 })
const saying = (...answers: readonly (() => Promise<About>)[]): SpeechEngines => ({ ...engines, about: () => answers.map(about => ({ name: 'One', about })) })
const fine = (): Promise<About> => Promise.resolve({ found: 'fine', remedy: null })

test('nothing keeps a worker from working whose engines answer and whose folder can be written', async () => {
  expect(await obstacle(saying(fine), new FolderStorage(join(folder(), 'new')))).toBeNull()
})

test('an engine that does not work is the reason, with what to do', async () => {
  const problem = { code: 'engine-missing', message: 'It is not installed. Install it.' }
  expect(await obstacle(saying(() => Promise.reject(new ProblemError(problem))), new FolderStorage(folder()))).toEqual(problem)
})

test('another than the usual engine is not: its own sentences fail, with the reason', async () => {
  const missing = (): Promise<About> => Promise.reject(new ProblemError({ code: 'engine-missing', message: 'It is not installed. Install it.' }))
  expect(await obstacle(saying(fine, missing), new FolderStorage(folder()))).toBeNull()
})

test('so is a folder that is none', async () => {
  await writeFile(join(folder(), 'file'), '')
  expect(await obstacle(saying(fine), new FolderStorage(join(folder(), 'file', 'takes')))).toMatchObject({ code: 'internal', message: expect.stringContaining('ENOTDIR') })
})
