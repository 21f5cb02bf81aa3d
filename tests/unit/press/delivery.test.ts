import { execFileSync } from 'node:child_process'
import { readFile, readdir, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { parseFile } from 'music-metadata'
import { noDetails } from '#core/delivery/details'
import { checksumsOf } from '#core/delivery/lists'
import type { DeliveryProfile } from '#core/delivery/profile'
import { defaultProfile } from '#core/delivery/profiles'
import type { Manifest } from '#core/delivery/manifest'
import type { RunSheetFile } from '#core/runsheet/run-sheet'
import { plainContent } from '#core/script/content'
import { passageKinds, type PassageKind } from '#core/script/script'
import { defaultHouseStyle, restBetween } from '#core/style/house-style'
import { deliver, type DeliveredFile, type DeliveryPlace } from '../../../press/deliver'
import { extrasIn, zipPackage } from '../../../press/package'
import { makeTakes } from '../../../reading/make-takes'
import { FileTakeIndex } from '../../../takes/file-index'
import { FolderStorage } from '../../../takes/folder-storage'
import type { TakeLibrary } from '../../../takes/library'
import { openEngines } from '../../../voices/engines'
import { casting, castPart } from '../../support/casting'
import { decode, probe, quietMs, rmsDb } from '../../support/audio'
import { programs, temporaryFolder } from '../../support/paths'
import { heardPart, heardSheet } from '../../support/sheet'
import { packsIn } from '../../support/takes'

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 2 })
const trackRate = 22_050
afterAll(() => Promise.all([engines.close(), library.packs.close(), pieces.close()]))

const work = { title: 'The Year; a = handbook', author: 'T. Orrery', language: 'en-GB', details: noDetails, cover: null }

// Every kind stands once before every kind, itself included.
const kinds: PassageKind[] = passageKinds.flatMap(before => passageKinds.flatMap(after => [before, after]))

function sheetOf(gainDb = -3): RunSheetFile[] {
  const passages = kinds.map((kind, index) => ({ id: `1.${index}`, kind, content: plainContent(index % 2 === 0 ? 'Take that cup. Get it back.' : 'Put it back.') }))
  const compiled = castPart({ id: '1', kind: 'chapter', label: 'Ünder; the “Lid”', included: true, passages }, { language: 'en', style: defaultHouseStyle, casting: { ...casting, gainDb } })
  return heardSheet([heardPart(compiled, 'Ünder; the “Lid”')])
}

const placeOf = (name: string): DeliveryPlace => ({ storage: new FolderStorage(folder()), folder: name })

let library: TakeLibrary
let pieces: FolderStorage
let file: DeliveredFile
let path: string
let samples: Int16Array

beforeAll(async () => {
  library = { index: await FileTakeIndex.open(join(folder(), 'takes.jsonl')), packs: packsIn(folder()) }
  pieces = new FolderStorage(folder())
  await makeTakes(sheetOf()[0]!.score.utterances, library, engines)
  ;[file] = await deliver(sheetOf(), work, defaultProfile, library, placeOf('out'), { trackRate, pieces }) as [DeliveredFile]
  path = join(folder(), 'out', file.name)
  samples = decode(path)
})

