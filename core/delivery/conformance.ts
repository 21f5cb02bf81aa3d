import { clock } from '../estimate/clock'
import { levelsOf, noiseFloorDb, quietIn, silenceDb, type Measure } from '../mastering/measure'
import { codecOf, formatOf } from './formats'
import { channelsName, type DeliveryProfile, type Span } from './profile'
import { secondsOf } from './verdict'

/** What is known of a finished file: read from it, and measured of what it is decoded to. */
export interface ExaminedFile {
  readonly name: string
  readonly bytes: number
  /** As ffprobe calls it: mp3, aac, flac, pcm_s16le … */
  readonly codec: string
  /** Hz */
  readonly sampleRate: number
  readonly channels: number
  /** Of a sample; null where the format says nothing. */
  readonly bits: number | null
  /** Mean of the whole stream; null where the format says nothing. */
  readonly bitRateKbps: number | null
  /** Whether every frame has the same bit rate; null where that has no meaning. */
  readonly isConstant: boolean | null
  /** The place that its tags give it, and of how many. */
  readonly track: { readonly number: number, readonly of: number | null } | null
  readonly title: string | null
  readonly album: string | null
  readonly author: string | null
  readonly chapters: number
  readonly hasCover: boolean
  /** How long the file says that it is, ms; null where it says nothing. */
  readonly toldMs: number | null
  /** Of what is decoded, stretch after stretch. */
  readonly measures: readonly Measure[]
}

/** What of a profile a file does not keep. */
export type FindingCode =
  | 'wrong-codec' | 'wrong-rate' | 'wrong-channels' | 'low-bit-rate' | 'variable-bit-rate'
  | 'too-quiet' | 'too-loud' | 'peak-high' | 'clipped' | 'noisy' | 'no-sound'
  | 'head-short' | 'head-long' | 'tail-short' | 'tail-long' | 'too-long' | 'too-large' | 'long-silence'
  | 'order' | 'missing' | 'doubled'
  | 'unreadable' | 'wrong-tags' | 'wrong-chapters' | 'wrong-cover' | 'wrong-length'

export interface Finding {
  readonly code: FindingCode
  /** Name of the file. */
  readonly file: string
  /** Where in the file, ms; null where it is about all of it. */
  readonly atMs: number | null
  /** What it is, and what it should be. */
  readonly message: string
  readonly remedy: string
  /** What is said there; missing where that is not known. */
  readonly place?: ScriptPlace
}

/** A place in a script. */
export interface ScriptPlace {
  readonly passageId: string
  /** Key of the utterance. */
  readonly key: string
  readonly text: string
}

/** A file as far as its head tells. */
export type FileHead = Omit<ExaminedFile, 'measures'>

/** What was measured of a file, for tables and reports. */
export interface FileFigures {
  readonly durationMs: number
  readonly rmsDb: number
  readonly integratedDb: number
  readonly samplePeakDb: number
  readonly truePeakDb: number
  readonly noiseFloorDb: number
  /** Null where nothing is heard. */
  readonly headMs: number | null
  readonly tailMs: number | null
  readonly longestSilenceMs: number
}

/** The same, and what was done to the level of a file of ours. */
export interface FileLevels extends FileFigures {
  readonly gainDb: number
  /** Peaks that were held, and the most that was taken from one, dB. */
  readonly limited: { readonly count: number, readonly mostDb: number }
  /** What its head says; missing for a file of an earlier version. */
  readonly sound?: FileSound
}

export type FileSound = Pick<ExaminedFile, 'codec' | 'sampleRate' | 'channels' | 'bits' | 'bitRateKbps'>

export const soundOfHead = ({ codec, sampleRate, channels, bits, bitRateKbps }: FileHead): FileSound => ({ codec, sampleRate, channels, bits, bitRateKbps })

/** Silence between words is looked for from this length on, ms. */
const leastSilenceMs = 500

/** Below this a window is part of head, tail or a silence, dBFS: speech begins above it, and room tone stays below. */
export const quietDb = -50

/** Windows of steady noise are louder than all of it by less than this, dB. */
const noiseSwingDb = 6

/** Speech begins less than this below the mean level of its file, dB. */
const onsetDb = 12

