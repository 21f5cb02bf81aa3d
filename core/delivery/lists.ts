import type { Manifest } from './manifest'

/** Names of what lies beside the audio files of a delivery. */
export const manifestName = 'manifest.json'
export const playlistName = 'playlist.m3u8'
export const checksumsName = 'SHA256SUMS'

/** What lies beside the audio files, in the order in which it is written. */
export const besideFiles = [playlistName, manifestName, checksumsName] as const

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
