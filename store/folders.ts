import { piecesFolder } from '#takes/piece-file'

/** Where the files of an installation are in its storage. */
export const folders = {
  /** Packs of audio. */
  takes: 'takes',
  /** Files that came in, named by their SHA-256. */
  manuscripts: 'manuscripts',
  /** Pictures on covers, named by their SHA-256. */
  covers: 'covers',
  /** One folder for each delivery, named by its id. */
  deliveries: 'deliveries',
  /** Encoded pieces of tracks, named by their keys. */
  pieces: piecesFolder,
} as const

export const manuscriptFile = (sha256: string): string => `${folders.manuscripts}/${sha256}`

export const coverFile = (sha256: string): string => `${folders.covers}/${sha256}`

export const deliveryFolder = (id: string): string => `${folders.deliveries}/${id}`

export const deliveryFile = (id: string, name: string): string => `${deliveryFolder(id)}/${name}`
