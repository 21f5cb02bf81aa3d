import { execFileSync } from 'node:child_process'
import { copyFile, readFile, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { parseFile } from 'music-metadata'
import type { WorkCover } from '#core/delivery/details'
import { codecOf, formatOf } from '#core/delivery/formats'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profileNames, profiles, type ProfileName } from '#core/delivery/profiles'
import type { DeliveredWork } from '#core/runsheet/run-sheet'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { examineCover } from '../../../press/cover'
import { deliver, type DeliveredFile } from '../../../press/deliver'
import { examineFile } from '../../../press/examine'
import type { CoverPicture } from '../../../press/formats/format'
import { pcm } from '../../../press/formats/pcm'
import { makeTakes } from '../../../reading/make-takes'
import { FileTakeIndex } from '../../../takes/file-index'
import { FolderStorage } from '../../../takes/folder-storage'
import type { TakeLibrary } from '../../../takes/library'
import { openEngines } from '../../../voices/engines'
import { decode, probe } from '../../support/audio'
import { castPart, narrator } from '../../support/casting'
import { programs, temporaryFolder } from '../../support/paths'
import { heardPart, heardSheet } from '../../support/sheet'
import { packsIn } from '../../support/takes'

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 2 })
afterAll(() => Promise.all([engines.close(), library.packs.close(), storage.close()]))

const details = { narrator: 'Nora Vale', year: '2031', genre: 'Audiobook', disc: '1/2', comment: 'Read twice; a = b', copyright: '2031 T. Orrery' }

const sentences = ['The colony winters as one warm ball of bees.', 'Nobody opens a hive then.', 'Snow on the alighting board does no harm.']

/** A part with some passages. */
function part(number: number, label: string, passages: number, say = (index: number): string => `Day ${number * 7 + index}. ${sentences[index % 3]!}`): ReturnType<typeof heardPart> {
  const score = castPart({
    id: String(number), kind: 'chapter', label, included: true,
    passages: Array.from({ length: passages }, (_, index) => ({ id: `${number}.${index}`, kind: 'paragraph' as const, content: plainContent(say(index)) })),
  }, { language: 'en', style: defaultHouseStyle, casting: narrator })
  return heardPart(score, label, number)
}

const twoParts = [part(1, 'Winter', 7), part(2, 'Spring; = #1 “Ü”', 6)]

const whole = (profile: DeliveryProfile): DeliveryProfile => ({ ...profile, split: { ...profile.split, where: { by: 'whole' } } })

let library: TakeLibrary
let storage: FolderStorage
let picture: CoverPicture & { readonly sha256: string }
let work: DeliveredWork
/** By the names of the profiles. */
const made = new Map<string, { readonly file: DeliveredFile, readonly path: string }>()

async function make(parts: readonly ReturnType<typeof part>[], profile: DeliveryProfile, out: string): Promise<{ file: DeliveredFile, path: string }> {
  const sheet = heardSheet(parts, profile)
  await makeTakes(sheet.flatMap(each => each.score.utterances), library, engines)
  const [file] = await deliver(sheet, work, profile, library, { storage, folder: out }, { trackRate: 22_050, pieces: storage, cover: picture }) as [DeliveredFile]
  return { file, path: join(folder(), out, file.name) }
}

beforeAll(async () => {
  library = { index: await FileTakeIndex.open(join(folder(), 'takes.jsonl')), packs: packsIn(folder()) }
  storage = new FolderStorage(folder())
  const path = join(folder(), 'cover.jpg')
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=640x640', '-frames:v', '1', path])
  picture = { ...await examineCover(path, 'cover.jpg'), bytes: await readFile(path) }
  const cover: WorkCover = { ...picture, bytes: picture.bytes.length }
  work = { title: 'The Year; a = handbook', author: 'T. Orrery', language: 'en-GB', details, cover }
  for (const name of profileNames) made.set(name, await make(twoParts, whole(profiles[name]), name))
})

/** What mutagen, a reader of tags of its own, finds. */
function mutagen(path: string): { type: string, tags: Record<string, string> } {
  const script = 'import json, sys, mutagen\nm = mutagen.File(sys.argv[1])\nprint(json.dumps({"type": type(m).__name__, "tags": {k: str(v) for k, v in (m.tags or {}).items()}}))'
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', script, path], { encoding: 'utf8' })) as ReturnType<typeof mutagen>
}

