import { clock } from '../estimate/clock'
import { quietIn } from '../mastering/measure'
import { judgeFile, quietDb, type ExaminedFile, type FileFigures, type Finding, type FindingCode, type ScriptPlace } from './conformance'
import { formatOf } from './formats'
import type { DeliveryProfile } from './profile'
import { secondsOf } from './verdict'

/** Speech in a file. */
export interface SpokenSpan {
  readonly startMs: number
  readonly endMs: number
}

/** What a file that is made is to hold. */
export interface ExpectedContents {
  readonly title: string
  readonly album: string
  readonly author: string
  readonly track: { readonly number: number, readonly of: number }
  readonly chapters: number
  readonly hasCover: boolean
  readonly durationMs: number
  /** In order. */
  readonly spoken: readonly SpokenSpan[]
}

/** A voice pauses for less than this within what it says, ms. */
const longestPauseMs = 2000

/** The head of a file may round its length to a frame or two, ms. */
const lengthSlackMs = 100

/** Two faults within this are one, ms. */
const sameFaultMs = 1000

/** What a file that was made does not keep of its profile, and does not hold of what it should; `figures` are those of the file. */
export function judgeMade(file: ExaminedFile, expected: ExpectedContents, profile: DeliveryProfile, figures?: FileFigures): Finding[] {
  const found = judgeFile(file, profile, figures)
  const isKnown = ({ code, atMs }: Finding): boolean => found.some(known => known.code === code && atMs !== null && known.atMs !== null && Math.abs(known.atMs - atMs) < sameFaultMs)
  return [...found, ...judgeContents(file, expected, profile).filter(finding => !isKnown(finding))]
}

/** What a file does not hold of what it should: tags, chapters, cover, its length, and sound where the script has speech. */
function judgeContents(file: ExaminedFile, expected: ExpectedContents, { format }: Pick<DeliveryProfile, 'format'>): Finding[] {
  const findings: Finding[] = []
  const add = (code: FindingCode, message: string, remedy = 'Make it anew.', atMs: number | null = null): void => {
    findings.push({ code, file: file.name, atMs, message, remedy })
  }
  const { name, hasChapters, hasCover } = formatOf(format)
  for (const tag of ['title', 'album', 'author'] as const) {
    const [found, wanted] = [file[tag] ?? '', expected[tag]].map(text => text.trim())
    if (found !== wanted) add('wrong-tags', `Its tags give it the ${tag} “${found}”, not “${wanted}”.`)
  }
  const { number, of } = expected.track
  if (file.track?.number !== number || file.track.of !== of) add('wrong-tags', `Its tags say that it is ${file.track === null ? 'no' : `${file.track.number} of ${file.track.of ?? '?'}`}, not ${number} of ${of}.`)
  const chapters = hasChapters ? expected.chapters : 0
  if (file.chapters !== chapters) add('wrong-chapters', `It has ${file.chapters} chapters, not ${chapters}.`)
  if (expected.hasCover && hasCover && !file.hasCover) add('wrong-cover', 'Its cover is missing.', `Bring the cover in again, and make it anew: ${name} holds one.`)
  if (file.toldMs !== null && Math.abs(file.toldMs - expected.durationMs) > lengthSlackMs) add('wrong-length', `It lasts ${clock(file.toldMs)}, not ${clock(expected.durationMs)}.`)
  for (const { atMs, lengthMs } of silencesInSpeech(file, expected.spoken)) {
    add('long-silence', `It is silent for ${secondsOf(lengthMs)} s from ${clock(atMs)} on, where the script has speech.`, 'Listen to this sentence, and read it again or bring in another recording.', atMs)
  }
  return findings
}

/** Silences within what is said that are longer than any voice pauses. */
function silencesInSpeech({ measures, sampleRate }: ExaminedFile, spoken: readonly SpokenSpan[]): { atMs: number, lengthMs: number }[] {
  const found: { atMs: number, lengthMs: number }[] = []
  let next = 0
  for (const quiet of quietIn(measures, longestPauseMs, quietDb)) {
    const [startMs, endMs] = [quiet.start, quiet.end].map(sample => sample * 1000 / sampleRate) as [number, number]
    while (next < spoken.length && spoken[next]!.endMs <= startMs) next += 1
    for (let index = next; index < spoken.length && spoken[index]!.startMs < endMs; index += 1) {
      const atMs = Math.max(startMs, spoken[index]!.startMs)
      const lengthMs = Math.min(endMs, spoken[index]!.endMs) - atMs
      if (lengthMs > longestPauseMs) found.push({ atMs, lengthMs })
    }
  }
  return found
}

/** What is said at a time: the last that has begun, or else the first. */
export function placed<T extends { readonly startMs: number } & ScriptPlace>(finding: Finding, said: readonly T[]): Finding {
  if (finding.atMs === null) return finding
  const found = said.findLast(each => each.startMs <= finding.atMs!) ?? said[0]
  return found === undefined ? finding : { ...finding, place: { passageId: found.passageId, key: found.key, text: found.text } }
}