/** The same in a file that has louder noise where nobody speaks: it is too noisy, but has a head and a tail all the same. */
const quietBelow = (floorDb: number, rmsDb: number): number => Math.max(quietDb, Math.min(floorDb + noiseSwingDb, rmsDb - onsetDb))

export function figuresOf({ measures, sampleRate, channels }: Pick<ExaminedFile, 'measures' | 'sampleRate' | 'channels'>, { dualMono }: Pick<DeliveryProfile, 'dualMono'>): FileFigures {
  const { sampleCount, clipped: _, ...levels } = levelsOf(measures, { dualMono: dualMono && channels === 1 })
  const inMs = (samples: number): number => samples * 1000 / sampleRate
  const floorDb = noiseFloorDb(measures)
  const { head, tail, between } = silencesOf(measures, sampleCount, quietBelow(floorDb, levels.rmsDb))
  return {
    durationMs: inMs(sampleCount), ...levels, noiseFloorDb: floorDb,
    headMs: head === null ? null : inMs(head), tailMs: tail === null ? null : inMs(tail),
    longestSilenceMs: between.reduce((longest, { start, end }) => Math.max(longest, inMs(end - start)), 0),
  }
}

/** Samples of silence before the first and after the last sound, and the silences between. */
function silencesOf(measures: readonly Measure[], sampleCount: number, belowDb: number): { head: number | null, tail: number | null, between: { start: number, end: number }[] } {
  const quiet = quietIn(measures, 0, belowDb)
  if (sampleCount === 0 || quiet[0]?.start === 0 && quiet[0].end === sampleCount) return { head: null, tail: null, between: [] }
  const [first, last] = [quiet[0], quiet.at(-1)]
  const rate = measures[0]?.sampleRate ?? 1
  return {
    head: first?.start === 0 ? first.end : 0,
    tail: last?.end === sampleCount ? sampleCount - last.start : 0,
    between: quiet.filter(({ start, end }) => start > 0 && end < sampleCount && end - start >= leastSilenceMs * rate / 1000),
  }
}

/** A bit rate in the head of a file is rounded; so much below it is the same. */
const bitRateSlack = 0.99

/** Levels are told with one decimal, and judged by what is told. */
const toTenths = (value: number): number => Math.round(value * 10) / 10

/** Margins are measured in windows of 5 ms. */
const marginSlackMs = 5

