import iconv from 'iconv-lite'
import { fail } from '#core/problem'

const sampleBytes = 64 * 1024
/** Below this, the detectors' guesses are worth little. */
const leastConfidence = 0.4
/** Text in which half of the words with special letters are garbled is as good as excluded. */
const garbledWeight = 3

/** Whether the bytes can be text at all: no NUL outside UTF-16 and UTF-32, and few control characters. */
export function looksLikeText(bytes: Buffer): boolean {
  return firstForeignByte(bytes) === null
}

/** Stops with a problem that says where a file that is named like a text turns out to be none. */
export function requireText(bytes: Buffer, name: string): void {
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
  if (nul >= 0) return nul
  const isControl = (byte: number): boolean => byte < 9 || (byte > 13 && byte < 32 && byte !== 27)
  const controls = sample.reduce((sum, byte) => sum + (isControl(byte) ? 1 : 0), 0)
  return controls <= sample.length * 0.01 ? null : sample.findIndex(isControl)
}

/**
 * Text of bytes in an unknown encoding: a byte order mark decides, then the NUL pattern of UTF-16, then
 * strict UTF-8, then what the file declares, then two detectors on the first 64 KB. Throws a problem when none is sure enough or the
 * chosen encoding is unknown.
 */
export async function decodeText(bytes: Buffer, name: string, chosen?: string, declared?: string): Promise<string> {
  if (chosen !== undefined && !iconv.encodingExists(chosen)) {
    fail('encoding-unknown', `“${chosen}” is not a known text encoding. Use a name such as utf-8, windows-1252 or iso-8859-15.`)
  }
  const encoding = chosen ?? unicodeMark(bytes) ?? utf16Pattern(bytes) ?? (isUtf8(bytes) ? 'utf-8' : known(declared) ?? await guess(bytes, name))
  return iconv.decode(bytes, encoding).replace(/\r\n?/gu, '\n')
}

function known(encoding: string | undefined): string | null {
  return encoding !== undefined && iconv.encodingExists(encoding) ? encoding : null
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

/** What the two detectors think possible, judged by their confidence and by how the decoded text looks. */
async function guess(bytes: Buffer, name: string): Promise<string> {
  const [{ default: chardet }, { default: jschardet }] = await Promise.all([import('chardet'), import('jschardet')])
  const sample = bytes.subarray(0, sampleBytes)
  const confidence = new Map<string, number>()
  const consider = (encoding: string | null, value: number): void => {
    // Files that say ISO-8859-1 mean Windows-1252, which has the quotation marks and dashes as well.
    const known = encoding !== null && /^iso-8859-1$/iu.test(encoding) ? 'windows-1252' : encoding?.toLowerCase()
    if (known === undefined || /^(?:utf-8|ascii)$/u.test(known) || !iconv.encodingExists(known)) return
    confidence.set(known, (confidence.get(known) ?? 0) + value)
  }
  for (const match of chardet.analyse(sample)) consider(match.name, match.confidence / 100)
  for (const match of jschardet.detectAll(sample)) consider(match.encoding, match.confidence)
  const judged = [...confidence]
    .map(([encoding, value]) => ({ encoding, value: value - garbledShare(iconv.decode(sample, encoding)) * garbledWeight }))
    .sort((a, b) => b.value - a.value)
  const best = judged[0]
  if (best === undefined || best.value < leastConfidence) {
    fail('encoding-unsure', `The text encoding of ${name} cannot be told. Save it as UTF-8, or choose its encoding.`)
  }
  return best.encoding
}

/** A wrong encoding mixes alphabets or puts signs inside words. */
const garbledWord = /\p{L}[^\p{L}\p{M}\p{N}\p{P}]+\p{L}|\p{L}[¹²³ªº¼½¾¡¿]|[\u0080-\u009f\ufffd]|\p{sc=Latin}(?:\p{sc=Greek}|\p{sc=Cyrillic})|(?:\p{sc=Greek}|\p{sc=Cyrillic})\p{sc=Latin}/u

function garbledShare(text: string): number {
  const words = text.split(/\s+/u).filter(word => /[^\u0000-\u007f]/u.test(word))
  return words.length === 0 ? 0 : words.filter(word => garbledWord.test(word)).length / words.length
}
