import iconv from 'iconv-lite'
import { fail, type Problem } from '#core/problem'
import type { SourceFile } from '../reader'
import { lookup } from '#core/lookup'
import type { TextEncoding } from '#core/manuscript/encodings'
import { certaintyOf, likelihoods, othersThan } from './guess-encoding'

const sampleBytes = 64 * 1024
/** Below this, the best guess is worth little. */
const leastLikelihood = 0.4

/** Whether the bytes can be text at all: no NUL outside UTF-16 and UTF-32, and few control characters. */
export function looksLikeText(bytes: Buffer): boolean {
  return firstForeignByte(bytes) === null
}

/** Stops with a problem that says where a file that is named like a text turns out to be none. */
function requireText(bytes: Buffer, name: string): void {
  const at = firstForeignByte(bytes)
  if (at === null) return
  const before = bytes.subarray(0, at).toString('latin1').split('\n')
  fail('text-binary', `${name} is named like a text, but holds binary data or was damaged: byte ${at + 1} is ${bytes[at] === 0 ? 'a NUL' : 'a control character'}. `
    + 'Give it the ending of its real format, or save it again as text in UTF-8.', `line ${before.length}, column ${before.at(-1)!.length + 1}`)
}

/** Where the bytes stop being text; null when they are text. */
function firstForeignByte(bytes: Buffer): number | null {
  if (unicodeMark(bytes) !== null || utf16Pattern(bytes) !== null) return null
  const sample = bytes.subarray(0, sampleBytes)
  const nul = sample.indexOf(0)
  if (nul < 0 && !isFullOfControls(sample) || utf16ByLetters(bytes) !== null) return null
  return nul >= 0 ? nul : sample.findIndex(isControl)
}

/** Share of control characters that a text can have by accident. */
const mostControls = 0.01

function isControl(code: number): boolean {
  return code < 9 || code > 13 && code < 32 && code !== 27
}

function isFullOfControls(bytes: Buffer): boolean {
  const sample = bytes.subarray(0, sampleBytes)
  return sample.reduce((sum, byte) => sum + (isControl(byte) ? 1 : 0), 0) > sample.length * mostControls
}

export interface Decoded {
  readonly text: string
  /** What could not be decoded as it is, with its place. */
  readonly problems: readonly Problem[]
  /** Where the bytes do not tell it by themselves. */
  readonly encoding?: TextEncoding
}

/** The text of a file that must be one. `chosen` is the encoding that the user named; what the file itself declares counts after what its bytes say. */
export async function openText({ bytes, name }: Pick<SourceFile, 'bytes' | 'name'>, chosen?: string, declared?: string): Promise<Decoded> {
  if (chosen === undefined) requireText(bytes, name)
  const decoded = await decodeText(bytes, name, chosen, declared)
  const sample = decoded.text.slice(0, sampleBytes)
  if (chosen !== undefined && [...sample].filter(sign => isControl(sign.codePointAt(0)!)).length > sample.length * mostControls) {
    fail('encoding-wrong', `In the encoding ${chosen}, ${name} would be full of control characters. Choose another encoding, or let it be recognised.`)
  }
  return decoded
}

/**
 * Text of bytes in an unknown encoding: a byte order mark decides, then the patterns of UTF-16, then UTF-8, in which single bytes may be
 * broken, then what the file declares, then detectors and the alphabets of languages on the first 64 KB. Throws a problem when none is sure
 * enough or the chosen encoding is unknown.
 */
export async function decodeText(bytes: Buffer, name: string, chosen?: string, declared?: string): Promise<Decoded> {
  const wanted = chosen === undefined ? null : known(chosen) ?? fail('encoding-unknown', `“${chosen}” is not a known text encoding. Use a name such as utf-8, windows-1252 or iso-8859-15.`)
  const sample = tellingSample(bytes)
  const inEncoding = (encoding: string): string => lines(iconv.decode(bytes, encoding))
  if (wanted !== null) {
    const others = [...isUtf8(bytes) ? [{ encoding: 'utf-8', value: Infinity }] : [], ...await likelihoods(sample)]
    return { text: inEncoding(wanted), problems: [], encoding: { name: wanted, certainty: 'chosen', others: othersThan(wanted, sample, others) } }
  }
  const sure = unicodeMark(bytes) ?? utf16Pattern(bytes) ?? (isUtf8(bytes) && !isFullOfControls(bytes) ? 'utf-8' : null) ?? utf16ByLetters(bytes) ?? (isUtf8(bytes) ? 'utf-8' : null)
  if (sure !== null) return { text: inEncoding(sure), problems: [] }
  const broken = brokenUtf8(bytes, name)
  if (broken !== null) return broken
  const stated = known(declared)
  const likely = await likelihoods(sample)
  if (stated !== null) return { text: inEncoding(stated), problems: [], encoding: { name: stated, certainty: 'declared', others: othersThan(stated, sample, likely) } }
  const [best] = likely
  if (best === undefined || best.value < leastLikelihood) {
    fail('encoding-unsure', `The text encoding of ${name} cannot be told. Save it as UTF-8, or choose its encoding.`)
  }
  const others = othersThan(best.encoding, sample, likely)
  const encoding: TextEncoding = { name: best.encoding, certainty: certaintyOf(sample, likely, others), others }
  return { text: inEncoding(best.encoding), problems: encoding.certainty === 'doubtful' ? [doubtful(encoding, name)] : [], encoding }
}