describe.each(profileNames)('a file of the profile %s', name => {
  const profile = whole(profiles[name])

  test('is what the profile asks for, by ffprobe', () => {
    const { file, path } = made.get(name)!
    expect(file.name.endsWith(formatOf(profile.format).extension)).toBe(true)
    expect(probe(path).streams[0]).toMatchObject({ codec_name: codecOf(profile), sample_rate: String(profile.sampleRate), channels: profile.channels })
  })

  test('keeps the profile, also when it is examined as a whole', async () => {
    const { file, path } = made.get(name)!
    expect(file.findings).toEqual([])
    const examined = await examineFile(path)
    expect(examined).toMatchObject({ codec: codecOf(profile), channels: profile.channels, track: { number: 1 }, title: file.title })
    if (profile.bits !== null) expect(examined.bits).toBe(profile.bits)
  })

  test('has exactly the samples that were laid', () => {
    const { file, path } = made.get(name)!
    // Of MP4, ffmpeg gives out the whole last frame; how much of it is heard is said by the length.
    if (profile.format === 'm4b') expect(Number(probe(path).streams[0]!['duration_ts'])).toBe(file.sampleCount)
    else expect(decode(path)).toHaveLength(file.sampleCount)
  })

  test('has the levels that other meters find', () => {
    const { file: { levels }, path } = made.get(name)!
    const said = execFileSync('bash', ['-c', `ffmpeg -hide_banner -nostats -i "${path}" -map 0:a -af astats=measure_perchannel=none,ebur128=dualmono=${profile.dualMono}:framelog=verbose -f null - 2>&1`], { encoding: 'utf8' })
    const found = (pattern: RegExp): number => Number(pattern.exec(said)![1])
    expect(Math.abs(levels.rmsDb - found(/RMS level dB: (\S+)/u))).toBeLessThanOrEqual(0.2)
    expect(Math.abs(levels.integratedDb - found(/Summary:[\s\S]*?I:\s+(\S+) LUFS/u))).toBeLessThanOrEqual(0.1)
    expect(Math.abs(levels.samplePeakDb - found(/Peak level dB: (\S+)/u))).toBeLessThanOrEqual(0.1)
  })
})

test('FLAC gives back the very samples that WAV has', () => {
  const samplesOf = (path: string): Buffer => execFileSync('ffmpeg', ['-v', 'error', '-i', path, '-f', 's24le', 'pipe:1'], { maxBuffer: 1 << 30 })
  const [flac, wav] = [made.get('archive')!, made.get('archive-wav')!]
  expect(samplesOf(flac.path).equals(samplesOf(wav.path))).toBe(true)
})

describe('programs that check files find nothing wrong', () => {
  const run = (program: string, ...parameters: string[]): string => execFileSync(program, parameters, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })

  test('flac --test, with the checksum of all samples', () => {
    const { path } = made.get('archive')!
    run('flac', '--test', '--silent', '--warnings-as-errors', path)
    expect(run('metaflac', '--show-md5sum', path).trim()).toMatch(/^(?!0{32})[0-9a-f]{32}$/u)
  })

  test('mp3val', () => {
    const said = run('mp3val', made.get('book')!.path)
    expect(said).toContain('CBR')
    expect(said).not.toContain('WARNING')
  })

  test('opusinfo', () => {
    const said = run('opusinfo', made.get('web')!.path)
    expect(said).not.toMatch(/WARNING|hole|error/iu)
    expect(said).toContain('Pre-skip: 312')
  })

  test('soxi, of WAV in 24, 16 and 8 bits', () => {
    for (const name of ['broadcast', 'telephony-wide', 'telephony'] as const) {
      const { file, path } = made.get(name)!
      expect(Number(run('soxi', '-s', path))).toBe(file.sampleCount)
      expect(Number(run('soxi', '-r', path))).toBe(profiles[name].sampleRate)
    }
  })
})

