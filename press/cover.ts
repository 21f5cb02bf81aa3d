import { execFile } from 'node:child_process'
import { open, stat } from 'node:fs/promises'
import { promisify } from 'node:util'
import type { WorkCover } from '#core/delivery/details'
import { fail } from '#core/problem'
import { sha256OfFile } from '#takes/sha256'

/** Largest picture, bytes: larger ones are refused by players (*common practice*). */
const mostBytes = 10 * 1024 * 1024
const mostPixels = 10_000

/** By the first bytes of a file. */
const kinds = [
  { begin: Buffer.from([0xff, 0xd8, 0xff]), mediaType: 'image/jpeg', reader: 'jpeg_pipe' },
  { begin: Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), mediaType: 'image/png', reader: 'png_pipe' },
] as const

/** Looks at a picture that is to be a cover: it must be a JPEG or a PNG that can be decoded. Rejects with a problem that names the file. */
export async function examineCover(path: string, fileName: string): Promise<WorkCover> {
  const { size: bytes } = await stat(path)
  const kind = await kindOf(path)
  if (kind === undefined) fail('cover-unreadable', `${fileName} is neither a JPEG nor a PNG picture. Save it as one of these.`)
  if (bytes > mostBytes) fail('cover-too-large', `${fileName} has ${(bytes / 1024 / 1024).toFixed(1)} MB; a cover may have ${mostBytes / 1024 / 1024}. Save it smaller.`)
  const broken = (): never => fail('cover-unreadable', `${fileName} is damaged: the picture cannot be decoded. Save it anew.`)
  const { stdout } = await promisify(execFile)('ffprobe', [
    '-v', 'error', '-f', kind.reader, '-count_frames', '-select_streams', 'v:0', '-show_entries', 'stream=width,height,nb_read_frames', '-of', 'json', path,
  ]).catch(broken)
  const [stream] = (JSON.parse(stdout) as { streams?: readonly { readonly width?: number, readonly height?: number, readonly nb_read_frames?: string }[] }).streams ?? []
  const { width = 0, height = 0 } = stream ?? {}
  if (stream?.nb_read_frames !== '1' || width === 0 || height === 0) broken()
  if (Math.max(width, height) > mostPixels) fail('cover-too-large', `${fileName} has ${width} × ${height} pixels; a cover may have ${mostPixels} on a side. Save it smaller.`)
  return { sha256: await sha256OfFile(path), mediaType: kind.mediaType, width, height, bytes }
}

async function kindOf(path: string): Promise<(typeof kinds)[number] | undefined> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(16), 0, 16, 0)
    return kinds.find(({ begin }) => buffer.subarray(0, Math.min(bytesRead, begin.length)).equals(begin))
  } finally {
    await file.close()
  }
}
