import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { runFfmpeg } from '../ffmpeg'
import { ffMetadata } from '../tags'
import { inTemporaryFolder } from '../temporary-folder'
import type { FileContents } from './format'

/** Packets that may wait while other inputs are read, too. With the few that ffmpeg lets wait by itself it sleeps most of the time. */
const manyWait = ['-thread_queue_size', '8192']

/** Puts a file together with ffmpeg, as its pieces are: `decoding` says what they are, `container` what the file is to be. */
export function mux({ pieces, cover, ...labels }: FileContents, decoding: readonly string[], container: readonly string[], path: string): Promise<void> {
  return inTemporaryFolder(async folder => {
    const [tags, picture] = [join(folder, 'tags.txt'), join(folder, 'cover')]
    await writeFile(tags, ffMetadata(labels))
    if (cover !== null) await writeFile(picture, cover.bytes)
    await runFfmpeg([
      ...manyWait, ...decoding, '-i', 'pipe:0', '-f', 'ffmetadata', '-i', tags, ...(cover === null ? [] : ['-f', 'image2pipe', '-i', picture]),
      '-map', '0:a', ...(cover === null ? [] : ['-map', '2:v', '-disposition:v:0', 'attached_pic']), '-map_metadata', '1', '-map_chapters', '1',
      '-c', 'copy', '-fflags', '+bitexact', ...container, '-y', path,
    ], Readable.from(pieces()))
  })
}
