import { execFileSync } from 'node:child_process'
import { cp, mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { parseHTML } from 'linkedom'
import type { FileFigures, Finding } from '#core/delivery/conformance'
import { temporaryFolder } from '../../support/paths'
import { quillIn } from '../../support/quill'

const folder = temporaryFolder()
const quill = quillIn(folder)

interface Report {
  readonly profile: string
  readonly files: readonly (FileFigures & { readonly name: string, readonly passes: boolean })[]
  readonly findings: readonly Finding[]
}

async function check(name: string, ...flags: string[]): Promise<Report & { code: number }> {
  const { code, out, error } = await quill('check-audio', name, '--json', ...flags)
  if (out === '') throw new Error(error)
  return { code, ...JSON.parse(out) as Report }
}

const chapter = (number: number): string => `## Chapter ${number}\n\nThe ${['first', 'second', 'third', 'fourth', 'fifth'][number - 1]} week is cold, and nobody opens a hive. `
  + 'Weigh it with one hand at the back, and write the weight into the book that hangs by the door.\n\nSnow on the alighting board does no harm. It melts by noon, and the bees come out to see.\n'

let names: string[]

beforeAll(async () => {
  await writeFile(join(folder(), 'winter.md'), `# Winter\n\n${[1, 2, 3, 4, 5].map(chapter).join('\n')}`)
  const { error, code } = await quill('read', 'winter.md', '--out', 'book')
  if (code !== 0) throw new Error(error)
  names = (await readdir(join(folder(), 'book'))).filter(name => name.endsWith('.mp3')).sort()
})

/** The book with something done to it. */
async function spoilt(name: string, act: (path: (index: number) => string) => Promise<void> | void): Promise<string> {
  await cp(join(folder(), 'book'), join(folder(), name), { recursive: true })
  await act(index => join(folder(), name, names[index]!))
  return name
}

const filtered = (path: string, ...parameters: string[]): void => looped(path, 0, ...parameters)

/** The same with the file some times more. */
const looped = (path: string, more: number, ...parameters: string[]): void => {
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-stream_loop', String(more), '-i', path, '-map_metadata', '0', '-id3v2_version', '3', ...parameters, '-b:a', '192k', `${path}.new.mp3`])
  execFileSync('mv', [`${path}.new.mp3`, path])
}

test('a book that was made with the profile passes all of it', async () => {
  const { code, findings, files, profile } = await check('book')
  expect(findings).toEqual([])
  expect([code, profile, files.length]).toEqual([0, 'Book, retail', 5])
  for (const file of files) expect(file).toMatchObject({ passes: true, headMs: expect.closeTo(700, -1) as number, tailMs: expect.closeTo(1500, -2) as number })
})

describe('a planted fault is found at its place, with what to do, and nothing else', () => {
  const third = () => names[2]!
  const faults: readonly [name: string, code: string, where: () => string, atMs: number | null, act: (path: (index: number) => string) => Promise<void> | void][] = [
    ['too loud', 'too-loud', third, null, path => filtered(path(2), '-af', 'volume=8dB,alimiter=limit=0.65:level=disabled:attack=1:release=20:latency=1')],
    ['clipped', 'clipped', third, 3000, path => filtered(path(2), '-af', 'volume=30dB:enable=\'between(t,3,3.02)\'')],
    ['noisy', 'noisy', third, null, path => filtered(path(2), '-af', 'aeval=val(0)+0.008*(random(0)-0.5)')],
    ['noisier', 'noisy', third, null, path => filtered(path(2), '-af', 'aeval=val(0)+0.03*(random(0)-0.5)')],
    ['with a short head', 'head-short', third, 0, path => filtered(path(2), '-af', 'atrim=start=0.5,asetpts=PTS-STARTPTS')],
    ['of another rate', 'wrong-rate', third, null, path => filtered(path(2), '-ar', '48000')],
    ['stereo among mono', 'wrong-channels', third, null, path => filtered(path(2), '-af', 'pan=stereo|c0=c0|c1=c0')],
    ['with a silent minute', 'long-silence', third, 6000, path => looped(path(2), 12, '-filter_complex', '[0]asplit[a][b];[a]atrim=0:6[c];[b]atrim=6,asetpts=PTS-STARTPTS[d];aevalsrc=0:d=60:s=44100[s];[c][s][d]concat=n=3:v=0:a=1')],
    ['without a part', 'missing', () => names[3]!, null, path => rm(path(2))],
    ['in a wrong order', 'order', () => names[2]!, null, async path => {
      await rename(path(2), `${path(2)}.moved`)
      await rename(path(1), path(2))
      await rename(`${path(2)}.moved`, path(1))
    }],
  ]

  test.each(faults)('%s', async (name, fault, where, atMs, act) => {
    const { code, findings } = await check(await spoilt(name, act))
    expect(findings.map(finding => [finding.code, finding.file])).toEqual([[fault, where()]])
    const [finding] = findings as [Finding]
    if (atMs === null) expect(finding.atMs).toBeNull()
    else expect(Math.abs(finding.atMs! - atMs)).toBeLessThan(1500)
    expect(finding.remedy).not.toBe('')
    expect(code).toBe(1)
  })
})

test('the same sound twice is found, whatever the files are called', async () => {
  const { findings } = await check(await spoilt('twice', async path => {
    const tags = ['-metadata', 'track=5/5']
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-i', path(0), '-c', 'copy', ...tags, `${path(4)}.new.mp3`])
    await rename(`${path(4)}.new.mp3`, path(4))
  }))
  expect(findings.map(({ code, file, message }) => [code, file, message])).toEqual([['doubled', names[4], expect.stringContaining(names[0]!)]])
})

test('what is printed says where and what to do, in words', async () => {
  const { code, out } = await quill('check-audio', 'with a short head')
  expect(code).toBe(1)
  expect(out).toContain(`${names[2]} at 0:00: There are 0.20 s before the first word, fewer than 0.50.`)
  expect(out).toContain('1 of 5 files does not pass “Book, retail”')
})

describe('a report', () => {
  test('is a page to print, a table, or data, by the name of its file', async () => {
    await spoilt('quiet', path => filtered(path(2), '-af', 'volume=-9dB'))
    const { code, out } = await quill('check-audio', 'quiet', '--report', 'report.html')
    expect([code, out]).toEqual([1, expect.stringContaining('1 of 5 files does not pass “Book, retail”')])
    const page = await readFile(join(folder(), 'report.html'), 'utf8')
    const { document } = parseHTML(page)
    expect(document.querySelector('title')?.textContent).toBe('quiet: conformance')
    expect([...document.querySelectorAll('tbody tr')].map(row => row.lastElementChild!.textContent)).toEqual(['passes', 'passes', 'fails', 'passes', 'passes'])
    expect(document.querySelectorAll('tbody tr')[2]!.textContent).toContain('below −23.0')
    expect(document.querySelector('svg path')).not.toBeNull()
    expect(page).not.toMatch(/(?:src|href)=/u)

    await quill('check-audio', 'quiet', '--report', 'report.csv')
    expect((await readFile(join(folder(), 'report.csv'), 'utf8')).split('\r\n').filter(line => line.includes(',fails,'))).toHaveLength(1)
    await quill('check-audio', 'book', '--report', 'report.json')
    expect(JSON.parse(await readFile(join(folder(), 'report.json'), 'utf8'))).toMatchObject({ version: 1, title: 'book', passes: true, delivery: null })
    expect((await quill('check-audio', 'book', '--report', 'report.pdf')).error).toContain('report.pdf does not say what kind of report it is to be. End its name with .html, .csv, .json.')
  })

  test('is written where files are made; when one fails that is said, and a reason is kept in it', async () => {
    await writeFile(join(folder(), 'strict.json'), JSON.stringify({ version: 1, name: 'Strict', limits: { longestMs: 5000 } }))
    const failing = await quill('read', 'winter.md', '--out', 'strict', '--profile', 'strict.json', '--split', 'part')
    expect([failing.code, failing.error]).toEqual([1, expect.stringMatching(/01-chapter-1\.mp3 at 0:05: It lasts 0:\d\d, longer than 0:05\. “.+” Split it/u)])
    expect(failing.error).toContain('5 of 5 files do not pass “Strict”')
    expect(await readdir(join(folder(), 'strict'))).toContain('05-chapter-5.mp3')
    const anyway = await quill('read', 'winter.md', '--out', 'strict', '--profile', 'strict.json', '--split', 'part', '--report', 'strict.json.html', '--anyway', 'Agreed on <Monday>')
    expect(anyway.code).toBe(0)
    expect(await readFile(join(folder(), 'strict.json.html'), 'utf8')).toContain('Agreed on &lt;Monday&gt;')
    // As data it has what is documented, and no more.
    await quill('read', 'winter.md', '--out', 'strict', '--profile', 'strict.json', '--split', 'part', '--report', 'as-data.json', '--anyway', 'Agreed')
    const { files } = JSON.parse(await readFile(join(folder(), 'as-data.json'), 'utf8')) as { files: object[] }
    expect(files.map(file => Object.keys(file))).toEqual(Array(5).fill(['name', 'title', 'bytes', 'durationMs', 'levels', 'sound', 'findings']))
  })
})

describe('a profile', () => {
  test('of a file fills in from another, and its mistakes are told with their place', async () => {
    await writeFile(join(folder(), 'own.json'), JSON.stringify({ version: 1, from: 'podcast', name: 'Own', limits: { longestMs: 1000 } }))
    const { profile, findings } = await check('book', '--profile', 'own.json')
    expect(profile).toBe('Own')
    expect(new Set(findings.map(finding => finding.code))).toEqual(new Set(['too-long']))
    await writeFile(join(folder(), 'wrong.json'), JSON.stringify({ version: 1, headMs: -1 }))
    const { code, error } = await quill('check-audio', 'book', '--profile', 'wrong.json')
    expect([code, error]).toEqual([1, expect.stringContaining('headMs must be >= 0')])
  })

  test('is printed, read back as it was, and its schema too', async () => {
    await writeFile(join(folder(), 'printed.json'), (await quill('profile', 'course')).out)
    const [printed, own] = [await check('book', '--profile', 'printed.json'), await check('book', '--profile', 'course')]
    expect(printed).toEqual(own)
    expect(JSON.parse((await quill('profile', '--schema')).out)).toMatchObject({ title: 'Delivery profile' })
    expect((await quill('check-audio', 'book', '--profile', 'none')).error).toContain('neither a file nor one of book, one-file, course,')
  })
})

describe('other formats', () => {
  test.each(['one-file', 'web', 'telephony', 'archive'])('what is made as %s passes it', async name => {
    const { code, error } = await quill('read', 'winter.md', '--out', name, '--profile', name)
    expect([error, code]).toEqual([expect.not.stringContaining('quill:'), 0])
    expect(await check(name, '--profile', name)).toMatchObject({ code: 0, findings: [] })
  })

  test('tags and cover are as they were given', async () => {
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=300x300', '-frames:v', '1', join(folder(), 'cover.png')])
    expect((await quill('read', 'winter.md', '--out', 'labelled', '--profile', 'one-file', '--cover', 'cover.png', '--narrator', 'Nora Vale', '--year', '2031', '--genre', 'Audiobook')).code).toBe(0)
    const said = execFileSync('ffprobe', ['-v', 'error', '-show_format', '-show_streams', '-show_chapters', '-of', 'json', join(folder(), 'labelled', '01-winter.m4b')], { encoding: 'utf8' })
    const { format, streams, chapters } = JSON.parse(said) as { format: { tags: Record<string, string> }, streams: { codec_name: string }[], chapters: { tags: { title: string } }[] }
    expect(format.tags).toMatchObject({ title: 'Winter', composer: 'Nora Vale', date: '2031', genre: 'Audiobook' })
    expect(streams.map(stream => stream.codec_name)).toContain('png')
    expect(chapters.map(({ tags }) => tags.title)).toEqual([1, 2, 3, 4, 5].map(number => `Chapter ${number}`))
  })

  test('words by themselves have no peak above the ceiling, though encoding raises some by more than is usual', async () => {
    const words = ['Usage', 'What', 'Stop', 'Peak', 'Tests', 'Basic', 'Packet', 'Cups', 'Kept', 'Quick', 'Text', 'Act']
    await writeFile(join(folder(), 'words.md'), `# Words\n\nA sentence that is a little longer than the words which follow it, so that there is a level.\n\n${words.map(word => `## ${word}\n`).join('\n')}`)
    await quill('read', 'words.md', '--language', 'en', '--out', 'words', '--profile', 'book')
    const { findings } = await check('words', '--profile', 'book')
    expect(findings.map(({ code }) => code)).not.toContain('peak-high')
  })

  test('a cover lies beside the files too, but replaces no other picture', async () => {
    const make = (...flags: string[]): ReturnType<typeof quill> => quill('read', 'winter.md', '--out', 'pictured', '--profile', 'book', ...flags)
    expect((await make('--cover', 'cover.png')).code).toBe(0)
    expect(await readFile(join(folder(), 'pictured/cover.png'))).toEqual(await readFile(join(folder(), 'cover.png')))
    // Its own, and the picture itself that lies there already, may be written again; without a cover it goes.
    expect((await make('--cover', 'pictured/cover.png')).code).toBe(0)
    expect((await make()).code).toBe(0)
    expect(await readdir(join(folder(), 'pictured'))).not.toContain('cover.png')
    await writeFile(join(folder(), 'pictured/cover.png'), 'another')
    expect((await make()).code).toBe(0)
    expect((await make('--cover', 'cover.png')).error).toContain('pictured/cover.png exists and is not from an earlier run')
    expect(await readFile(join(folder(), 'pictured/cover.png'), 'utf8')).toBe('another')
  })

  test('what cannot be a tag or a cover is said before anything is made', async () => {
    const failing = async (...flags: string[]): Promise<string> => (await quill('read', 'winter.md', '--out', 'none', ...flags)).error
    expect(await failing('--year', 'soon')).toContain('“soon” is no year. Write four figures')
    expect(await failing('--disc', 'two')).toContain('“two” is no place in a set')
    expect(await failing('--cover', 'winter.md')).toContain('winter.md is neither a JPEG nor a PNG picture')
    expect(await failing('--cover', 'gone.jpg')).toContain('There is no picture gone.jpg')
    await expect(readdir(join(folder(), 'none'))).rejects.toThrow('ENOENT')
  })
})

test('a folder without audio, or none at all, is told as such', async () => {
  await mkdir(join(folder(), 'empty'))
  expect((await quill('check-audio', 'empty')).error).toContain('There are no audio files in empty.')
  expect((await quill('check-audio', 'nowhere')).error).toContain('There is no folder nowhere.')
  await writeFile(join(folder(), 'empty', 'a.mp3'), 'no sound')
  await cp(join(folder(), 'book', names[0]!), join(folder(), 'empty', names[0]!))
  const { code, out } = await quill('check-audio', 'empty')
  expect([code, out]).toEqual([1, expect.stringContaining('a.mp3: a.mp3 is no sound that can be read. Make it again, or take it out of the folder.')])
  // What can be read is measured all the same.
  expect(out).toMatch(/01-chapter-1\.mp3 +0:\d\d +-2\d/u)
  expect((await check('empty')).findings.map(finding => finding.code)).toEqual(['missing', 'missing', 'missing', 'missing', 'unreadable'])
})
