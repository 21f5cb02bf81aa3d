import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { secretsIn } from '../../store/secrets'

let folder = ''
beforeEach(async () => { folder = await mkdtemp(join(tmpdir(), 'quill-secrets-')) })
afterEach(() => rm(folder, { recursive: true, force: true }))

const text = 'a key — with signs: äß"\''

test('what is sealed is opened by whoever has the key file, and sealed otherwise each time', async () => {
  const sealed = await secretsIn(folder).seal(text)
  expect(sealed).not.toContain(text)
  expect(await secretsIn(folder).open(sealed)).toBe(text)
  expect(await secretsIn(folder).seal(text)).not.toBe(sealed)
})

test('the key file is for its owner only, and of several that make it at once one counts', async () => {
  const sealed = await Promise.all(Array.from({ length: 8 }, () => secretsIn(folder).seal(text)))
  expect((await stat(join(folder, 'secret.key'))).mode & 0o777).toBe(0o600)
  expect(await Promise.all(sealed.map(each => secretsIn(folder).open(each)))).toEqual(sealed.map(() => text))
})

test.each([
  ['another key file', (file: string) => writeFile(file, Buffer.alloc(32, 1))],
  ['a key file that was cut off', (file: string) => writeFile(file, 'short')],
  ['no key file', (file: string) => rm(file)],
])('%s is a problem that says what to do', async (_, change) => {
  const sealed = await secretsIn(folder).seal(text)
  await change(join(folder, 'secret.key'))
  await expect(secretsIn(folder).open(sealed)).rejects.toMatchObject({ problem: { code: 'key-file-lost', message: expect.stringContaining('Settings') as string } })
})

test('a text that was changed is not opened', async () => {
  const sealed = Buffer.from(await secretsIn(folder).seal(text), 'base64')
  sealed[sealed.length - 1]! ^= 1
  await expect(secretsIn(folder).open(sealed.toString('base64'))).rejects.toMatchObject({ problem: { code: 'key-file-lost' } })
  expect((await readFile(join(folder, 'secret.key'))).length).toBe(32)
})
