/** Where a file begins. */
export type FileSplitBy =
  /** A part; a slide with its hints; a passage; a sentence; or only where a mark says so, or a length. */
  | { readonly by: (typeof simpleSplits)[number] }
  /** Headings of this level and above, and parts. */
  | { readonly by: 'heading', readonly level: number }
  /** Where so many lines of the source are empty, and parts. */
  | { readonly by: 'emptyLines', readonly lines: number }

/** How a script is divided into files. */
export interface FileSplit {
  readonly where: FileSplitBy
  /** Files are about so long: cut at the passage that is nearest, else at the nearest sentence end; ms. */
  readonly aboutMs: number | null
  /** No file is longer than this, with its margins, if its sentences allow it; ms. */
  readonly longestMs: number | null
  /** Nor larger; bytes. */
  readonly largestBytes: number | null
}

/** Kinds that need no number. */
export const simpleSplits = ['part', 'slide', 'passage', 'sentence', 'whole'] as const
export const largestHeading = 9
export const mostEmptyLines = 20
export const leastLengthMs = 10_000
export const leastBytes = 100_000

export const defaultSplit: FileSplit = { where: { by: 'part' }, aboutMs: null, longestMs: null, largestBytes: null }