/** Bytes beyond ASCII that are enough to tell an encoding by. */
const enoughBytes = 400

/** The beginning of a text that has enough bytes beyond ASCII, whole lines where there are any: encodings are tried on it, which takes a second on 64 KB. */
function tellingSample(bytes: Buffer): Buffer {
  const whole = bytes.subarray(0, sampleBytes)
  let seen = 0
  const enough = whole.findIndex(byte => byte > 0x7f && ++seen === enoughBytes)
  const end = enough < 0 ? whole.length : enough + 1
  if (end === bytes.length) return bytes
  const line = whole.lastIndexOf(0x0a, end - 1)
  const next = whole.indexOf(0x0a, end)
  return whole.subarray(0, next >= 0 && next < end * 2 ? next + 1 : line > 0 ? line + 1 : end)
}

function doubtful({ name, others: [other] }: TextEncoding, file: string): Problem {
  const or = other === undefined ? '' : `, and could be ${other.name} (“${other.instead}” instead of “${other.now}”)`
  return { code: 'encoding-doubtful', message: `The text encoding of ${file} is not sure: it is read as ${name}${or}. Check its letters, or choose another encoding.` }
}

function lines(text: string): string {
  return text.replace(/\r\n?/gu, '\n')
}

/** Names of encodings that are in use beside those of the library. */
const otherNames: Readonly<Record<string, string>> = { 'x-mac-roman': 'macroman', 'mac os roman': 'macroman', 'ansi': 'windows-1252', 'unicode': 'utf-16le' }

function known(encoding: string | undefined): string | null {
  if (encoding === undefined) return null
  const name = lookup(otherNames, encoding.toLowerCase()) ?? encoding
  return iconv.encodingExists(name) ? name : null
}

function unicodeMark(bytes: Buffer): string | null {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return 'utf-8'
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return bytes[2] === 0 && bytes[3] === 0 && bytes.length >= 4 ? 'utf-32le' : 'utf-16le'
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be'
  return null
}

/** Latin text in UTF-16 has a NUL in nearly every other byte. */
function utf16Pattern(bytes: Buffer): string | null {
  const sample = bytes.subarray(0, sampleBytes & ~1)
  if (sample.length < 4) return null
  let even = 0
  let odd = 0
  sample.forEach((byte, index) => {
    if (byte === 0) index % 2 === 0 ? even += 1 : odd += 1
  })
  const half = sample.length / 2
  if (odd > half * 0.7 && even < half * 0.05) return 'utf-16le'
  if (even > half * 0.7 && odd < half * 0.05) return 'utf-16be'
  return null
}

function isUtf8(bytes: Buffer): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes)
    return true
  } catch {
    return false
  }
}

/** Signs of which any text has some, in every script. */
const common = /[ \n\u3001\u3002\uff0c]/gu

/** Text of another script in UTF-16 has no NULs, but letters and spaces in one of the two orders of bytes. */
function utf16ByLetters(bytes: Buffer): string | null {
  const sample = bytes.subarray(0, sampleBytes & ~1)
  if (sample.length < 8 || bytes.length % 2 === 1) return null
  const [best] = ['utf-16le', 'utf-16be'].map(encoding => {
    const text = iconv.decode(sample, encoding)
    const letters = text.match(/[\p{L}\p{M}\p{N}\p{P}\s]/gu)?.length ?? 0
    return { encoding, isText: letters >= text.length * 0.98, spaces: text.match(common)?.length ?? 0, length: text.length }
  }).sort((a, b) => b.spaces - a.spaces)
  return best!.isText && best!.spaces >= Math.max(1, best!.length * 0.01) ? best!.encoding : null
}

/** Broken bytes for each good sign beyond ASCII that UTF-8 may have and still be UTF-8. */
const mostBroken = 0.1

/** UTF-8 in which few bytes are broken: they are shown as �, and their places are told. */
function brokenUtf8(bytes: Buffer, name: string): Decoded | null {
  const text = bytes.toString('utf8')
  const places = [...text.matchAll(/\ufffd/gu)].map(match => match.index)
  const good = text.match(/[\u0080-\u{10ffff}]/gu)!.length - places.length
  if (good === 0 || places.length > Math.max(1, good * mostBroken)) return null
  const before = text.slice(0, places[0]).split('\n')
  const count = places.length === 1 ? 'A byte' : `${places.length} bytes`
  return {
    text: lines(text.replace(/^\ufeff/u, '')),
    problems: [{ code: 'encoding-broken', message: `${count} of ${name} ${places.length === 1 ? 'is' : 'are'} no UTF-8; � stands there. Correct the text, or choose another encoding.`, place: `line ${before.length}, column ${before.at(-1)!.length + 1}` }],
  }
}
