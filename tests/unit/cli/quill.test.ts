import { execFile } from 'node:child_process'
import { cp, mkdir, readFile, readdir, rm, symlink, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Ajv } from 'ajv'
import type { Manifest } from '#core/delivery/manifest'
import { decode } from '../../support/audio'
import { docxOf, p } from '../../support/docx'
import { root, temporaryFolder } from '../../support/paths'
import { quillIn, type Run } from '../../support/quill'

const folder = temporaryFolder()
const quill = quillIn(folder)

const json = async (...parameters: string[]): Promise<Record<string, never>> => {
  const run = await quill(...parameters, '--json')
  if (run.code !== 0) throw new Error(run.error)
  return JSON.parse(run.out) as Record<string, never>
}

const chapters = (first: string): string => `# The Year\n\n## Before the Flight\n\n${first} The roof stays on.\n\n- a scale\n- a pencil\n\n## Lime Flow\n\nThe limes are out.\n`

beforeAll(async () => {
  await writeFile(join(folder(), 'year.md'), chapters('Lift nothing.'))
  await writeFile(join(folder(), 'edited.md'), chapters('Lift nothing at all.'))
})

describe('quill outline', () => {
  test('shows the parts with their counts', async () => {
    expect(await json('outline', 'year.md', '--language', 'en')).toEqual({
      title: 'The Year', author: null, language: 'en', format: 'markdown', problems: [], dropped: [{ kind: 'title-page', count: 1 }],
      parts: [
        {
          number: 1, kind: 'chapter', label: 'Before the Flight', included: true, level: 2, language: 'en', words: 13, characters: 64, passages: 4,
          firstWords: 'Before the Flight Lift nothing.', lastWords: 'on. a scale a pencil',
        },
        {
          number: 2, kind: 'chapter', label: 'Lime Flow', included: true, level: 2, language: 'en', words: 6, characters: 27, passages: 2,
          firstWords: 'Lime Flow The limes are', lastWords: 'Flow The limes are out.',
        },
      ],
    })
  })

  test('splits where it is told', async () => {
    const { parts } = await json('outline', 'year.md', '--by', 'heading:1') as unknown as { parts: { label: string }[] }
    expect(parts.map(part => part.label)).toEqual(['The Year'])
  })

  test.each([
    [['--by', 'pattern:Lime'], ['The Year', 'Lime Flow']], [['--by', 'heading:2', '--first', '1parts'], ['Before the Flight']], [['--by', 'even:1min'], ['The Year']],
  ] as const)('with %j it shows %j', async (options, labels) => {
    const { parts } = await json('outline', 'year.md', ...options) as unknown as { parts: { label: string }[] }
    expect(parts.map(part => part.label)).toEqual(labels)
  })

  test('takes a folder as a batch, and a deck as its slides', async () => {
    await mkdir(join(folder(), 'batch'), { recursive: true })
    await writeFile(join(folder(), 'batch/10.txt'), 'The last article of the batch.')
    await writeFile(join(folder(), 'batch/2.md'), '# Two\n\nThe first article of the batch.')
    expect(await json('outline', 'batch')).toMatchObject({ format: 'batch', parts: [{ kind: 'article', label: 'Two', source: '2.md' }, { label: '10' }] })
    const deck = join(root, 'demo/files/the-first-spring-inspection.pptx')
    expect(await json('outline', deck)).toMatchObject({
      format: 'pptx', problems: [{ code: 'slides-without-notes', place: 'slide 1, 6' }], dropped: [{ kind: 'slide-text', count: 27 }],
      parts: expect.arrayContaining([expect.objectContaining({ kind: 'slide', label: 'For the instructor', included: false, hidden: true })]),
    })
  })

  test('takes DOCX documents too', async () => {
    await writeFile(join(folder(), 'year.docx'), await docxOf(p('Before the Flight', 'H1') + p('Lift nothing.') + p('Lime Flow', 'H1') + p('The limes are out.')))
    const { parts } = await json('outline', 'year.docx') as unknown as { parts: { label: string }[] }
    expect(parts.map(part => part.label)).toEqual(['Before the Flight', 'Lime Flow'])
  })
})