describe('a delivered file', () => {
  test('is MP3, 192 kbit/s constant, 44.1 kHz, mono', () => {
    expect(probe(path).streams[0]).toMatchObject({ codec_name: 'mp3', sample_rate: '44100', channels: 1, bit_rate: '192000' })
  })

  test('decodes to exactly the samples that the manifest says', () => {
    expect(samples).toHaveLength(file.sampleCount)
    expect(Math.abs(samples.length / 44.1 - file.durationMs)).toBeLessThan(0.1)
  })

  test('has its tags, read back by two independent readers', async () => {
    expect(probe(path).format.tags).toMatchObject({ title: 'Ünder; the “Lid”', track: '1/1', album: work.title, artist: work.author })
    const { common, native } = await parseFile(path)
    expect(common).toMatchObject({ title: 'Ünder; the “Lid”', track: { no: 1, of: 1 }, album: work.title, artist: work.author })
    expect(native['ID3v2.3']).toContainEqual({ id: 'TLAN', value: 'eng' })
  })

  test('has the silence of its profile before the first and after the last word', () => {
    const [first, last] = [file.sentences[0]!, file.sentences.at(-1)!]
    expect([defaultProfile.headMs, defaultProfile.tailMs]).toEqual([700, 1500])
    expect(first.startMs).toBe(700)
    expect(file.durationMs - last.endMs).toBeCloseTo(1500, 1)
    expect(quietMs(samples, 4410, 44_100, -50)).toBeGreaterThan(698)
    expect(quietMs(samples, 4410, 44_100, -50)).toBeLessThan(730)
  })

  // The rests are exact in the track; by energy, at −50 dBFS, the soft edges of speech add to them.
  test('between all pairs of kinds, and between sentences, the gap is the rest, within −2 and +30 ms', () => {
    const expected: number[] = []
    kinds.forEach((kind, index) => {
      if (index > 0) expected.push(restBetween(defaultHouseStyle, { kind: kinds[index - 1]! }, { kind }))
      if (index % 2 === 0) expected.push(defaultHouseStyle.sentenceRestMs)
    })
    const gaps = file.sentences.slice(1).map((sentence, index) => {
      const before = file.sentences[index]!
      return { exact: sentence.startMs - before.endMs, heard: quietMs(samples, Math.round((before.endMs + sentence.startMs) / 2 * 44.1), 44_100, -50) }
    })
    expect(gaps).toHaveLength(expected.length)
    // One sample at the track's 22,050 Hz is 0.045 ms. Where the file is cut into pieces a rest is rounded by at most half a frame of 1,152 samples.
    const rounded = gaps.filter(({ exact }, index) => Math.abs(exact - expected[index]!) >= 0.05)
    expect(rounded.length).toBeLessThan(file.durationMs / 20_000)
    gaps.forEach(({ exact, heard }, index) => {
      expect(Math.abs(exact - expected[index]!)).toBeLessThanOrEqual(576 / 44.1)
      expect(heard - exact).toBeGreaterThan(-2)
      expect(heard - exact).toBeLessThan(30)
    })
  })

  test('is the same to the byte when it is made again', async () => {
    const [again] = await deliver(sheetOf(), work, defaultProfile, library, placeOf('again'), { trackRate, pieces })
    expect(again).toEqual(file)
    expect(await readFile(join(folder(), 'again', 'manifest.json'), 'utf8')).toBe(await readFile(join(folder(), 'out', 'manifest.json'), 'utf8'))
  })

  test('follows the volume to within 0.1 dB where the profile leaves the level as it is, with the same takes', async () => {
    const asItIs = { ...defaultProfile, target: null, ceilingDb: null }
    const levels = [-3, -9].map(async gainDb => {
      const [made] = await deliver(sheetOf(gainDb), work, asItIs, library, placeOf(`at ${gainDb}`), { trackRate, pieces }) as [DeliveredFile]
      return rmsDb(decode(join(folder(), `at ${gainDb}`, made.name)))
    })
    const [loud, quiet] = await Promise.all(levels) as [number, number]
    expect(quiet - loud).toBeCloseTo(-6, 1)
  })

  test('is brought to the level of the profile, whatever the volume', async () => {
    const [quieter] = await deliver(sheetOf(-9), work, defaultProfile, library, placeOf('quieter'), { trackRate, pieces }) as [DeliveredFile]
    for (const each of [samples, decode(join(folder(), 'quieter', quieter.name))]) expect(Math.abs(rmsDb(each) + 20)).toBeLessThanOrEqual(0.5)
  })

  test('leaves nothing unfinished in its folder', async () => {
    expect((await readFile(path)).length).toBe(file.bytes)
    await expect(stat(`${path}.part`)).rejects.toThrow()
  })
})