/** A WAV file has the tags that RIFF does not know, and its cover, in a chunk of ID3v2. */
async function expectId3(path: string): Promise<void> {
  expect(mutagen(path)).toMatchObject({ type: 'WAVE', tags: { TIT2: 'Winter', TCOM: 'Nora Vale', TPOS: '1/2', TLAN: 'eng', TRCK: '1/1' } })
  expect(Buffer.from((await parseFile(path)).common.picture![0]!.data).equals(picture.bytes)).toBe(true)
  expectPicture(path)
}

/** ffmpeg finds the cover in a file. */
function expectPicture(path: string): void {
  expect(probe(path).streams.find(stream => stream['codec_name'] === 'mjpeg')).toMatchObject({ width: 640, height: 640 })
}

describe('tags, chapters and cover, by readers that are not ours', () => {
  test('MP3', async () => {
    const { path } = made.get('book')!
    const { common, native } = await parseFile(path)
    expect(common).toMatchObject({ title: 'Winter', album: work.title, artist: work.author, composer: ['Nora Vale'], year: 2031, genre: ['Audiobook'], disk: { no: 1, of: 2 }, copyright: details.copyright })
    expect(Buffer.from(common.picture![0]!.data).equals(picture.bytes)).toBe(true)
    expect(native['ID3v2.3']!.filter(({ id }) => id === 'CHAP')).toHaveLength(2)
    expect(mutagen(path).tags).toMatchObject({ TIT2: 'Winter', TPE1: 'T. Orrery', TCOM: 'Nora Vale', TPOS: '1/2', TLAN: 'eng', 'COMM::eng': details.comment })
  })

  test('MP4', async () => {
    const { path } = made.get('one-file')!
    expect((await parseFile(path)).common).toMatchObject({ title: 'Winter', album: work.title, artist: work.author, composer: ['Nora Vale'], genre: ['Audiobook'], disk: { no: 1, of: 2 } })
    const { type, tags } = mutagen(path)
    expect(type).toBe('MP4')
    expect(tags).toMatchObject({ '©nam': "['Winter']", '©wrt': "['Nora Vale']", 'trkn': '[(1, 1)]', 'disk': '[(1, 2)]', 'cprt': `['${details.copyright}']` })
    expect(tags['covr']).toBeDefined()
    expectPicture(path)
  })

  test('an article has its own author and date, beside whom the production is by', async () => {
    const article = { ...part(3, 'A letter', 1), about: { author: 'Hob Linden', date: '2032-05-04T08:00:00Z' } }
    const tagsOf = async (name: ProfileName): Promise<Record<string, unknown>> => mutagen((await make([article], whole(profiles[name]), `own-${name}`)).path).tags
    expect(await tagsOf('book')).toMatchObject({ TPE1: 'Hob Linden', TPE2: work.author, TDRC: '2032-05-04' })
    expect(await tagsOf('archive')).toMatchObject({ artist: "['Hob Linden']", albumartist: `['${work.author}']`, date: "['2032-05-04']" })
    expect(await tagsOf('one-file')).toMatchObject({ '©ART': "['Hob Linden']", 'aART': `['${work.author}']`, '©day': "['2032-05-04']" })
  })

  test.each(['archive', 'web'] as const)('Vorbis comments of %s', async name => {
    const { path } = made.get(name)!
    const { common } = await parseFile(path)
    expect(common).toMatchObject({ title: 'Winter', album: work.title, artist: work.author, year: 2031, genre: ['Audiobook'], track: { no: 1, of: 1 }, disk: { no: 1, of: 2 } })
    expect(Buffer.from(common.picture![0]!.data).equals(picture.bytes)).toBe(true)
    expect(mutagen(path).tags).toMatchObject({ performer: "['Nora Vale']", chapter002name: "['Spring; = #1 “Ü”']" })
  })

  test('RIFF', async () => {
    const { path } = made.get('telephony-wide')!
    expect((await parseFile(path)).common).toMatchObject({ title: 'Winter', album: work.title, artist: work.author, year: 2031 })
    expect(probe(path).format.tags).toMatchObject({ title: 'Winter', genre: 'Audiobook', comment: details.comment, copyright: details.copyright })
    // What RIFF has no place for is in its chunk of ID3v2; telephones are spared it.
    await expectId3(path)
    expect(mutagen(made.get('telephony')!.path).tags).toEqual({})
  })

  test('RF64', async () => {
    const path = join(folder(), 'large.wav')
    const tags = { title: 'Winter', track: 1, trackCount: 1, album: work.title, author: 'T. Orrery', language: 'eng', chapters: [], cover: null, ...details }
    // Said to be 5 GB.
    const contents = { pieces: () => Readable.from([Buffer.alloc(32_000)]), frames: 50, bytes: 5_000_000_000, sampleCount: 16_000, tags, chapters: [], cover: picture }
    await pcm(profiles['telephony-wide']).write(contents, path)
    const head = (await readFile(path)).subarray(0, 28)
    expect([head.toString('latin1', 0, 4), Number(head.readBigUInt64LE(20))]).toEqual(['RF64', (await stat(path)).size - 8])
    expect(decode(path)).toHaveLength(contents.sampleCount)
    // Of the readers here only ffmpeg looks into RF64.
    expectPicture(path)
  })
})