describe('quill text', () => {
  test('prints what would be read, one passage a line, without what is left out', async () => {
    await writeFile(join(folder(), 'notes.md'), '# One\n\nTen hives[^1] stand.\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n# Index\n\nbees 3\n\n[^1]: Counted.\n')
    expect((await quill('text', 'notes.md')).out).toBe('One\nTen hives stand.\na, b\n1, 2\n')
    expect((await quill('text', 'notes.md', '--footnotes', 'in-place', '--tables', 'with-headers', '--first', '3s')).out).toBe('One\nTen hives stand.\nCounted.\n')
  })

  test('opens articles with a line from a template', async () => {
    await writeFile(join(folder(), 'rows.csv'), 'Kopf;Von;Text\nSwarm;Ann;Bees fly out.\n')
    const { out } = await quill('text', 'rows.csv', '--columns', 'title=Kopf,author=Von', '--delimiter', 'semicolon', '--opening', '{title}, by {author}')
    expect(out).toBe('Swarm, by Ann\nBees fly out.\n')
  })
})

describe('quill plan and read', () => {
  interface Read { files: { number: number, name: string, title: string, durationMs: number, bytes: number, sha256: string }[], utterances: { made: number, reused: number } }
  const read = async (...parameters: string[]): Promise<Read> => await json('read', ...parameters) as unknown as Read
  const cache = (): string[] => ['--cache', join(folder(), 'cache')]

  test('reads once, gives the same bytes again, and after an edit reads that one sentence', async () => {
    const first = await read('year.md', '--out', 'first', ...cache())
    expect(first.files.map(file => [file.number, file.name, file.title])).toEqual([[1, '01-before-the-flight.mp3', 'Before the Flight'], [2, '02-lime-flow.mp3', 'Lime Flow']])
    expect(first.utterances).toEqual({ made: 7, reused: 0 })

    const again = await read('year.md', '--out', 'again', ...cache())
    expect(again).toEqual({ ...first, utterances: { made: 0, reused: 7 } })
    const elsewhere = await read('year.md', '--out', 'elsewhere', '--cache', join(folder(), 'other cache'))
    expect(elsewhere).toEqual(first)
    for (const name of await readdir(join(folder(), 'first'))) {
      expect(await readFile(join(folder(), 'elsewhere', name))).toEqual(await readFile(join(folder(), 'first', name)))
    }

    const edited = await read('edited.md', '--out', 'first', ...cache())
    expect(edited.utterances).toEqual({ made: 1, reused: 6 })
    expect(edited.files.map(file => file.sha256 === first.files[file.number - 1]!.sha256)).toEqual([false, true])
  })

  test('the manifest fits its published schema and the files', async () => {
    await read('year.md', '--out', 'listed', ...cache())
    const manifest = JSON.parse(await readFile(join(folder(), 'listed/manifest.json'), 'utf8')) as Manifest
    const schema = JSON.parse(await readFile(join(root, 'docs/manifest.schema.json'), 'utf8')) as object
    const validate = new Ajv({ allErrors: true }).compile(schema)
    expect(validate(manifest) ? [] : validate.errors).toEqual([])
    for (const file of manifest.files) expect(Math.abs(decode(join(folder(), 'listed', file.name)).length / 44.1 - file.durationMs)).toBeLessThan(5)
    expect(manifest.files[0]!.sentences.map(sentence => sentence.text)).toEqual(['Before the Flight', 'Lift nothing.', 'The roof stays on.', 'a scale', 'a pencil'])
  })

  test('the plan has the same files, and their exact lengths once they are read', async () => {
    const before = await json('plan', 'year.md', '--cache', join(folder(), 'none')) as unknown as { files: { name: string, durationMs: number, parts: number[], characters: number, utterances: number }[], totals: object }
    const { files } = await read('year.md', '--out', 'planned', ...cache())
    const after = await json('plan', 'year.md', ...cache()) as unknown as typeof before
    expect(after.files.map(file => [file.name, file.durationMs])).toEqual(files.map(file => [file.name, Math.round(file.durationMs)]))
    before.files.forEach((file, index) => expect(Math.abs(file.durationMs / files[index]!.durationMs - 1)).toBeLessThan(0.25))
    expect(before.totals).toMatchObject({ files: 2, utterances: 7 })
    expect(before.files[0]).toMatchObject({ parts: [1], utterances: 5 })
  })

  test('voice, pace, pitch and volume each change the audio', async () => {
    const settings = [[], ['--voice', 'en-us'], ['--wpm', '120'], ['--pitch', '-4'], ['--volume', '-12']]
    const digests = await Promise.all(settings.map(async (setting, index) => (await read('year.md', '--out', `set${index}`, '--cache', join(folder(), `set cache ${index}`), ...setting)).files[1]!.sha256))
    expect(new Set(digests).size).toBe(settings.length)
  })

  test('a house style changes the rests and nothing else', async () => {
    await writeFile(join(folder(), 'slow.json'), JSON.stringify({ sentenceRestMs: 1300 }))
    const plain = await read('year.md', '--out', 'plain', ...cache())
    const slow = await read('year.md', '--out', 'slow', ...cache(), '--house-style', 'slow.json')
    expect(slow.utterances.made).toBe(0)
    expect(slow.files[0]!.durationMs - plain.files[0]!.durationMs).toBeCloseTo(1000, 0)
    expect(slow.files[1]!.sha256).toBe(plain.files[1]!.sha256)
  })

  test('overwrites its own earlier files only, and removes those that are no longer made', async () => {
    await read('year.md', '--out', 'mine', ...cache())
    await writeFile(join(folder(), 'one.md'), '## Lime Flow\n\nThe limes are out.\n')
    await read('one.md', '--out', 'mine', ...cache(), '--language', 'en')
    expect((await readdir(join(folder(), 'mine'))).sort()).toEqual(['01-lime-flow.mp3', 'SHA256SUMS', 'manifest.json', 'playlist.cue', 'playlist.m3u8'])
    await writeFile(join(folder(), 'mine/01-lime-flow.mp3'), 'my own recording')
    const run = await quill('read', 'one.md', '--out', 'mine', ...cache(), '--language', 'en')
    expect(run).toMatchObject({ code: 1, error: expect.stringContaining('01-lime-flow.mp3') })
    expect(await readFile(join(folder(), 'mine/01-lime-flow.mp3'), 'utf8')).toBe('my own recording')
  })
})