describe('an earlier file', () => {
  test('is used again when its fingerprint fits and it is intact', async () => {
    const asked: string[] = []
    const earlier = (fingerprint: string) => {
      asked.push(fingerprint)
      return Promise.resolve({ name: `out/${file.name}`, sha256: file.sha256, levels: file.levels, findings: file.findings })
    }
    const [taken] = await deliver(sheetOf(), work, defaultProfile, library, placeOf('taken'), { trackRate, pieces, earlier }) as [DeliveredFile]
    expect(asked).toEqual([file.fingerprint])
    expect((await stat(join(folder(), 'taken', taken.name))).ino).toBe((await stat(path)).ino)
  })

  test('is made again when it was changed meanwhile', async () => {
    await writeFile(join(folder(), 'damaged.mp3'), 'x')
    const [made] = await deliver(sheetOf(), work, defaultProfile, library, placeOf('made'), { trackRate, pieces, earlier: () => Promise.resolve({ name: 'damaged.mp3', sha256: file.sha256, levels: file.levels, findings: file.findings }) }) as [DeliveredFile]
    expect(await placeOf('made').storage.sha256(`made/${made.name}`)).toBe(file.sha256)
  })
})

test('the checksums are those that sha256sum finds, and the playlist names the files in order', async () => {
  execFileSync('sha256sum', ['--check', '--strict', '--quiet', 'SHA256SUMS'], { cwd: join(folder(), 'out') })
  expect(checksumsOf(await readFile(join(folder(), 'out', 'SHA256SUMS'), 'utf8')).map(({ name }) => name)).toEqual([file.name, 'playlist.m3u8', 'playlist.cue', 'manifest.json'])
  expect(await readFile(join(folder(), 'out', 'playlist.m3u8'), 'utf8')).toBe(`#EXTM3U\n#PLAYLIST:${work.title}\n#EXTINF:${(file.durationMs / 1000).toFixed(3)},${file.title}\n${file.name}\n`)
})

test('beside the files lies what the profile has there', async () => {
  const cover = { bytes: Buffer.from('a picture'), mediaType: 'image/png', width: 1, height: 1 } as const
  const beside = async (extras: DeliveryProfile['extras'], place: string): Promise<string[]> => {
    const [made] = await deliver(sheetOf(), work, { ...defaultProfile, extras }, library, placeOf(place), { trackRate, pieces, cover, earlier: () => Promise.resolve({ ...file, name: `out/${file.name}` }) }) as [DeliveredFile]
    // The file itself is the same.
    expect([made.sha256, made.fingerprint]).toEqual([file.sha256, file.fingerprint])
    execFileSync('sha256sum', ['--check', '--strict', '--quiet', 'SHA256SUMS'], { cwd: join(folder(), place) })
    return (await readdir(join(folder(), place))).filter(name => name !== made.name).sort()
  }
  expect(await beside([], 'bare')).toEqual(['SHA256SUMS', 'manifest.json'])
  expect(await beside(['cover'], 'with-cover')).toEqual(['SHA256SUMS', 'cover.png', 'manifest.json'])
  expect(await readFile(join(folder(), 'with-cover/cover.png'), 'utf8')).toBe('a picture')
  expect(await extrasIn(placeOf('with-cover'))).toEqual(['SHA256SUMS', 'cover.png', 'manifest.json'])
})

test('the package is a ZIP of exactly the size announced', async () => {
  const manifest = JSON.parse(await readFile(join(folder(), 'out', 'manifest.json'), 'utf8')) as Manifest
  const { bytes, stream } = await zipPackage(placeOf('out'), [...manifest.files.map(each => each.name), 'manifest.json'])
  let size = 0
  for await (const chunk of stream) size += (chunk as Buffer).length
  expect(size).toBe(bytes)
})
