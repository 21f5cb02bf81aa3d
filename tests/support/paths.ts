import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '../..')
export const programs = join(root, 'dist')

/** A folder of its own for the tests of a file, removed after them. */
export function temporaryFolder(): () => string {
  let folder = ''
  beforeAll(async () => { folder = await mkdtemp(join(tmpdir(), 'quill test ')) })
  afterAll(() => rm(folder, { recursive: true, force: true }))
  return () => folder
}
