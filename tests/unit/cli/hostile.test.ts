import { execFile } from 'node:child_process'
import { mkdir, readdir, realpath, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { hostileFiles } from '../../support/hostile'
import { root, temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const quill = join(root, 'bin/quill')

interface Run {
  readonly code: number
  readonly out: string
  readonly error: string
}

function run(command: string, ...parameters: string[]): Promise<Run> {
  return new Promise(resolve => {
    execFile(command, parameters, { cwd: folder(), env: { ...process.env, XDG_CACHE_HOME: join(folder(), 'home') } }, (error, out, message) => {
      resolve({ code: error === null ? 0 : Number(error.code), out, error: message })
    })
  })
}

/** Runs `quill` with something mounted in the file system that only it sees. */
const runWith = (mount: string, ...parameters: string[]): Promise<Run> =>
  run('unshare', '--user', '--map-root-user', '--mount', 'sh', '-c', `mount ${mount} || exit 99; exec "$@"`, 'sh', quill, ...parameters)

const smallDisk = (size: string, path: string): string => `-t tmpfs -o size=${size} tmpfs '${path}'`
const nothingAt = (path: string): string => `--bind /dev/null '${path}'`

test('every hostile file is refused with its name and what to do', async () => {
  for (const { name, bytes, says } of await hostileFiles()) {
    await writeFile(join(folder(), name), bytes)
    const { code, error } = await run(quill, 'outline', name)
    expect([code, error]).toEqual([1, expect.stringMatching(says)])
    expect(error).not.toMatch(/\n.*\n|\bat \//u)
  }
}, 120_000)

describe('what the machine lacks is said, with what to do, and what is done is kept', () => {
  const text = Array.from({ length: 40 }, (_, number) => `Sentence number ${number} says something about the bees in the garden.`).join(' ')
  const read = ['read', 'book.txt', '--language', 'en', '--out', 'out', '--cache', 'cache']
  beforeEach(async () => {
    await writeFile(join(folder(), 'book.txt'), text)
    await mkdir(join(folder(), 'out'), { recursive: true })
    await mkdir(join(folder(), 'cache/takes'), { recursive: true })
  })

  test('the engine', async () => {
    const library = await realpath((await run('sh', '-c', 'ls /usr/lib/*/libespeak-ng.so.1')).out.trim())
    expect(await runWith(nothingAt(library), ...read)).toMatchObject({ code: 1, error: expect.stringMatching(/engine is not installed.*bin\/start/u) })
  })

  test('room for takes', async () => {
    expect(await runWith(smallDisk('1m', join(folder(), 'cache/takes')), ...read)).toMatchObject({ code: 1, error: expect.stringMatching(/disk is full\. Free some space/u) })
  })

  test('the encoder, whose work goes on from the takes that are there', async () => {
    const missing = await runWith(nothingAt('/usr/bin/ffmpeg'), ...read)
    expect(missing).toMatchObject({ code: 1, error: expect.stringMatching(/ffmpeg is not installed.*bin\/start/u) })
    expect((await readdir(join(folder(), 'cache/takes'))).length).toBeGreaterThan(0)
  })

  test('room for the files: none is there by half', async () => {
    // Seen from inside, as the small disk is gone with the process.
    const { code, out, error } = await run('unshare', '--user', '--map-root-user', '--mount', 'sh', '-c',
      `mount ${smallDisk('300k', join(folder(), 'out'))} || exit 99; "$@"; ended=$?; ls -A out; exit $ended`, 'sh', quill, ...read)
    expect({ code, out, error }).toEqual({ code: 1, out: '', error: expect.stringMatching(/disk is full\. Free some space/u) })
  })

  test('and afterwards it reads on, making nothing again', async () => {
    const { code, out } = await run(quill, ...read, '--json')
    expect(code).toBe(0)
    expect(JSON.parse(out)).toMatchObject({ utterances: { made: 0, reused: 40 } })
  })
})

test.each([
  ['text from right to left', 'שלום עולם. The bees came home.', [], 0, /One sentence is written in letters that the voice “[^”]+” does not read/u],
  ['an unknown voice', 'A word.', ['--voice', 'nobody'], 1, /no voice “nobody”.*“voices”/u],
  ['an unknown variant', 'A word.', ['--voice', 'en-gb+nobody'], 1, /no voice variant “nobody”/u],
])('%s is told', async (_, text, rest, code, says) => {
  await writeFile(join(folder(), 'told.txt'), text)
  expect(await run(quill, 'read', 'told.txt', '--language', 'en', '--out', 'other', '--cache', 'told', ...rest)).toMatchObject({ code, error: expect.stringMatching(says) })
})
