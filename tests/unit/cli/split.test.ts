import { readdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Manifest } from '#core/delivery/manifest'
import { decode, rmsDb } from '../../support/audio'
import { temporaryFolder } from '../../support/paths'
import { quillIn } from '../../support/quill'
import { fileSplit } from '../../../cli/choices'

const folder = temporaryFolder()

const quill = quillIn(folder)

interface Planned {
  readonly files: readonly { readonly name: string, readonly parts: readonly number[], readonly durationMs: number }[]
}

const plan = async (...flags: string[]): Promise<Planned['files']> => (JSON.parse((await quill('plan', 'winter.md', '--json', ...flags)).out) as Planned).files

async function read(out: string, ...flags: string[]): Promise<Manifest> {
  const { code, error } = await quill('read', 'winter.md', '--out', out, ...flags)
  if (code !== 0) throw new Error(error)
  return JSON.parse(await readFile(join(folder(), out, 'manifest.json'), 'utf8')) as Manifest
}

const paragraph = 'Weigh it with one hand at the back, and write the weight into the book that hangs by the door. Snow on the alighting board does no harm. It melts by noon, and the bees come out to see.'
const chapter = (number: number, paragraphs: number): string => `## Week ${number}\n\n${Array.from({ length: paragraphs }, (_, index) => `On day ${index + 1} of week ${number} it is cold. ${paragraph}`).join('\n\n')}\n`

let byPart: Manifest

beforeAll(async () => {
  await writeFile(join(folder(), 'winter.md'), `# Winter\n\n${[chapter(1, 8), chapter(2, 3), chapter(3, 2)].join('\n')}`)
  byPart = await read('by part')
})

const sentences = (manifest: Manifest): string[] => manifest.files.flatMap(file => file.sentences.map(sentence => sentence.text))

test.each([
  ['whole', ['01-winter.mp3']],
  ['part,max:1min', ['01a-week-1.mp3', '01b-week-1.mp3', '01c-week-1.mp3', '02-week-2.mp3', '03-week-3.mp3']],
])('--split %s makes these files, with every sentence in its order', async (where, names) => {
  expect((await plan('--split', where)).map(file => file.name)).toEqual(names)
  const manifest = await read(`split ${where}`, '--split', where)
  expect(manifest.files.map(file => file.name)).toEqual(names)
  expect(sentences(manifest)).toEqual(sentences(byPart))
  for (const file of manifest.files) {
    const samples = decode(join(folder(), `split ${where}`, file.name))
    expect(samples).toHaveLength(file.sampleCount)
    // The last word is where the manifest says, and nothing is behind it.
    const end = Math.round(file.sentences.at(-1)!.endMs * 44.1)
    expect(rmsDb(samples.subarray(end - 4410, end))).toBeGreaterThan(-45)
    expect(rmsDb(samples.subarray(end + 1500))).toBeLessThan(-70)
    if (where.includes('max')) expect(file.durationMs).toBeLessThanOrEqual(60_000)
  }
})

test('a file for each passage, and for each sentence', async () => {
  const [passages, all] = [await plan('--split', 'passage'), await plan('--split', 'sentence')]
  expect(passages).toHaveLength(16)
  expect(passages[1]).toMatchObject({ name: '02-on-day-1-of-week-1.mp3', parts: [1] })
  expect(all).toHaveLength(sentences(byPart).length)
})

test('a size is kept too, and about so long is as near as passages allow', async () => {
  const { files } = await read('small', '--split', 'whole,max:1mb', '--profile', 'course')
  expect(files.length).toBeGreaterThan(2)
  for (const file of files) expect((await readFile(join(folder(), 'small', file.name))).length).toBeLessThan(1_000_000)
  const about = await plan('--split', 'about:1min')
  expect(about.length).toBeGreaterThanOrEqual(2)
  for (const file of about.slice(0, -1)) expect(Math.abs(file.durationMs - 60_000)).toBeLessThan(16_000)
})

test('empty lines of the source begin files', async () => {
  await writeFile(join(folder(), 'gaps.txt'), 'The bees sleep.\n\nIt is cold.\n\n\nSpring comes.\n\n\n\nThey fly.\n')
  const { out } = await quill('plan', 'gaps.txt', '--json', '--split', 'blank:2')
  expect((JSON.parse(out) as Planned).files.map(file => file.name)).toEqual(['01-gaps.mp3', '02-spring-comes.mp3', '03-they-fly.mp3'])
})

test('divisions as they are written', () => {
  expect(fileSplit('heading:2,max:60min')).toEqual({ where: { by: 'heading', level: 2 }, longestMs: 3_600_000 })
  expect(fileSplit('slide, about:5m, max:8mb')).toEqual({ where: { by: 'slide' }, aboutMs: 300_000, largestBytes: 8_000_000 })
  expect(fileSplit('about:30')).toEqual({ where: { by: 'whole' }, aboutMs: 1_800_000 })
  for (const wrong of ['chapter', 'heading:0', 'heading:10', 'blank:1', 'max:', 'max:0min', 'part,about:2h', '']) expect(() => fileSplit(wrong)).toThrow('Write part, slide, heading:N')
})

test('what is written wrong is told with what could be written', async () => {
  expect(await quill('plan', 'winter.md', '--split', 'chapter')).toMatchObject({ code: 1, error: expect.stringContaining('Write part, slide, heading:N') as string })
})

test('several profiles are made in one run, each in a folder of its own and divided as it says', async () => {
  const run = await quill('read', 'winter.md', '--out', 'several', '--profile', 'book', '--profile', 'one-file', '--report', 'several.json', '--json')
  expect([run.code, run.error.match(/House style/gu)]).toEqual([0, ['House style']])
  const { profiles } = JSON.parse(run.out) as { profiles: { profile: string, files: { name: string }[], utterances: { made: number } }[] }
  expect(profiles.map(({ profile, files, utterances }) => [profile, files.map(file => file.name), utterances.made])).toEqual([
    ['book', ['01-week-1.mp3', '02-week-2.mp3', '03-week-3.mp3'], 0], ['one-file', ['01-winter.m4b'], 0],
  ])
  const reports = await Promise.all(['book', 'one-file'].map(async name => (JSON.parse(await readFile(join(folder(), `several-${name}.json`), 'utf8')) as { passes: boolean }).passes))
  expect(reports).toEqual([true, true])
  expect((await readdir(join(folder(), 'several/one-file'))).sort()).toEqual(['01-winter.m4b', 'SHA256SUMS', 'manifest.json', 'playlist.cue', 'playlist.m3u8'])

  const planned = JSON.parse((await quill('plan', 'winter.md', '--profile', 'book', '--profile', 'one-file', '--json')).out) as { profiles: { profile: string, totals: { files: number } }[] }
  expect(planned.profiles.map(({ profile, totals }) => [profile, totals.files])).toEqual([['book', 3], ['one-file', 1]])
  const twice = await quill('read', 'winter.md', '--out', 'twice', '--profile', 'book', '--profile', 'book')
  expect([twice.code, twice.error]).toEqual([1, 'Two profiles would have the folder book. Ask for each profile once, and give files of profiles different names.\n'])
})
