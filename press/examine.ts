import { execFile, spawn } from 'node:child_process'
import { once } from 'node:events'
import { open, stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { promisify } from 'node:util'
import { samplesOf } from '#core/audio/pcm'
import { combined, measure, type Measure } from '#core/mastering/measure'
import type { ExaminedFile, FileHead } from '#core/delivery/conformance'
import { fail } from '#core/problem'
import { channelOf } from './channels'
import { guarded } from './ffmpeg'
import { mp3Frame } from './formats/mp3'

/** What is asked of ffprobe. */
interface Probed {
  readonly streams: readonly ProbedStream[]
  readonly chapters?: readonly unknown[]
  readonly format: { readonly format_name: string, readonly bit_rate?: string, readonly duration?: string, readonly tags?: Readonly<Record<string, string>> }
}

interface ProbedStream {
  readonly codec_type?: string
  readonly codec_name?: string
  readonly sample_rate?: string
  readonly channels?: number
  readonly bit_rate?: string
  readonly bits_per_sample?: number
  readonly bits_per_raw_sample?: string
  readonly duration?: string
  readonly disposition?: { readonly attached_pic?: number }
  readonly tags?: Readonly<Record<string, string>>
}

/**
 * Looks at a finished file, whoever made it: what its head says, and what is heard when it is decoded from beginning to end. Rejects with a problem when there is
 * no sound in it that can be decoded.
 */
export async function examineFile(path: string, name = basename(path)): Promise<ExaminedFile> {
  const read = await readHead(path, name)
  return { ...read, measures: await measureFile(path, name, read.sampleRate, read.channels) }
}

/** What a finished file says of itself. Rejects with a problem when there is no sound in it. */
export async function readHead(path: string, name: string): Promise<FileHead> {
  const { streams, chapters, format } = await probe(path, name)
  const stream = streams.find(each => each.codec_type === 'audio')
  if (stream?.codec_name === undefined || stream.sample_rate === undefined) fail('audio-unreadable', `There is no sound in ${name}.`, name)
  const [sampleRate, channels] = [Number(stream.sample_rate), stream.channels ?? 1]
  const tags = Object.fromEntries(Object.entries({ ...stream.tags, ...format.tags }).map(([key, value]) => [key.toLowerCase(), value]))
  const isMp3 = stream.codec_name === 'mp3' && format.format_name === 'mp3'
  const bitRate = numberOf(stream.bit_rate ?? format.bit_rate)
  const seconds = numberOf(stream.duration ?? format.duration)
  return {
    name, bytes: (await stat(path)).size, codec: stream.codec_name, sampleRate, channels,
    bits: Number(stream.bits_per_raw_sample ?? stream.bits_per_sample ?? 0) || null,
    bitRateKbps: bitRate === null ? null : bitRate / 1000,
    isConstant: isMp3 ? await hasOneBitRate(path) : null,
    track: trackOf(tags['track'], tags['tracktotal']), title: tags['title'] ?? null, album: tags['album'] ?? null, author: tags['artist'] ?? null,
    chapters: chapters?.length ?? 0, hasCover: streams.some(each => each.disposition?.attached_pic === 1),
    toldMs: seconds === null ? null : seconds * 1000,
  }
}

/** Of what ffprobe says; null where it says nothing. */
function numberOf(text: string | undefined): number | null {
  const value = Number(text)
  return Number.isFinite(value) ? value : null
}

async function probe(path: string, name: string): Promise<Probed> {
  try {
    const { stdout } = await promisify(execFile)('ffprobe', ['-v', 'error', ...guarded, '-show_streams', '-show_chapters', '-show_format', '-of', 'json', path])
    return JSON.parse(stdout) as Probed
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') fail('encoder-missing', 'The program ffprobe is not installed. Run bin/start once, or install the Debian package ffmpeg.')
    return fail('audio-unreadable', `${name} is no sound that can be read.`, name)
  }
}

function trackOf(tag: string | undefined, total: string | undefined): FileHead['track'] {
  const [, number, of = total] = /^(\d{1,6})(?:\/(\d{1,6}))?$/u.exec(tag?.trim() ?? '') ?? []
  return number === undefined ? null : { number: Number(number), of: numberOf(of) }
}

/** A file is measured in stretches of so many seconds, so that one of ten hours takes no more memory than one of ten minutes. */
const stretchSeconds = 60

/** Before each, what brings the filters of the meter into their state, s. */
const leadSeconds = 1

async function measureFile(path: string, name: string, sampleRate: number, channels: number): Promise<Measure[]> {
  const child = spawn('ffmpeg', ['-hide_banner', '-nostdin', '-loglevel', 'error', ...guarded, '-i', path, '-map', '0:a:0', '-f', 's16le', 'pipe:1'], { stdio: ['ignore', 'pipe', 'ignore'] })
  const ended = once(child, 'close')
  const measures: Measure[] = []
  const [stretch, lead] = [stretchSeconds * sampleRate, leadSeconds * sampleRate]
  const frameBytes = channels * Int16Array.BYTES_PER_ELEMENT
  let kept = Buffer.alloc(0)
  let before = 0
  const take = (frames: number): void => {
    const samples = samplesOf(kept.subarray(0, (before + frames) * frameBytes))
    measures.push(combined(Array.from({ length: channels }, (_, channel) => measure(channelOf(samples, channel, channels), sampleRate, before, before + frames))))
    const next = Math.min(lead, before + frames)
    kept = kept.subarray((before + frames - next) * frameBytes)
    before = next
  }
  let pending: Buffer[] = []
  let pendingBytes = 0
  for await (const chunk of child.stdout) {
    pending.push(chunk as Buffer)
    pendingBytes += (chunk as Buffer).length
    if (kept.length + pendingBytes < (before + stretch) * frameBytes) continue
    kept = Buffer.concat([kept, ...pending])
    pending = []
    pendingBytes = 0
    while (kept.length >= (before + stretch) * frameBytes) take(stretch)
  }
  const [code] = await ended as [number | null]
  kept = Buffer.concat([kept, ...pending])
  const left = Math.floor(kept.length / frameBytes) - before
  if (left > 0) take(left)
  if (code !== 0 || measures.length === 0) fail('audio-unreadable', `${name} cannot be decoded to its end. Make it again.`, name)
  return measures
}

/** Bytes of a file that are looked at together. */
const chunkBytes = 1 << 20

/** Whether all frames of an MP3 file have one bit rate. A first frame that only says how many there are is none of them. */
async function hasOneBitRate(path: string): Promise<boolean> {
  const file = await open(path)
  try {
    let at = await afterTag(file)
    const rates = new Set<number>()
    let first = true
    for (let chunk = Buffer.alloc(0), start = at; ;) {
      if (at + 4 > start + chunk.length) {
        const { bytesRead, buffer } = await file.read(Buffer.alloc(chunkBytes), 0, chunkBytes, at)
        chunk = buffer.subarray(0, bytesRead)
        start = at
      }
      const frame = mp3Frame(chunk, at - start)
      if (frame === null) return rates.size <= 1
      if (!first) rates.add(frame.kbps)
      first = false
      at += frame.bytes
    }
  } finally {
    await file.close()
  }
}

/** Where the audio begins behind an ID3v2 tag, whose size has seven bits a byte (ID3v2.3, 3.1). */
async function afterTag(file: Awaited<ReturnType<typeof open>>): Promise<number> {
  const { buffer } = await file.read(Buffer.alloc(10), 0, 10, 0)
  if (buffer.toString('latin1', 0, 3) !== 'ID3') return 0
  return 10 + (buffer[6]! << 21 | buffer[7]! << 14 | buffer[8]! << 7 | buffer[9]!)
}
