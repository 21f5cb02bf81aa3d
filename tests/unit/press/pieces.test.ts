import { execFileSync } from 'node:child_process'
import { readFile, readdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { layTrack, renderTrack } from '#core/audio/track'
import { noDetails } from '#core/delivery/details'
import type { DeliveryProfile } from '#core/delivery/profile'
import { defaultProfile, profiles } from '#core/delivery/profiles'
import { master } from '#core/mastering/master'
import { levelsOf, measure } from '#core/mastering/measure'
import { levelSample, type LevelSample } from '#core/runsheet/level-sample'
import { heardFile, runSheet, type HeardPart, type RunSheetFile, type SheetFile } from '#core/runsheet/run-sheet'
import type { CastScore } from '#core/score/request'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { choose, takesOf, withKnown } from '#core/takes/choose'
import { deliver, type DeliveredFile } from '../../../press/deliver'
import { floatsAtRate } from '../../../press/libraries/soxr'
import { productionLevel } from '../../../press/production-level'
import { gridOf, masteringFor, rendered } from '../../../press/press-track'
import { Scratch } from '../../../press/scratch'
import { makeTakes } from '../../../reading/make-takes'
import { FileTakeIndex } from '../../../takes/file-index'
import { FolderStorage } from '../../../takes/folder-storage'
import { takeLoader, type TakeLibrary } from '../../../takes/library'
import { openEngines } from '../../../voices/engines'
import { decode } from '../../support/audio'
import { castPart, narrator } from '../../support/casting'
import { programs, temporaryFolder } from '../../support/paths'
import { heardPart, heardSheet } from '../../support/sheet'
import { packsIn } from '../../support/takes'

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 2 })
afterAll(() => Promise.all([engines.close(), library.packs.close(), storage.close()]))

const trackRate = 22_050
const work = { title: 'Bees', author: null, language: 'en-GB', details: noDetails, cover: null }

// Forty passages of different lengths, about four minutes.
const sentences = [
  'The colony winters as one warm ball of bees.', 'In a mild week they fly, and drop what they have held for a month.', 'Nobody opens a hive then.',
  'Weigh it with one hand at the back, and write the weight into the book that hangs by the door.', 'Snow on the alighting board does no harm.',
]
const passages = Array.from({ length: 40 }, (_, index) => `Day ${index + 1}. ${sentences[index % 5]!} ${sentences[(index * 3 + 1) % 5]!}`)

function scoreOf(texts: readonly string[]): CastScore {
  return castPart({
    id: '1', kind: 'chapter', label: 'Winter', included: true, passages: texts.map((text, index) => ({ id: `1.${index}`, kind: 'paragraph', content: plainContent(text) })),
  }, { language: 'en', style: defaultHouseStyle, casting: narrator })
}

const sheetOf = (texts: readonly string[]): RunSheetFile[] => heardSheet([heardPart(scoreOf(texts), 'Winter')])

let library: TakeLibrary
let storage: FolderStorage

async function make(texts: readonly string[], out: string, options: { profile?: DeliveryProfile, gainBefore?: () => Promise<number | null> } = {}): Promise<{ file: DeliveredFile, keys: readonly string[], path: string }> {
  const sheet = sheetOf(texts)
  await makeTakes(sheet[0]!.score.utterances, library, engines)
  let keys: readonly string[] = []
  const [file] = await deliver(sheet, work, options.profile ?? defaultProfile, library, { storage, folder: out }, {
    trackRate, pieces: storage, ...options, onPieces: used => {
      keys = used
      return Promise.resolve()
    },
  }) as [DeliveredFile]
  return { file, keys, path: join(folder(), out, file.name) }
}

let whole: Awaited<ReturnType<typeof make>>
let samples: Int16Array

beforeAll(async () => {
  library = { index: await FileTakeIndex.open(join(folder(), 'takes.jsonl')), packs: packsIn(folder()) }
  storage = new FolderStorage(folder())
  whole = await make(passages, 'whole')
  samples = decode(whole.path)
})

