import Papa from 'papaparse'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import { limitLines, levelSpan } from '#core/delivery/profile'
import { profiles } from '#core/delivery/profiles'
import { reportOf, writeReportCsv, type ReportFile } from '#core/delivery/report'
import { reportChart } from '#core/delivery/report-chart'
import { judgedTogether } from '#core/delivery/together'

const levels: FileLevels = {
  durationMs: 60_000, rmsDb: -20, integratedDb: -19, samplePeakDb: -4, truePeakDb: -3.4, noiseFloorDb: -90, headMs: 700, tailMs: 1500, longestSilenceMs: 900, gainDb: 2.1, limited: { count: 3, mostDb: 1.2 },
  sound: { codec: 'mp3', sampleRate: 44_100, channels: 1, bits: null, bitRateKbps: 192 },
}
const tooLoud: Finding = { code: 'too-loud', file: 'b.mp3', atMs: 5000, message: 'Its level is −17.0 dB RMS, above −18.0.', remedy: 'Make it anew.', place: { passageId: 'p', key: 'k', text: '=SUM(1)' } }

const file = (name: string, change: Partial<ReportFile> = {}): ReportFile =>
  ({ name, title: 'Winter', bytes: 1000, durationMs: 60_000, levels, sound: levels.sound!, findings: [], ...change })

describe('files of a delivery', () => {
  const made = (number: number, name: string, text = `Day ${number}.`): Parameters<typeof judgedTogether>[0][number] => ({ name, number, sentences: [{ text, startMs: 700, endMs: 2000 }], findings: [] })
  const codes = (...files: ReturnType<typeof made>[]): string[][] => judgedTogether(files, 10).map(({ findings }) => findings.map(({ code }) => code))

  test('are in the order of their names; of some files only the others are not missed', () => {
    expect(codes(made(1, '01-a.mp3'), made(2, '02-b.mp3'))).toEqual([[], []])
    expect(codes(made(3, '03-a.mp3'), made(7, '07-b.mp3'))).toEqual([[], []])
    expect(codes(made(9, '9-a.mp3'), made(10, '10-b.mp3'))).toEqual([['order'], []])
  })

  test('do not say the same; what was found among others before is forgotten', () => {
    const again = made(2, '02.mp3', 'Day 1.')
    const [first, second] = judgedTogether([made(1, '01.mp3'), again], 2)
    expect([first!.findings, second!.findings.map(({ code }) => code)]).toEqual([[], ['doubled']])
    expect(judgedTogether([second!], 1)[0]!.findings).toEqual([])
    expect(judgedTogether([{ ...again, findings: [tooLoud] }], 1)[0]!.findings).toEqual([tooLoud])
  })
})

test('a report passes when each file does, and was judged', () => {
  const passes = (findings: ReportFile['findings']): boolean => reportOf('A', profiles.book, [file('1.mp3'), file('2.mp3', { findings })]).passes
  expect(passes([])).toBe(true)
  expect(passes([tooLoud])).toBe(false)
  expect(passes(null)).toBe(false)
})

test('a report says what its profile asks for', () => {
  expect(limitLines(profiles.book)).toEqual([
    'MP3, 192 kbit/s constant, 44.1 kHz, mono', 'RMS −23 to −18 dB', 'Peaks at most −3 dB, between samples too', 'Noise floor at most −60 dB', 'Head 0.5 to 1 s', 'Tail 1 to 5 s', 'Length at most 2:00:00', 'Silence at most 10 s',
  ])
  expect(limitLines(profiles.archive)).toContain('Head at least 0.4 s')
  expect(levelSpan(profiles.podcast)).toEqual({ least: -17, most: -15 })
})

test('the table has a row for each file, and no spreadsheet takes a text of it for a formula', () => {
  const csv = writeReportCsv(reportOf('A', profiles.book, [file('01.mp3'), file('=1+1.mp3', { findings: [tooLoud] })]))
  const { data } = Papa.parse<Record<string, string>>(csv.trim(), { header: true })
  expect(data).toMatchObject([
    { 'file': '01.mp3', 'codec': 'mp3', 'Hz': '44100', 'RMS dB': '-20', 'true peak dB': '-3.4', 'head s': '0.70', 'gain dB': '2.1', 'peaks held': '3', 'verdict': 'passes', 'faults': '' },
    { file: '\'=1+1.mp3', verdict: 'fails', faults: 'At 0:05: Its level is −17.0 dB RMS, above −18.0. “=SUM(1)” Make it anew.' },
  ])
})

interface Drawn {
  readonly series: readonly { readonly data: readonly { readonly name: string, readonly value: readonly [number, number], readonly symbol: string }[], readonly markArea: { readonly data: readonly unknown[] } }[]
  readonly yAxis: readonly { readonly min: number, readonly max: number }[]
}

test('the picture has the level and the peak of each file against the band; a fault has another shape, and what is far off is at the edge', () => {
  const files = [file('01.mp3'), file('02.mp3', { findings: [tooLoud], levels: { ...levels, rmsDb: -120 } }), file('03.mp3', { levels: null })]
  const { series: [level, peak], yAxis: [axis] } = reportChart(reportOf('A', profiles.book, files), { text: '', line: '', band: '', passes: '', fails: '' }) as unknown as Drawn
  expect(level!.markArea.data).toEqual([[{ yAxis: -23 }, { yAxis: -18 }]])
  expect(level!.data).toMatchObject([{ name: '01.mp3', value: [0, -20], symbol: 'circle' }, { name: '02.mp3', value: [1, axis!.min], symbol: 'diamond' }])
  expect(axis!.min).toBe(-30)
  // Who is too loud has no fault of its peaks.
  expect(peak!.data.map(({ value, symbol }) => [...value, symbol])).toEqual([[0, -3.4, 'circle'], [1, -3.4, 'circle']])
})