/** What a file does not keep of a profile, by itself; `figures` are those of the file, where they are known already. */
export function judgeFile(file: ExaminedFile, profile: DeliveryProfile, figures = figuresOf(file, profile)): Finding[] {
  const findings: Finding[] = []
  const add = (code: FindingCode, message: string, remedy: string, atMs: number | null = null): void => {
    findings.push({ code, file: file.name, atMs, message, remedy })
  }
  const { limits } = profile
  const wanted = formatOf(profile.format)
  const bits = profile.bits === null ? '' : ` with ${profile.bits} bits`
  if (file.codec !== codecOf(profile)) add('wrong-codec', `It is ${file.codec}, not ${wanted.name}${bits}.`, `Make it as ${wanted.name}${bits}.`)
  else if (profile.bits !== null && file.bits !== null && file.bits !== profile.bits) add('wrong-codec', `Its samples have ${file.bits} bits, not ${profile.bits}.`, `Make it as ${wanted.name}${bits}.`)
  if (file.sampleRate !== profile.sampleRate) add('wrong-rate', `Its rate is ${file.sampleRate} Hz, not ${profile.sampleRate} Hz.`, `Make it at ${profile.sampleRate} Hz.`)
  if (limits.channels !== null && file.channels !== limits.channels) add('wrong-channels', `It is ${channelsName(file.channels)}, not ${channelsName(limits.channels)}.`, `Make it ${channelsName(limits.channels)}.`)
  // Other formats than MP3 spend less on what is easy.
  if (profile.format === 'mp3' && file.bitRateKbps !== null && file.bitRateKbps < profile.bitRateKbps! * bitRateSlack) add('low-bit-rate', `It has ${Math.round(file.bitRateKbps)} kbit/s, less than ${profile.bitRateKbps}.`, `Make it with ${profile.bitRateKbps} kbit/s.`)
  if (file.isConstant === false) add('variable-bit-rate', 'Its bit rate changes.', 'Make it with a constant bit rate.')
  if (figures.headMs === null) {
    add('no-sound', 'Nothing is heard in it.', 'Read its part again, and make the file anew.')
    return findings
  }
  const judgeSpan = (value: number, span: Span | null, low: () => void, high: () => void, slack = 0): void => {
    if (span === null) return
    if (span.least !== null && value < span.least - slack) low()
    if (span.most !== null && value > span.most + slack) high()
  }
  const db = (value: number): string => toTenths(value).toFixed(1).replace('-', '−')
  for (const { value, span, unit } of [{ value: figures.rmsDb, span: limits.rmsDb, unit: 'dB RMS' }, { value: figures.integratedDb, span: limits.integratedDb, unit: 'LUFS' }]) {
    judgeSpan(toTenths(value), span,
      () => add('too-quiet', value <= silenceDb ? 'It is too short or too quiet to have a loudness.' : `Its level is ${db(value)} ${unit}, below ${db(span!.least!)}.`, 'Make it anew: its level is raised.'),
      () => add('too-loud', `Its level is ${db(value)} ${unit}, above ${db(span!.most!)}.`, 'Make it anew: its level is lowered.'))
  }
  const peakDb = limits.truePeak ? figures.truePeakDb : figures.samplePeakDb
  const clipped = file.measures.reduce((sum, each) => sum + each.clipped, 0)
  // What is cut off at full scale is too high as well: that is one fault.
  if (limits.peakDb !== null && clipped === 0 && toTenths(peakDb) > limits.peakDb) add('peak-high', `Its highest peak is ${db(peakDb)} dB, above ${db(limits.peakDb)}.`, 'Make it anew: peaks are held.', peakMs(file))
  if (clipped > 0) add('clipped', `${clipped} samples are cut off at full scale.`, 'Record or read it again at a lower level: what was cut off cannot be brought back.', clippedMs(file))
  if (limits.noiseFloorDb !== null && toTenths(figures.noiseFloorDb) > limits.noiseFloorDb) add('noisy', `Where nobody speaks there is noise of ${db(figures.noiseFloorDb)} dB, above ${db(limits.noiseFloorDb)}.`, 'Clean the recording, or use silence for room tone.')
  const margins = [
    { name: 'head', place: 'before the first word', ms: figures.headMs, span: limits.headMs, atMs: 0 },
    { name: 'tail', place: 'after the last word', ms: figures.tailMs!, span: limits.tailMs, atMs: figures.durationMs - figures.tailMs! },
  ] as const
  for (const { name, place, ms, span, atMs } of margins) {
    const found = `There are ${secondsOf(ms)} s ${place}`
    judgeSpan(ms, span,
      () => add(`${name}-short`, `${found}, fewer than ${secondsOf(span!.least!)}.`, `Lengthen the ${name} in the profile, and make the file anew.`, atMs),
      () => add(`${name}-long`, `${found}, more than ${secondsOf(span!.most!)}.`, `Shorten the ${name} in the profile, or a rest ${place}, and make the file anew.`, atMs), marginSlackMs)
  }
  if (limits.longestMs !== null && figures.durationMs > limits.longestMs) add('too-long', `It lasts ${clock(figures.durationMs)}, longer than ${clock(limits.longestMs)}.`, 'Split it: choose a length at most, or begin another file at a heading.', limits.longestMs)
  if (limits.largestBytes !== null && file.bytes > limits.largestBytes) add('too-large', `It has ${file.bytes} bytes, more than ${limits.largestBytes}.`, 'Split it, or choose a lower bit rate.')
  if (limits.longestSilenceMs !== null && figures.longestSilenceMs > limits.longestSilenceMs) {
    for (const { start, end } of silencesOf(file.measures, figures.durationMs * file.sampleRate / 1000, quietBelow(figures.noiseFloorDb, figures.rmsDb)).between) {
      const [from, length] = [start * 1000 / file.sampleRate, (end - start) * 1000 / file.sampleRate]
      if (length > limits.longestSilenceMs) add('long-silence', `It is silent for ${secondsOf(length)} s from ${clock(from)} on.`, 'Look whether something is missing there, or shorten the rest.', from)
    }
  }
  return findings
}