test.each(['playlist.m3u8', 'playlist.cue', 'SHA256SUMS'])('%s of somebody else is left alone', async name => {
  const own = join(folder(), `own ${name}`)
  await mkdir(own)
  await writeFile(join(own, name), 'mine')
  expect(await quill('read', 'year.md', '--out', own)).toMatchObject({ code: 1, error: expect.stringContaining(name) })
  expect(await readdir(own)).toEqual([name])
  expect(await readFile(join(own, name), 'utf8')).toBe('mine')
})

describe('quill voices', () => {
  test('lists all, those of a language, and the variants', async () => {
    const all = await json('voices') as unknown as { voices: { id: string, language: string }[] }
    const german = await json('voices', '--lang', 'de') as unknown as typeof all
    expect(all.voices.length).toBeGreaterThanOrEqual(131)
    expect(german.voices.map(voice => voice.id)).toEqual(['de'])
    expect((await json('voices', '--variants') as unknown as { variants: { id: string }[] }).variants.map(variant => variant.id)).toContain('f3')
  })
})

describe('what the command line answers when it is used wrongly', () => {
  test.each([
    [['nonsense'], 2, 'unknown command'],
    [['outline', 'year.md', '--nonsense'], 2, 'unknown option'],
    [['outline'], 2, 'missing required argument'],
    [['read', 'year.md'], 2, '--out'],
    [['outline', 'year.md', '--by'], 2, 'argument missing'],
    [['outline', 'gone.md'], 1, 'There is no file gone.md'],
    [['outline', 'year.md', '--first', 'some'], 1, '20s or 3parts'],
    [['outline', 'year.md', '--pages', '3-4'], 1, 'has no page numbers'],
    [['outline', 'year.md', '--by', 'pattern:('], 1, 'is not a pattern'],
    [['outline', 'year.md', '--columns', 'nonsense'], 1, 'NAME=COLUMN'],
    [['outline', 'year.md', '--by', 'pages'], 1, 'heading:N'],
    [['plan', 'year.md', '--wpm', 'fast'], 1, 'takes a number'],
    [['plan', 'year.md', '--wpm', '20'], 1, '95 to 400'],
    [['plan', 'year.md', '--voice', 'nobody'], 1, 'no voice “nobody”'],
    [['plan', 'year.md', '--language', 'tlh'], 1, 'No voice speaks'],
    [['plan', 'year.md', '--house-style', 'year.md'], 1, 'not valid JSON'],
    [['voices', '--lang', 'tlh'], 1, 'No voice speaks'],
  ] as const)('%j: exit code %i, and a message without a stack trace', async (parameters, code, message) => {
    const run = await quill(...parameters)
    expect(run.code).toBe(code)
    expect(run.error).toContain(message)
    expect(run.error).not.toMatch(/^\s+at /mu)
  })

  test('a house style with a wrong value is named with its place', async () => {
    await writeFile(join(folder(), 'wrong.json'), JSON.stringify({ rests: { heading: { afterMs: -5 } } }))
    expect(await quill('plan', 'year.md', '--house-style', 'wrong.json')).toMatchObject({ code: 1, error: expect.stringContaining('rests.heading.afterMs') })
  })

  test('in a clone that was never set up it says which command to run', async () => {
    await mkdir(join(folder(), 'clone/bin'), { recursive: true })
    await cp(join(root, 'bin/quill'), join(folder(), 'clone/bin/quill'))
    const run = await new Promise<Run>(resolve => {
      execFile(join(folder(), 'clone/bin/quill'), ['voices'], (error, out, message) => resolve({ code: Number(error?.code ?? 0), out, error: message }))
    })
    expect(run).toMatchObject({ code: 1, error: expect.stringContaining('/clone/bin/start') })
  })

  test('without the encoder it says how to get it; what was read stays', async () => {
    const tools = join(folder(), 'tools')
    await mkdir(tools, { recursive: true })
    for (const tool of ['bash', 'dirname', 'readlink', 'env']) await symlink(`/usr/bin/${tool}`, join(tools, tool))
    await symlink(process.execPath, join(tools, 'node'))
    const run = (path: string): Promise<Run> => new Promise(resolve => {
      execFile(join(root, 'bin/quill'), ['read', 'year.md', '--out', 'encoded', '--cache', join(folder(), 'encoder cache'), '--json'], { cwd: folder(), env: { ...process.env, PATH: path } },
        (error, out, message) => resolve({ code: Number(error?.code ?? 0), out, error: message }))
    })
    expect(await run(tools)).toMatchObject({ code: 1, error: expect.stringMatching(/ffmpeg is not installed\. Run bin\/start/u) })
    expect(JSON.parse((await run(process.env['PATH']!)).out)).toMatchObject({ utterances: { made: 0, reused: 7 } })
  })

  test('it works through a link and from a folder with spaces', async () => {
    await rm(join(folder(), 'a link'), { force: true })
    await symlink(join(root, 'bin/quill'), join(folder(), 'a link'))
    const code = await new Promise<number>(resolve => {
      execFile(join(folder(), 'a link'), ['--help'], error => resolve(error === null ? 0 : 1))
    })
    expect(code).toBe(0)
  })
})
