import NodeID3 from 'node-id3'
import type { FileTags } from '#core/runsheet/run-sheet'

/** The tags of an MP3 file, ID3v2.3. */
export function id3Tags({ title, track, trackCount, album, author, language }: FileTags): Buffer {
  return NodeID3.create({
    title, album, language, trackNumber: `${track}/${trackCount}`,
    ...(author === '' ? {} : { artist: author }),
  })
}
