import type { Block } from '#core/manuscript/manuscript'

/** A file as a reader gets it. */
export interface SourceFile {
  readonly name: string
  readonly bytes: Buffer
}

export interface ReadOptions {
  /** Name of a text encoding, when the user chose one. */
  readonly encoding?: string
}

/** What a reader finds. What the file does not say is null. */
export interface Reading {
  readonly title: string | null
  readonly author: string | null
  readonly language: string | null
  readonly blocks: readonly Block[]
}

/** One format. Throws `ProblemError` for a file it cannot read. */
export interface Reader {
  readonly format: string
  /** In messages: “a document (DOCX)”. */
  readonly label: string
  /** Goes into the reader's results wherever they are kept. */
  readonly version: number
  /** Whether the file is this reader's, by its content first and its name where content cannot tell. */
  readonly accepts: (file: SourceFile) => boolean
  readonly read: (file: SourceFile, options: ReadOptions) => Promise<Reading>
}

/** Largest file that is taken in. */
export const maximumFileBytes = 200 * 1024 * 1024

/** Most characters of text that make one production: about 180 hours of speech. */
export const maximumCharacters = 10_000_000

/** One line of white space for any run of it. */
export function collapse(text: string): string {
  return text.replace(/\s+/gu, ' ').trim()
}