const ratioDb = (signal: number, noise: number): number => 10 * Math.log10(signal / Math.max(noise, 1e-9))

interface OneGo {
  readonly profile: DeliveryProfile
  /** What ffmpeg is told for the encoding in one go. */
  readonly encoding: readonly string[]
  /** What the encoder takes from the level, dB. */
  readonly lossDb: number
}

const oneGoes: readonly OneGo[] = [
  { profile: defaultProfile, encoding: ['-c:a', 'libmp3lame', '-b:a', '192k', '-reservoir', '0', '-f', 'mp3'], lossDb: 0.265 },
  { profile: profiles['one-file'], encoding: ['-c:a', 'aac', '-aac_coder', 'fast', '-b:a', '64k', '-f', 'ipod'], lossDb: 0 },
  { profile: profiles.web, encoding: ['-c:a', 'libopus', '-b:a', '48k', '-vbr', 'constrained', '-f', 'ogg'], lossDb: 0 },
  { profile: profiles.archive, encoding: ['-c:a', 'flac', '-sample_fmt', 's32', '-f', 'flac'], lossDb: 0 },
]

/** Four minutes are encoded twice; a busy machine takes long for that. */
const mostMs = 240_000

test.each(oneGoes)('at every join the decoded $profile.format is as near to what was encoded as if it had been encoded in one go, within 0.5 dB', async ({ profile, encoding, lossDb }) => {
  const made = profile === defaultProfile ? whole : await make(passages, profile.format, { profile })
  const decoded = decode(made.path)
  const [{ score, references: open }] = sheetOf(passages) as [RunSheetFile]
  const records = await library.index.find(takesOf(open))
  const { track, stretches } = gridOf(layTrack(score, withKnown(open, records), trackRate, profile), profile)
  expect(stretches.length).toBeGreaterThan(4)
  const load = takeLoader(library, records, new Map(), trackRate)
  const source = master(await rendered(renderTrack(track, load), new Int16Array(track.sampleCount)), trackRate, masteringFor(profile, made.file.levels.gainDb)).samples
  const [raw, atOnce, resampled] = ['source.f32', 'at-once', 'source.s16'].map(name => join(folder(), name)) as [string, string, string]
  // MP3 has the rate of its file before it comes to the encoder.
  const givenRate = profile.format === 'mp3' ? profile.sampleRate : trackRate
  const given = await floatsAtRate(source, trackRate, givenRate, new Scratch())
  await writeFile(raw, Buffer.from(given.buffer, given.byteOffset, given.byteLength))
  const rate = String(profile.sampleRate)
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'f32le', '-ar', String(givenRate), '-ac', '1', '-i', raw, '-ar', rate, ...encoding, atOnce, '-ar', rate, '-af', `volume=-${lossDb}dB`, '-f', 's16le', resampled])
  const oneGo = decode(atOnce)
  const bytes = await readFile(resampled)
  const encoded = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1)

  const nearness = (decodedAs: Int16Array, reference: Int16Array, from = 0, to = encoded.length - 1): number => {
    let [signal, noise] = [0, 0]
    for (let i = from; i < to; i += 1) {
      signal += reference[i]! ** 2
      noise += (decodedAs[i]! - reference[i]!) ** 2
    }
    return ratioDb(signal, noise)
  }
  expect(Math.abs(oneGo.length - decoded.length)).toBeLessThan(2)
  expect(nearness(decoded, encoded)).toBeGreaterThan(nearness(oneGo, encoded) - 0.1)
  for (const { startSample } of stretches.slice(1)) {
    // A second around each join, which has the end and the beginning of speech in it.
    const at = startSample / trackRate
    const around = [Math.max(0, Math.round((at - 0.5) * profile.sampleRate)), Math.min(encoded.length, Math.round((at + 0.5) * profile.sampleRate))] as const
    const [inPieces, inOneGo] = [nearness(decoded, encoded, ...around), nearness(oneGo, encoded, ...around)]
    expect(inPieces).toBeGreaterThan(inOneGo - 0.5)
    // Two encodings, each as far from what was encoded, are at most twice as far from each other.
    expect(nearness(decoded, oneGo, ...around)).toBeGreaterThan(Math.min(inPieces, inOneGo) - 6)
  }
}, mostMs)

