import type { Problem } from '../problem'
import type { Content } from '../script/content'
import type { PassageKind } from '../script/script'
import type { TextEncoding } from './encodings'

/** What a reader makes of a file: its blocks in reading order, those that are not read among them, nothing decided about parts yet. */
export interface Manuscript {
  readonly format: string
  readonly title: string | null
  readonly author: string | null
  /** BCP 47, when the file declares it; what it is detected to be otherwise. */
  readonly language: string
  readonly languageSource: LanguageSource
  /** Slides or articles that the blocks belong to; empty for one running document. */
  readonly units: readonly SourceUnit[]
  readonly blocks: readonly Block[]
  /** What could not be taken in as it is, with its place. */
  readonly problems: readonly Problem[]
  /** How the columns of a table were understood; only for tables. */
  readonly columns?: TableColumns
  /** How the text was decoded, where its bytes do not tell. */
  readonly encoding?: TextEncoding
}

/** `assumed`: there was too little text to tell. */
export type LanguageSource = 'chosen' | 'declared' | 'detected' | 'assumed'

/** One slide of a deck, or one article of a batch. */
export interface SourceUnit {
  readonly kind: 'slide' | 'article'
  readonly label: string
  readonly hidden?: boolean
  readonly author?: string
  /** As the source gives it, ISO 8601 where it could be understood. */
  readonly date?: string
  /** Address or file that it comes from. */
  readonly source?: string
}

/** What the columns of a table are taken for, with a few rows to judge it by. */
export interface TableColumns {
  readonly delimiter: string
  readonly names: readonly string[]
  readonly mapping: { readonly [role in ColumnRole]?: string | undefined }
  readonly sample: readonly (readonly string[])[]
}

export const columnRoles = ['title', 'author', 'date', 'body', 'source'] as const
export type ColumnRole = (typeof columnRoles)[number]

/** Why something of a file is not read. */
export const dropKinds = [
  'hidden', 'deleted', 'comment', 'contents', 'running-head', 'page-number', 'link-target', 'footnote', 'footnote-mark',
  'code', 'navigation', 'image', 'table', 'front-matter', 'slide-text', 'notes', 'title-page', 'heading-number',
] as const
export type DropKind = (typeof dropKinds)[number]

/** Text that stands within a block in the file and is not read. */
export interface Cut {
  readonly kind: DropKind
  /** Where it stood in the block's text. */
  readonly at: number
  readonly text: string
}

/** The mark of a footnote or endnote within a block. */
export interface NoteMark {
  readonly at: number
  readonly note: string
}

export interface Block {
  readonly kind: Exclude<PassageKind, 'title'>
  readonly text: string
  /** 1…9 for headings, 0 for a document's title; absent otherwise. */
  readonly level?: number
  /** BCP 47, where it differs from the document's. */
  readonly language?: string
  /** The whole block is not read, unless it is restored. */
  readonly dropped?: DropKind
  /** In order of their places. */
  readonly cuts?: readonly Cut[]
  readonly emphasis?: readonly (readonly [start: number, end: number])[]
  /** The text with its directions, where the file has them. */
  readonly content?: Content
  /** Name of the role that speaks it. */
  readonly role?: string
  readonly marks?: readonly NoteMark[]
  /** The footnote or endnote whose text this block is. */
  readonly note?: string
  /** The page that begins at this block, as it is numbered there. */
  readonly page?: string
  /** What separates it from the block before; a rule is also the ornament of a scene break. */
  readonly after?: 'rule' | 'page'
  /** Empty lines before it, from 2 on. */
  readonly emptyLines?: number
  /** Index in `units`. */
  readonly unit?: number
  /** In a deck: what is said, or what is shown. */
  readonly layer?: 'notes' | 'slide'
  /** Of a table row. `columns` names its cells, on every row but the header. */
  readonly cells?: readonly string[]
  readonly columns?: readonly string[]
  /** The file's own contents list begins an entry here. */
  readonly entry?: { readonly label: string, readonly level: number }
  /** It belongs to the document's title: a part of nothing else is not read. */
  readonly titlePage?: boolean
  /** The file says that this is front or back matter that is not the text itself. */
  readonly matter?: Matter
}

/** Front and back matter. All but a dedication is proposed to be left out. */
export type Matter = 'contents' | 'copyright' | 'index' | 'notes' | 'dedication'

/** Letters, figures and symbols can be spoken; a block of punctuation alone cannot. */
export function isSpeakable(text: string): boolean {
  return /[\p{L}\p{N}\p{S}]/u.test(text)
}

/** What parts scenes: asterisks and ornaments by themselves, dashes and dots three and more (*common practice*). */
const ornament = /^\s*(?:[*∗⁂❦❧☙✻✼✽❖✦◆◇](?:\s*[*∗⁂❦❧☙✻✼✽❖✦◆◇]){0,20}|[#~](?:\s*[#~]){0,60}|[-–—_=•·○●■□](?:\s*[-–—_=•·○●■□]){2,60})\s*$/u

/** Whether a text is nothing but the sign of a scene break. */
export function isOrnament(text: string): boolean {
  return text.length <= 200 && ornament.test(text)
}

/** Whether a block says something, holds what could be read, or parts scenes: readers leave all others out. */
export function isOfUse({ kind, text, cuts }: Pick<Block, 'kind' | 'text' | 'cuts'>): boolean {
  return kind === 'sceneBreak' || isSpeakable(text) || cuts !== undefined || isOrnament(text)
}

/** Words of a text as a producer counts them: pieces between spaces that hold a letter or figure. */
export function countWords(text: string): number {
  let words = 0
  for (const piece of text.split(/\s+/u)) if (/[\p{L}\p{N}]/u.test(piece)) words += 1
  return words
}
