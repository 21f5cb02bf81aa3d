/** The folder of a storage in which encoded pieces of tracks are. */
export const piecesFolder = 'pieces'

/** The file of an encoded piece, by its key: few files lie together. */
export const pieceFile = (key: string): string => `${piecesFolder}/${key.slice(0, 2)}/${key}`
