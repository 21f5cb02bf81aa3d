import NodeID3 from 'node-id3'
import type { FileChapter } from '#core/delivery/manifest'
import type { CoverPicture, FileContents } from './formats/format'

/** A table of contents names so many at most (its count has one byte). */
const mostInTable = 255

/** Type of a picture: the front cover. */
const frontCover = 3

/** The tags of an MP3 file, ID3v2.3, with its chapters (ID3v2 Chapter Frame Addendum 1.0). The narrator is the composer (*common practice*). */
export function id3Tags({ tags, chapters, cover }: Pick<FileContents, 'tags' | 'chapters' | 'cover'>): Buffer {
  const { title, track, trackCount, album, author, albumAuthor = '', language, narrator, year, date = '', genre, disc, comment, copyright } = tags
  const given = (values: Readonly<Record<string, string>>): Record<string, string> => Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ''))
  return NodeID3.create({
    ...given({ title, album, language, trackNumber: `${track}/${trackCount}`, artist: author, performerInfo: albumAuthor, composer: narrator, year, date: dayAndMonth(date), genre, partOfSet: disc, copyright }),
    ...(comment === '' ? {} : { comment: { language, text: comment } }),
    ...(cover === null ? {} : { image: { mime: cover.mediaType, type: { id: frontCover, name: 'front cover' }, description: '', imageBuffer: cover.bytes } }),
    ...chapterTags(chapters),
  })
}

/** Of a date (YYYY-MM-DD) as ID3v2.3 has it beside the year: DDMM. */
const dayAndMonth = (date: string): string => date.slice(8, 10) + date.slice(5, 7)

function chapterTags(chapters: readonly FileChapter[]): Pick<NodeID3.Tags, 'chapter' | 'tableOfContents'> {
  if (chapters.length === 0) return {}
  const ids = chapters.map((_, index) => `chapter${index + 1}`)
  const tables: string[][] = []
  for (let from = 0; from < ids.length; from += mostInTable) tables.push(ids.slice(from, from + mostInTable))
  const table = (elementID: string, elements: string[]) => ({ elementID, isOrdered: true, elements })
  const subTables = tables.map((elements, index) => table(`table${index + 1}`, elements))
  return {
    chapter: chapters.map(({ title, startMs, endMs }, index) => ({ elementID: ids[index]!, startTimeMs: Math.round(startMs), endTimeMs: Math.round(endMs), tags: { title } })),
    tableOfContents: tables.length === 1 ? [table('contents', ids)] : [table('contents', subTables.map(({ elementID }) => elementID)), ...subTables],
  }
}

/** The tags of a file that ffmpeg puts together, in its own form of them; it writes those that the format knows. */
export function ffMetadata({ tags, chapters }: Pick<FileContents, 'tags' | 'chapters'>): string {
  const { title, track, trackCount, album, author, albumAuthor = author, language, narrator, year, date = year, genre, disc, comment, copyright } = tags
  const lines = [';FFMETADATA1']
  const add = (name: string, value: string): void => { if (value !== '') lines.push(`${name}=${value.replace(/[=;#\\\n]/gu, '\\$&')}`) }
  const values = { title, track: `${track}/${trackCount}`, disc, album, artist: author, album_artist: albumAuthor, composer: narrator, date, genre, comment, copyright, language }
  for (const [name, value] of Object.entries(values)) add(name, value)
  for (const chapter of chapters) {
    lines.push('[CHAPTER]', 'TIMEBASE=1/1000', `START=${Math.round(chapter.startMs)}`, `END=${Math.round(chapter.endMs)}`)
    add('title', chapter.title)
  }
  return `${lines.join('\n')}\n`
}

/** The tags of FLAC and Opus files (Vorbis comments; names of fields, chapters and pictures *common practice*). The last bit that Vorbis has behind them is not there. */
export function vorbisComments({ tags, chapters, cover }: Pick<FileContents, 'tags' | 'chapters' | 'cover'>): Buffer {
  const { title, track, trackCount, album, author, albumAuthor = '', language, narrator, year, date = year, genre, disc, comment, copyright } = tags
  const [discNumber = '', discTotal = ''] = disc.split('/')
  const fields = {
    TITLE: title, TRACKNUMBER: String(track), TRACKTOTAL: String(trackCount), DISCNUMBER: discNumber, DISCTOTAL: discTotal, ALBUM: album, ARTIST: author, ALBUMARTIST: albumAuthor, PERFORMER: narrator,
    DATE: date, GENRE: genre, LANGUAGE: language, COMMENT: comment, COPYRIGHT: copyright,
    ...Object.fromEntries(chapters.flatMap(({ title: name, startMs }, index) => {
      const key = `CHAPTER${String(index + 1).padStart(3, '0')}`
      return [[key, timeOf(startMs)], [`${key}NAME`, name]]
    })),
    METADATA_BLOCK_PICTURE: cover === null ? '' : pictureBlock(cover).toString('base64'),
  }
  const lines = Object.entries(fields).filter(([, value]) => value !== '').map(([name, value]) => counted(Buffer.from(`${name}=${value}`)))
  const count = Buffer.alloc(4)
  count.writeUInt32LE(lines.length)
  return Buffer.concat([counted(Buffer.from('Orator Quill')), count, ...lines])
}

const timeOf = (ms: number): string => new Date(Math.round(ms)).toISOString().slice(11, 23)

function counted(bytes: Buffer): Buffer {
  const length = Buffer.alloc(4)
  length.writeUInt32LE(bytes.length)
  return Buffer.concat([length, bytes])
}

const bitsOfPixel = 24

/** A picture as FLAC keeps it (RFC 9639, 8.8). */
export function pictureBlock({ mediaType, width, height, bytes }: CoverPicture): Buffer {
  const numbers = (...values: readonly number[]): Buffer => {
    const buffer = Buffer.alloc(values.length * 4)
    values.forEach((value, index) => buffer.writeUInt32BE(value, index * 4))
    return buffer
  }
  const type = Buffer.from(mediaType)
  const description = Buffer.alloc(0)
  return Buffer.concat([numbers(frontCover, type.length), type, numbers(description.length), numbers(width, height, bitsOfPixel, 0, bytes.length), bytes])
}