describe.each(['one-file', 'book'] as const)('300 chapters of %s', name => {
  const count = 300
  const titles = Array.from({ length: count }, (_, index) => `Chapter ${index + 1}`)

  test('are where they are heard, in two readers', async () => {
    const { file, path } = await make(titles.map((title, index) => part(index + 1, title, 1, () => `${title}.`)), { ...whole(profiles[name]), partRestMs: 500 }, `many ${name}`)
    const isNear = (times: readonly number[]): void => {
      expect(times).toHaveLength(count)
      // The first begins with the file.
      times.forEach((ms, index) => expect(Math.abs(ms - (index === 0 ? 0 : file.sentences[index]!.startMs))).toBeLessThanOrEqual(50))
    }
    const { chapters } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_chapters', '-of', 'json', path], { encoding: 'utf8' })) as { chapters: { start_time: string, tags: { title: string } }[] }
    expect(chapters.map(({ tags }) => tags.title)).toEqual(titles)
    isNear(chapters.map(({ start_time: start }) => Number(start) * 1000))
    isNear(name === 'book' ? timesByMutagen(path) : timesByMediaInfo(path))
    // Many minutes are encoded: on a machine that has other work this takes longer than other tests.
  }, 240_000)
})

/** Of the CHAP frames, in the order of the tables of contents. */
function timesByMutagen(path: string): number[] {
  const script = 'import json, sys, mutagen\nt = mutagen.File(sys.argv[1]).tags\n'
    + 'walk = lambda i: [c for e in t["CTOC:" + i].child_element_ids for c in (walk(e) if "CTOC:" + e in t else [t["CHAP:" + e].start_time])]\nprint(json.dumps(walk("contents")))'
  return JSON.parse(execFileSync('/usr/bin/python3', ['-c', script, path], { encoding: 'utf8' })) as number[]
}

function timesByMediaInfo(path: string): number[] {
  const { media: { track } } = JSON.parse(execFileSync('mediainfo', ['--Output=JSON', path], { encoding: 'utf8' })) as { media: { track: { '@type': string, extra?: Record<string, string> }[] } }
  return Object.keys(track.find(each => each['@type'] === 'Menu')!.extra!).flatMap(key => {
    const [, hours, minutes, seconds, ms] = /^_(\d+)_(\d+)_(\d+)_(\d+)$/u.exec(key)?.map(Number) ?? []
    return hours === undefined ? [] : [((hours * 60 + minutes!) * 60 + seconds!) * 1000 + ms!]
  })
}

describe('a cover', () => {
  test('that is no picture, or a broken one, is refused with a reason', async () => {
    const [text, cut] = ['text.jpg', 'cut.png'].map(name => join(folder(), name)) as [string, string]
    await writeFile(text, 'This is no picture.')
    await expect(examineCover(text, 'text.jpg')).rejects.toThrow('text.jpg is neither a JPEG nor a PNG picture.')
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc=size=320x320', '-frames:v', '1', '-y', cut])
    const bytes = await readFile(cut)
    await writeFile(cut, bytes.subarray(0, 40))
    await expect(examineCover(cut, 'cut.png')).rejects.toThrow('cut.png is damaged')
  })

  test('is known by its bytes, not by its name', async () => {
    const named = join(folder(), 'cover.png')
    await copyFile(join(folder(), 'cover.jpg'), named)
    expect(await examineCover(named, 'cover.png')).toMatchObject({ mediaType: 'image/jpeg', width: 640, height: 640 })
  })
})
