import { Readable } from 'node:stream'
import { renderTrack, type Track } from '#core/audio/track'
import type { DeliveryProfile } from '#core/delivery/profile'
import type { FileTags } from '#core/runsheet/run-sheet'
import { runFfmpeg } from './ffmpeg'

/**
 * Encodes a track into a file with tags (ID3v2.3). The file is written in place, because its header holds
 * the exact length, which decoders need to give back exactly the samples that went in.
 */
export async function encodeTrack(
  track: Track, load: (key: string) => Promise<Int16Array>, profile: DeliveryProfile, tags: FileTags, path: string,
): Promise<void> {
  await runFfmpeg([
    '-f', 's16le', '-ar', String(track.sampleRate), '-ac', '1', '-i', 'pipe:0',
    '-map_metadata', '-1',
    '-metadata', `title=${tags.title}`,
    '-metadata', `track=${tags.track}/${tags.trackCount}`,
    '-metadata', `album=${tags.album}`,
    ...(tags.author === '' ? [] : ['-metadata', `artist=${tags.author}`]),
    '-metadata', `language=${tags.language}`,
    '-id3v2_version', '3', '-write_id3v1', '0',
    '-ar', String(profile.sampleRate), '-ac', '1',
    '-c:a', 'libmp3lame', '-b:a', `${profile.bitRateKbps}k`,
    '-f', 'mp3', '-y', path,
  ], Readable.from(bytesOf(renderTrack(track, load)), { objectMode: false, highWaterMark: 1 << 18 }))
}

async function* bytesOf(stretches: AsyncIterable<Int16Array>): AsyncGenerator<Buffer> {
  for await (const samples of stretches) yield Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
}