test('has the length that was laid, to the sample', () => {
  expect(samples).toHaveLength(whole.file.sampleCount)
})

test('its levels are those that other meters find', () => {
  const said = execFileSync('bash', ['-c', `ffmpeg -hide_banner -nostats -i "${whole.path}" -map 0:a -af astats=measure_perchannel=none,ebur128=peak=true:framelog=verbose -f null - 2>&1`], { encoding: 'utf8' })
  const found = (pattern: RegExp): number => Number(pattern.exec(said)![1])
  const { levels } = whole.file
  expect(Math.abs(levels.rmsDb - found(/RMS level dB: (\S+)/u))).toBeLessThanOrEqual(0.2)
  expect(Math.abs(levels.integratedDb - found(/Summary:[\s\S]*?I:\s+(\S+) LUFS/u))).toBeLessThanOrEqual(0.1)
  expect(Math.abs(levels.truePeakDb - found(/Summary:[\s\S]*?Peak:\s+(\S+) dBFS/u))).toBeLessThanOrEqual(0.2)
  expect(levels.truePeakDb).toBeLessThanOrEqual(defaultProfile.ceilingDb!)
  expect(Math.abs(levels.rmsDb - defaultProfile.target!.level)).toBeLessThanOrEqual(defaultProfile.target!.tolerance)
  expect(levels.noiseFloorDb).toBeLessThan(-60)
})

test('one edited word encodes its piece anew, and at most the one beside it', async () => {
  const edited = passages.map((text, index) => index === 20 ? text.replace('Day', 'Morning') : text)
  const after = await make(edited, 'edited', { gainBefore: () => Promise.resolve(whole.file.levels.gainDb) })
  expect(after.file.levels.gainDb).toBe(whole.file.levels.gainDb)
  const known = new Set(whole.keys)
  const fresh = after.keys.filter(key => !known.has(key)).length
  expect(fresh).toBeGreaterThanOrEqual(1)
  expect(fresh).toBeLessThanOrEqual(2)
})

test('made again without what was kept it is the same to the byte', async () => {
  const elsewhere = new FolderStorage(join(folder(), 'elsewhere'))
  const [again] = await deliver(sheetOf(passages), work, defaultProfile, library, { storage: elsewhere, folder: 'out' }, { trackRate, pieces: elsewhere })
  await elsewhere.close()
  expect(again!.sha256).toBe(whole.file.sha256)
})

test('files that need the same piece at the same time share it', async () => {
  const elsewhere = new FolderStorage(join(folder(), 'shared'))
  const parts = [0, 5, 10, 15].map((from, index) => heardPart(scoreOf(passages.slice(from, from + 5)), `Part ${index + 1}`, index + 1))
  const used: (readonly string[])[] = []
  const files = await deliver(heardSheet(parts), work, defaultProfile, library, { storage: elsewhere, folder: 'out' }, {
    trackRate, pieces: elsewhere,
    onPieces: keys => {
      used.push(keys)
      return Promise.resolve()
    },
  })
  await elsewhere.close()
  expect(files).toHaveLength(4)
  // The silence before the first word is the same in each that has the same gain.
  expect(new Set(used.map(keys => keys[0])).size).toBeLessThan(4)
  expect((await readdir(join(folder(), 'shared/pieces'), { recursive: true })).filter(name => name.endsWith('.part'))).toEqual([])
})

test('a piece that is damaged on the disk is made again', async () => {
  const kept = join(folder(), 'pieces', whole.keys[1]!.slice(0, 2), whole.keys[1]!)
  const bytes = await readFile(kept)
  bytes[bytes.length - 100]! ^= 0xff
  await writeFile(kept, bytes)
  const again = await make(passages, 'again')
  expect(again.file.sha256).toBe(whole.file.sha256)
  expect((await readdir(join(folder(), 'pieces'), { recursive: true })).filter(name => name.endsWith('.part'))).toEqual([])
})

