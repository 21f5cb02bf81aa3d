import type { TextEncoding } from '#core/manuscript/encodings'
import type { Block, ColumnRole, SourceUnit, TableColumns } from '#core/manuscript/manuscript'
import type { Problem } from '#core/problem'
import { afterProlog } from '#core/script/xml-prolog'
import type { Archive } from './archive'

/** A file as a reader gets it; `archive` when it is a ZIP container or a folder. */
export interface SourceFile {
  readonly name: string
  readonly bytes: Buffer
  readonly archive: Archive | null
}

export interface ReadOptions {
  /** Name of a text encoding, when the user chose one. */
  readonly encoding?: string
  /** Of a table, when the user chose it. */
  readonly delimiter?: string
  /** Which column of a table is what, by the columns' names, when the user chose it. */
  readonly columns?: Readonly<Partial<Record<ColumnRole, string>>>
  /** Program that threads of this process can run to read pages (`page-threads.ts`); without it they are read one after the other. */
  readonly threadProgram?: string
  /** Told how far the reading is, 0…1, by the formats that take long. */
  readonly onProgress?: (share: number) => void
}

/** What a reader finds. What the file does not say is null. */
export interface Reading {
  readonly title: string | null
  readonly author: string | null
  readonly language: string | null
  readonly date?: string | null
  /** What the file leaves at a program's own setting: believed only when the text agrees. */
  readonly languageHint?: string | null
  readonly blocks: readonly Block[]
  readonly units?: readonly SourceUnit[]
  readonly problems?: readonly Problem[]
  readonly columns?: TableColumns
  /** Of a text whose bytes do not tell it by themselves. */
  readonly encoding?: TextEncoding | undefined
}

/** One format. Throws `ProblemError` for a file it cannot read. */
export interface Reader {
  readonly format: string
  /** In messages: “a document (DOCX)”. */
  readonly label: string
  /** With the dot, in lower case; what a file dialog offers. */
  readonly extensions: readonly string[]
  /** Goes into the reader's results wherever they are kept. */
  readonly version: number
  /** Whether the file is this reader's, by its content first and its name where content cannot tell. */
  readonly accepts: (file: SourceFile) => boolean | Promise<boolean>
  readonly read: (file: SourceFile, options: ReadOptions) => Promise<Reading>
}

/** Largest file that is taken in. */
export const maximumFileBytes = 200 * 1024 * 1024

/** Most characters of text that make one production: about 180 hours of speech. */
export const maximumCharacters = 10_000_000

/** The root element of a file that is XML or HTML, with what follows at once; empty where nothing begins one. */
export function rootOf(file: SourceFile): string {
  const text = file.bytes.subarray(0, mostProlog).toString('latin1').replace(/\u0000/gu, '').replace(/^\u00ef\u00bb\u00bf/u, '')
  const at = afterProlog(text)
  return text.slice(at, at + 200)
}

/** What may stand before it, at most. */
const mostProlog = 64 * 1024

/** The beginning of a file as ASCII, for the signs of formats that are text. */
export function beginning({ bytes }: SourceFile): string {
  return bytes.subarray(0, 4096).toString('latin1').replace(/^\u00ef\u00bb\u00bf/u, '').replace(/\u0000/gu, '').trimStart()
}
