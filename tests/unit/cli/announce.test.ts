import { execFileSync } from 'node:child_process'
import { readdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { decode, pitchHz, probe, rmsDb } from '../../support/audio'
import { temporaryFolder } from '../../support/paths'
import { quillIn } from '../../support/quill'

const folder = temporaryFolder()
const quill = quillIn(folder)
const rate = 44_100

beforeAll(async () => {
  await writeFile(join(folder(), 'lane.md'), '# The Lane Year\n\n## The Willow Days\n\nBees wake. They fly far.\n\n## Lime Flow\n\nIt is hot, and the hive is full.\n')
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=frequency=100:duration=1.2:sample_rate=22050', join(folder(), 'chime.wav')])
})

const announced = ['lane.md', '--by', 'heading:2', '--announce-opening', '{production}. Read by {narrator}.', '--announce-part', 'Chapter {number}.', '--announce-closing', 'The end.', '--narrator', 'N. Vale']

test('credits and chapter numbers are spoken, in files of their own or beside the text, and every file passes', async () => {
  const apart = await quill('read', ...announced, '--out', 'apart')
  expect([apart.code, apart.error]).toEqual([0, expect.stringContaining('4 files: all pass “Book, retail”')])
  expect((await readdir(join(folder(), 'apart'))).filter(name => name.endsWith('.mp3'))).toEqual(['01-opening-credits.mp3', '02-the-willow-days.mp3', '03-lime-flow.mp3', '04-closing-credits.mp3'])
  expect(probe(join(folder(), 'apart/01-opening-credits.mp3')).format.tags).toMatchObject({ title: 'Opening credits', track: '1/4', album: 'The Lane Year' })

  // The same sentences lie in two files: not longer than the four by more than the margins, which are fewer.
  const beside = await quill('read', ...announced, '--announce-files', 'none', '--out', 'beside', '--json')
  const { files, utterances } = JSON.parse(beside.out) as { files: { durationMs: number }[], utterances: { made: number } }
  expect([files.length, utterances.made]).toEqual([2, 0])
})

test('another voice speaks them; a title said twice is told, and can be left out', async () => {
  const { error } = await quill('plan', 'lane.md', '--by', 'heading:2', '--announce-part', '{part}!')
  expect(error).toContain('2 titles are said twice, by the announcement and by the part itself: The Willow Days, Lime Flow. Announce by {number} only')
  const planned = async (...flags: string[]): Promise<number> => (JSON.parse((await quill('plan', 'lane.md', '--by', 'heading:2', '--json', '--announce-part', '{part}!', ...flags)).out) as { totals: { utterances: number } }).totals.utterances
  expect(await planned('--announce-repeats', 'skip')).toBe(await planned() - 2)

  const made = async (...flags: string[]): Promise<number> => (JSON.parse((await quill('read', ...announced, ...flags, '--json')).out) as { utterances: { made: number } }).utterances.made
  expect([await made('--out', 'own', '--announcer', 'en-us+f3'), await made('--out', 'again', '--announcer', 'en-us+f3')]).toEqual([5, 0])
  expect((await quill('plan', 'lane.md', '--announce-closing', 'By {composer}.')).error).toContain('It contains {composer}; use {production} {author} {narrator} {year} {copyright}.')
  expect((await quill('plan', 'lane.md', '--announce-closing', 'x', '--announcer', 'nobody')).error).toContain('nobody')
})

test('an intro is heard behind the head of the first file, and an outro before the tail of the last, a second away from the words', async () => {
  const { code, error } = await quill('read', 'lane.md', '--by', 'heading:2', '--intro', 'chime.wav', '--outro', 'chime.wav', '--out', 'sounds')
  expect([code, error]).toEqual([0, expect.stringContaining('2 files: all pass')])
  const first = decode(join(folder(), 'sounds/01-the-willow-days.mp3'))
  const last = decode(join(folder(), 'sounds/02-lime-flow.mp3'))
  const between = (samples: Int16Array, from: number, to: number): Int16Array => samples.slice(from * rate, to * rate)
  expect(rmsDb(between(first, 0, 0.65))).toBeLessThan(-60)
  expect(pitchHz(between(first, 0.75, 1.85), rate)).toBeCloseTo(100, -1)
  expect(rmsDb(between(first, 1.95, 2.85))).toBeLessThan(-60)
  const end = last.length / rate
  expect(rmsDb(between(last, end - 1.45, end))).toBeLessThan(-60)
  expect(pitchHz(between(last, end - 2.65, end - 1.55), rate)).toBeCloseTo(100, -1)
  expect(rmsDb(between(last, end - 3.65, end - 2.75))).toBeLessThan(-60)
  expect((await quill('plan', 'lane.md', '--intro', 'none.wav')).error).toContain('The sound “none.wav” is left out.')
})

test('the tone of a room is under all of a file, head and tail too, as loud as it is against the speech', async () => {
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'anoisesrc=color=pink:amplitude=0.003:seed=7:duration=3:sample_rate=22050', join(folder(), 'room.wav')])
  const { code, error } = await quill('read', 'lane.md', '--by', 'heading:2', '--room-tone', 'room.wav', '--out', 'toned')
  expect([code, error]).toEqual([0, expect.stringContaining('2 files: all pass')])
  await quill('read', 'lane.md', '--by', 'heading:2', '--out', 'silent')
  const [toned, silent] = ['toned', 'silent'].map(name => decode(join(folder(), name, '01-the-willow-days.mp3')))
  expect(toned!.length).toBe(silent!.length)
  const head = (samples: Int16Array): number => rmsDb(samples.slice(0.1 * rate, 0.6 * rate))
  const tail = (samples: Int16Array): number => rmsDb(samples.slice(-1.2 * rate, -0.2 * rate))
  expect([head(silent!), tail(silent!)].every(level => level < -90)).toBe(true)
  // The gain that brings the speech to its level brings the tone up with it.
  expect(head(toned!)).toBeGreaterThan(-75)
  expect(head(toned!)).toBeLessThan(-58)
  expect(Math.abs(head(toned!) - tail(toned!))).toBeLessThan(1.5)
  expect(Math.abs(rmsDb(toned!) - rmsDb(silent!))).toBeLessThan(0.2)
})
