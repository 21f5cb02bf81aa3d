import type { WorkCover } from './details'
import type { Manifest } from './manifest'

/** Names of what lies beside the audio files of a delivery. */
export const manifestName = 'manifest.json'
export const playlistName = 'playlist.m3u8'
export const checksumsName = 'SHA256SUMS'

/** The name of a cover as a file. */
export const coverName = ({ mediaType }: Pick<WorkCover, 'mediaType'>): string => mediaType === 'image/png' ? 'cover.png' : 'cover.jpg'

/** What a delivery can have beside its audio files, besides its checksums and `manifest.json`. */
export const extras = { playlist: 'playlist', cueSheets: 'cue sheets', cover: 'cover as a file' } as const
export type Extra = keyof typeof extras
export const extraNames = Object.keys(extras) as readonly Extra[]

export const isCover = (name: string): boolean => name === 'cover.png' || name === 'cover.jpg'

/** Whether a file of a delivery is one of those that lie beside its audio files. */
export const isBeside = (name: string): boolean => name === playlistName || name === manifestName || name === checksumsName || /^playlist(?:-\d{1,6})?\.cue$/u.test(name) || isCover(name)

/** A sheet has so many tracks at most: their numbers have two figures. */
const mostTracks = 99

/** A second of a cue sheet has so many frames. */
const cueFrames = 75

/**
 * Cue sheets of the files in order: a track for each, or for each of its chapters where it has some. What is more than 99 tracks goes on in another sheet. (The form is *common practice*, from memory;
 * every kind of file but MP3 is called `WAVE` in it.)
 */
export function cueSheets({ title, author, files }: Pick<Manifest, 'title' | 'files'> & { readonly author: string | null }): { name: string, text: string }[] {
  const tracks = files.flatMap(({ name, title: fileTitle, chapters }) =>
    (chapters.length === 0 ? [{ title: fileTitle, startMs: 0 }] : chapters).map(chapter => ({ file: name, title: chapter.title, startMs: chapter.startMs })))
  const sheets: { name: string, text: string }[] = []
  for (let from = 0; from < tracks.length; from += mostTracks) {
    const lines = [...(author === null ? [] : [`PERFORMER ${quoted(author)}`]), `TITLE ${quoted(title)}`]
    tracks.slice(from, from + mostTracks).forEach((track, index, inSheet) => {
      if (track.file !== inSheet[index - 1]?.file) lines.push(`FILE ${quoted(track.file)} ${track.file.endsWith('.mp3') ? 'MP3' : 'WAVE'}`)
      lines.push(`  TRACK ${String(index + 1).padStart(2, '0')} AUDIO`, `    TITLE ${quoted(track.title)}`, `    INDEX 01 ${cueTime(track.startMs)}`)
    })
    sheets.push({ name: tracks.length <= mostTracks ? 'playlist.cue' : `playlist-${from / mostTracks + 1}.cue`, text: `${lines.join('\n')}\n` })
  }
  return sheets
}

/** Nothing stands for a quotation mark within others. */
const quoted = (text: string): string => `"${oneLine(text).replaceAll('"', '\'')}"`

/** Minutes, seconds, and frames. */
function cueTime(ms: number): string {
  const frames = Math.floor(ms * cueFrames / 1000)
  const two = (value: number): string => String(value).padStart(2, '0')
  return [Math.floor(frames / cueFrames / 60), Math.floor(frames / cueFrames) % 60, frames % cueFrames].map(two).join(':')
}

/** A playlist of the files in order (M3U, in UTF-8; its `#EXT` lines are *common practice*). */
export function playlist({ title, files }: Manifest): string {
  const lines = files.flatMap(file => [`#EXTINF:${(file.durationMs / 1000).toFixed(3)},${oneLine(file.title)}`, lineOf(file.name)])
  return `${['#EXTM3U', `#PLAYLIST:${oneLine(title)}`, ...lines].join('\n')}\n`
}

/** A line that begins with a hash would be a comment. */
const lineOf = (name: string): string => name.startsWith('#') ? `./${name}` : name

const oneLine = (text: string): string => text.replace(/\s+/gu, ' ').trim()

interface Summed {
  readonly name: string
  /** Hex. */
  readonly sha256: string
}

/** Checksums as `sha256sum -c` reads them. Names of a delivery need no escaping. */
export function checksums(files: readonly Summed[]): string {
  return files.map(({ name, sha256 }) => `${sha256}  ${name}\n`).join('')
}

/** The files that a list of checksums names. */
export function checksumsOf(text: string): Summed[] {
  return text.split('\n').flatMap(line => {
    const [, sha256, name] = /^([0-9a-f]{64}) [ *](.+)$/u.exec(line) ?? []
    return sha256 === undefined || name === undefined ? [] : [{ name, sha256 }]
  })
}