describe('with one gain for a production', () => {
  const course = profiles.course
  type Production = Parameters<typeof deliver>[5]['production']

  async function sheetIn(profile: DeliveryProfile): Promise<SheetFile<HeardPart>[]> {
    const score = scoreOf(passages)
    const takes = await library.index.find(score.utterances.map(({ key }) => key))
    return runSheet([heardPart(score, 'Winter', 1, choose(score, takes), trackRate)], profile)
  }

  async function makeAll(profile: DeliveryProfile, out: string, change: (sample: LevelSample) => LevelSample = same, gainBefore: () => Promise<number | null> = () => Promise.resolve(null)): Promise<{ files: DeliveredFile[], keys: string[], sample: LevelSample }> {
    const sheet = await sheetIn(profile)
    const sample = levelSample(sheet)
    const production: Production = { sample: change(sample), beforeDb: null }
    const keys: string[] = []
    const files = await deliver(sheet.map(file => heardFile(file, profile)), work, profile, library, { storage, folder: out }, {
      trackRate, pieces: storage, production, gainBefore,
      onPieces: used => {
        keys.push(...used)
        return Promise.resolve()
      },
    })
    return { files, keys, sample }
  }
  const same = (sample: LevelSample): LevelSample => sample
  const divided: DeliveryProfile = { ...course, split: { ...course.split, aboutMs: 180_000 } }

  test('every file has it, and keeps its limits; another division uses most pieces again', async () => {
    const one = await makeAll(course, 'one')
    const several = await makeAll(divided, 'several')
    expect(several.files.length).toBeGreaterThan(1)
    expect(new Set([...one.files, ...several.files].map(({ levels }) => levels.gainDb)).size).toBe(1)
    for (const { findings } of [...one.files, ...several.files]) expect(findings).toEqual([])
    const known = new Set(one.keys)
    expect(several.keys.filter(key => known.has(key)).length).toBeGreaterThan(several.keys.length / 2)
    // The same sample, however the script is divided.
    expect(several.sample.takes).toEqual(one.sample.takes)
    expect(one.sample.speechShare).toBeGreaterThan(0.6)
    expect(one.sample.speechShare).toBeLessThan(1)
  })

  test('a file that would not keep its limits so has a gain of its own', async () => {
    const one = await makeAll(course, 'one')
    const quieter = ({ takes, ...sample }: LevelSample): LevelSample => ({ ...sample, takes: takes.map(each => ({ ...each, gainDb: each.gainDb - 12 })) })
    const quiet = await makeAll(course, 'quiet', quieter)
    // Also where the file had the gain of the production before.
    const before = await makeAll(course, 'before', quieter, () => Promise.resolve(one.files[0]!.levels.gainDb + 12))
    for (const { levels, findings } of [...quiet.files, ...before.files]) {
      expect(findings).toEqual([])
      expect(Math.abs(levels.integratedDb - course.target!.level)).toBeLessThanOrEqual(course.target!.tolerance)
    }
  })

  test('the level of a whole is that of its sample', async () => {
    const sheet = await sheetIn(defaultProfile)
    const sample = levelSample(sheet)
    const records = await library.index.find(sample.takes.map(({ take }) => take))
    const load = takeLoader(library, records, new Map(), trackRate)
    for (const profile of [defaultProfile, course]) {
      const levelDb = await productionLevel(sample, profile, load, trackRate)
      const { score, references } = heardFile(sheet[0]!, profile)
      const { track } = gridOf(layTrack(score, withKnown(references, await library.index.find(takesOf(references))), trackRate, profile), profile)
      const { rmsDb, integratedDb } = levelsOf([measure(await rendered(renderTrack(track, takeLoader(library, await library.index.find(takesOf(references)), new Map(), trackRate)), new Int16Array(track.sampleCount)), trackRate)])
      expect(Math.abs(levelDb! - (profile.target!.measure === 'rms' ? rmsDb : integratedDb))).toBeLessThan(0.15)
    }
  })
})