/** Where the highest peak is. */
function peakMs({ measures, sampleRate }: ExaminedFile): number {
  return placeMs(measures, sampleRate, measures.reduce((most, each, index) => each.samplePeak > measures[most]!.samplePeak ? index : most, 0))
}

/** The peak of the first stretch in which samples are cut off. */
function clippedMs({ measures, sampleRate }: ExaminedFile): number {
  return placeMs(measures, sampleRate, measures.findIndex(each => each.clipped > 0))
}

function placeMs(measures: readonly Measure[], sampleRate: number, index: number): number {
  const before = measures.slice(0, index).reduce((sum, each) => sum + each.sampleCount, 0)
  return (before + measures[index]!.peakSample) * 1000 / sampleRate
}

/** What files do not keep together, in the order of their names: channels, numbers, and what sounds the same. */
export function judgeTogether(files: readonly ExaminedFile[]): Finding[] {
  return [...channelsOf(files), ...ordersOf(files), ...doublesOf(files)]
}

function channelsOf(files: readonly ExaminedFile[]): Finding[] {
  const mono = files.filter(file => file.channels === 1).length
  const usual = mono * 2 >= files.length ? 1 : 2
  return files.filter(file => file.channels !== usual).map(file => ({
    code: 'wrong-channels', file: file.name, atMs: null,
    message: `It is ${channelsName(file.channels)} among files that are ${channelsName(usual)}.`, remedy: `Make it ${channelsName(usual)}: all files of a delivery are alike.`,
  }))
}

/** What is wrong with the places that the tags of files give them, in the order of their names. */
export function ordersOf<F extends Pick<ExaminedFile, 'name' | 'track'>>(files: readonly F[]): Finding[] {
  const findings: Finding[] = []
  const placed = files.flatMap(file => file.track === null ? [] : [{ file, track: file.track }])
  if (placed.length === 0) return findings
  placed.forEach(({ file, track }, index) => {
    const before = placed[index - 1]
    if (before === undefined || track.number > before.track.number) return
    const same = track.number === before.track.number
    findings.push({
      code: same ? 'doubled' : 'order', file: file.name, atMs: null,
      message: same ? `Its tags give it the number ${track.number}, which ${before.file.name} has too.` : `Its tags give it the number ${track.number}, but by its name it comes after ${before.file.name}, which has ${before.track.number}.`,
      remedy: 'Number names and tags alike: deliver again.',
    })
  })
  const numbers = new Set(placed.map(({ track }) => track.number))
  const count = Math.max(...placed.map(({ track }) => Math.max(track.of ?? 0, track.number)))
  for (let number = Math.min(1, ...numbers); number <= count; number += 1) {
    if (numbers.has(number)) continue
    const next = placed.find(({ track }) => track.number > number) ?? placed.at(-1)!
    findings.push({
      code: 'missing', file: next.file.name, atMs: null,
      message: `Number ${number} of ${count} is missing ${next.track.number > number ? 'before' : 'after'} it.`, remedy: 'Deliver again, with all parts.',
    })
  }
  return findings
}

function doublesOf(files: readonly ExaminedFile[]): Finding[] {
  const seen = new Map<string, ExaminedFile>()
  return files.flatMap((file): Finding[] => {
    const sound = soundPrint(file)
    const before = sound === null ? undefined : seen.get(sound)
    if (sound !== null) seen.set(sound, file)
    if (before === undefined) return []
    return [{ code: 'doubled', file: file.name, atMs: null, message: `It sounds as ${before.name} does, from beginning to end.`, remedy: 'Leave one of them out.' }]
  })
}

/** The course of the level; null for a file in which nothing is heard. */
function soundPrint({ measures }: ExaminedFile): string | null {
  const { sampleCount, rmsDb } = levelsOf(measures)
  if (rmsDb <= silenceDb) return null
  return `${sampleCount} ${measures.map(({ levels }) => levels.join(' ')).join(' ')}`
}
