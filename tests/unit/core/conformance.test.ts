import { figuresOf, judgeFile, judgeTogether, type ExaminedFile } from '#core/delivery/conformance'
import { profiles } from '#core/delivery/profiles'
import { combined, levelsOf, measure, type Measure } from '#core/mastering/measure'

const rate = 44_100
const profile = profiles.book

/** So many seconds of a hum at the level of the profile, or of silence. */
function stretch(seconds: number, isSilent = false): Measure {
  const samples = new Int16Array(seconds * rate)
  const size = 32_768 * 10 ** (-20 / 20) * Math.SQRT2
  if (!isSilent) for (let i = 0; i < samples.length; i += 1) samples[i] = Math.round(size * Math.sin(i / 20))
  return measure(samples, rate)
}

const [head, minute, tail] = [stretch(0.7, true), stretch(60), stretch(1.5, true)]

const file = (measures: readonly Measure[], change: Partial<ExaminedFile> = {}): ExaminedFile =>
  ({ name: 'a.mp3', bytes: 1000, codec: 'mp3', sampleRate: rate, channels: 1, bits: null, bitRateKbps: 192, isConstant: true, track: null, title: null, album: null, author: null, chapters: 0, hasCover: false, toldMs: null, measures, ...change })

const codes = (examined: ExaminedFile): string[] => judgeFile(examined, profile).map(finding => finding.code)

test('two hours pass, and a minute more does not', () => {
  const minutes = (count: number): Measure[] => [head, ...Array<Measure>(count).fill(minute), tail]
  expect(codes(file(minutes(119)))).toEqual([])
  expect(judgeFile(file(minutes(121)), profile)).toMatchObject([{ code: 'too-long', atMs: 7_200_000, message: expect.stringContaining('2:01:02') as string }])
})

test('what the head of a file says is judged', () => {
  const measures = [head, minute, tail]
  expect(codes(file(measures, { codec: 'aac' }))).toEqual(['wrong-codec'])
  expect(codes(file(measures, { bitRateKbps: 128 }))).toEqual(['low-bit-rate'])
  expect(codes(file(measures, { bitRateKbps: 191.9 }))).toEqual([])
  expect(codes(file(measures, { isConstant: false }))).toEqual(['variable-bit-rate'])
  expect(judgeFile(file(measures, { bytes: 2001 }), { ...profile, limits: { ...profile.limits, largestBytes: 2000 } }).map(finding => finding.code)).toEqual(['too-large'])
})

test('margins and silences are told to the window', () => {
  const figures = figuresOf(file([head, minute, stretch(3, true), minute, tail]), profile)
  expect(Math.abs(figures.headMs! - 700)).toBeLessThanOrEqual(5)
  expect(Math.abs(figures.tailMs! - 1500)).toBeLessThanOrEqual(5)
  expect(Math.abs(figures.longestSilenceMs - 3000)).toBeLessThanOrEqual(5)
  expect(codes(file([minute, tail]))).toEqual(['head-short'])
  expect(codes(file([head, head, minute, tail]))).toEqual(['head-long'])
  expect(codes(file([head, minute, head]))).toEqual(['tail-short'])
  expect(codes(file([head, minute, ...Array<Measure>(4).fill(tail)]))).toEqual(['tail-long'])
})

test('a file in which nothing is heard is told as that, and as nothing else', () => {
  expect(codes(file([stretch(2, true)]))).toEqual(['no-sound'])
  expect(codes(file([]))).toEqual(['no-sound'])
})

test('of two channels levels are means, loudness is the sum, and peaks are those of the louder one', () => {
  const [loud, silent] = [minute, stretch(60, true)]
  const [both, one] = [levelsOf([combined([loud, loud])]), levelsOf([combined([loud, silent])])]
  const mono = levelsOf([loud])
  expect(both.rmsDb).toBeCloseTo(mono.rmsDb, 5)
  expect(both.integratedDb).toBeCloseTo(mono.integratedDb + 3.01, 1)
  expect(one.rmsDb).toBeCloseTo(mono.rmsDb - 3.01, 1)
  expect(one.integratedDb).toBeCloseTo(mono.integratedDb, 1)
  expect(one.samplePeakDb).toBe(mono.samplePeakDb)
})

describe('files together', () => {
  const placed = (name: string, number: number, of: number | null = 3): ExaminedFile => file([stretch(number)], { name, track: { number, of } })
  const found = (...files: ExaminedFile[]): [string, string][] => judgeTogether(files).map(({ code, file: name }) => [code, name])

  test('pass in order', () => {
    expect(found(placed('1', 1), placed('2', 2), placed('3', 3))).toEqual([])
    expect(found(file([minute], { name: 'without tags' }))).toEqual([])
  })

  test('with one missing at the beginning, in the middle or at the end', () => {
    expect(found(placed('2', 2), placed('3', 3))).toEqual([['missing', '2']])
    expect(found(placed('1', 1), placed('3', 3))).toEqual([['missing', '3']])
    expect(found(placed('1', 1), placed('2', 2))).toEqual([['missing', '2']])
  })

  test('with a number twice, or out of order', () => {
    expect(found(placed('1', 1, 2), placed('1b', 1, 2), placed('2', 2, 2))).toEqual([['doubled', '1b'], ['doubled', '1b']])
    expect(found(placed('1', 2), placed('2', 1), placed('3', 3))).toEqual([['order', '2']])
  })
})

test('what is played on two speakers counts twice for loudness, whether it is a mono file or has two channels', () => {
  const podcast = profiles.podcast
  const mono = figuresOf(file([minute]), podcast)
  const stereo = figuresOf(file([combined([minute, minute])], { channels: 2 }), podcast)
  expect(stereo.integratedDb).toBeCloseTo(mono.integratedDb, 6)
})

test('channels and bits are judged where the profile asks for them', () => {
  const broadcast = { ...profiles.broadcast, limits: { ...profiles.broadcast.limits, integratedDb: null } }
  const given = file([head, minute, tail], { codec: 'pcm_s24le', sampleRate: 48_000, bits: 24, channels: 2 })
  const found = (change: Partial<ExaminedFile>): string[] => judgeFile({ ...given, ...change }, broadcast).map(({ code }) => code)
  expect(found({})).toEqual([])
  expect(found({ channels: 1 })).toEqual(['wrong-channels'])
  expect(found({ codec: 'pcm_s16le', bits: 16 })).toEqual(['wrong-codec'])
  expect(judgeFile({ ...given, codec: 'flac', bits: 16 }, { ...broadcast, format: 'flac' })).toMatchObject([{ code: 'wrong-codec', message: 'Its samples have 16 bits, not 24.' }])
})
