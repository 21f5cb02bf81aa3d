import { execFileSync } from 'node:child_process'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { cueSheets } from '#core/delivery/lists'
import type { ManifestFile } from '#core/delivery/manifest'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()

const file = (number: number, change: Partial<ManifestFile> = {}): ManifestFile =>
  ({ number, name: `${number}.mp3`, title: `Chapter ${number} – “Ü” "x"`, parts: [number], durationMs: 60_000, sampleCount: 1, sha256: '', chapters: [], sentences: [], ...change })

const sheetsOf = (...files: ManifestFile[]): ReturnType<typeof cueSheets> => cueSheets({ title: 'The Year', author: 'T. Orrery', files })

/** What cuetools, readers of cue sheets of their own, find in a sheet. */
async function read(program: 'cueprint' | 'cuebreakpoints', text: string, ...options: string[]): Promise<string[]> {
  const path = join(folder(), 'sheet.cue')
  await writeFile(path, text)
  return execFileSync(program, [...options, path], { encoding: 'utf8' }).trim().split('\n')
}

test('each file is a track', async () => {
  const [sheet] = sheetsOf(file(1), file(2), file(3)) as [{ name: string, text: string }]
  expect(sheet.name).toBe('playlist.cue')
  expect(await read('cueprint', sheet.text, '-d', '%P, %T, %N\n', '-t', '%n %f %t\n')).toEqual([
    'T. Orrery, The Year, 3', '1 1.mp3 Chapter 1 – “Ü” \'x\'', '2 2.mp3 Chapter 2 – “Ü” \'x\'', '3 3.mp3 Chapter 3 – “Ü” \'x\'',
  ])
})

test('each chapter of a file is a track, that begins to the frame', async () => {
  const chapters = [{ title: 'One', startMs: 0, endMs: 61_505.4 }, { title: 'Two', startMs: 61_505.4, endMs: 7_265_013 }, { title: 'Three', startMs: 7_265_013, endMs: 7_300_000 }]
  const [sheet] = sheetsOf(file(1, { name: 'year.m4b', chapters })) as [{ name: string, text: string }]
  expect(sheet.text).toContain('FILE "year.m4b" WAVE')
  // 505 ms are 37 whole frames of 75 a second, and 13 ms none.
  expect(await read('cuebreakpoints', sheet.text)).toEqual(['1:01.37', '121:05.00'])
})

test('more tracks than have numbers of two figures go on in other sheets', async () => {
  const sheets = sheetsOf(...Array.from({ length: 200 }, (_, index) => file(index + 1)))
  expect(sheets.map(({ name }) => name)).toEqual(['playlist-1.cue', 'playlist-2.cue', 'playlist-3.cue'])
  const ends: (string | undefined)[][] = []
  for (const { text } of sheets) {
    const names = await read('cueprint', text, '-t', '%f\n', '-d', '')
    ends.push([names[0], names.at(-1)])
  }
  expect(ends).toEqual([['1.mp3', '99.mp3'], ['100.mp3', '198.mp3'], ['199.mp3', '200.mp3']])
})
