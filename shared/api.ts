import type { LanguageSource } from '#core/manuscript/manuscript'
import type { Finding } from '#core/health'
import type { Problem } from '#core/problem'
import type { Casting } from '#core/score/cast'
import type { Content } from '#core/script/content'
import type { PartKind, PassageKind } from '#core/script/script'
import type { HouseStyle } from '#core/style/house-style'

// What the server answers.

/**
 * `partly`: some of it is there, because a reading was stopped or it was listened to. `stale`: it was read, and its text, rests or voice have changed
 * since. `silent`: nothing in it can be spoken.
 */
export type PartState = 'unread' | 'beingRead' | 'partly' | 'read' | 'stale' | 'silent'

export interface PartSummary {
  readonly id: string
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
  readonly revision: number
  readonly words: number
  readonly sentences: number
  /** Utterances, and how many of them have no take. */
  readonly utterances: number
  readonly missing: number
  readonly durationMs: number
  /** False while some of the length is an estimate. */
  readonly exact: boolean
  readonly state: PartState
}

export interface ReadingStatus {
  readonly id: string
  readonly state: 'running' | 'stopped' | 'done'
  /** What stopped it, unless it was the user. */
  readonly problem: Problem | null
  readonly total: number
  readonly made: number
  readonly faults: number
  readonly totalMs: number
  readonly madeMs: number
  readonly elapsedMs: number
  /** Until all is read, at the pace so far; null before it can be told. */
  readonly leftMs: number | null
}

export interface ShelfEntry {
  readonly editionId: string
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly changedAt: string
  readonly parts: readonly PartSummary[]
  readonly deliveries: number
}

export interface Desk {
  readonly editionId: string
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly namePattern: string
  readonly fileName: string | null
  readonly houseStyle: HouseStyle
  readonly casting: Casting
  readonly parts: readonly PartSummary[]
  readonly reading: ReadingStatus | null
  /** What would probably be read wrong as a whole. */
  readonly warnings: readonly Problem[]
}

export interface PagePassage {
  readonly id: string
  readonly kind: PassageKind
  readonly content: Content
  readonly revision: number
}

/** An utterance as the page and the reel need it. */
export interface PageUtterance {
  readonly key: string
  readonly passageId: string
  readonly start: number
  readonly end: number
  readonly restBeforeMs: number
  readonly durationMs: number
  readonly read: boolean
}

/** Peaks of the waveform of each utterance that is read, 0…1, by its key. */
export type PagePeaks = Readonly<Record<string, readonly number[]>>

export interface Page {
  readonly part: PartSummary
  readonly passages: readonly PagePassage[]
  readonly utterances: readonly PageUtterance[]
}

export interface ManuscriptProposal {
  readonly id: string
  readonly fileName: string
  readonly format: string
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly languageSource: LanguageSource
  readonly levels: readonly { readonly level: number, readonly count: number }[]
  readonly level: number
  readonly parts: readonly ProposedPartView[]
}

export interface ProposedPartView {
  readonly label: string
  readonly words: number
  readonly durationMs: number
  readonly passages: readonly { readonly kind: PassageKind, readonly text: string }[]
  readonly passageCount: number
}

/** An utterance that could not be read. */
export interface FaultView {
  readonly key: string
  readonly partId: string
  readonly text: string
  readonly partLabel: string
  readonly problem: Problem
}

export interface ReadingDesk {
  readonly reading: ReadingStatus | null
  readonly faults: readonly FaultView[]
}

export interface VoiceView {
  readonly id: string
  readonly name: string
  readonly language: string
  readonly gender: 'female' | 'male' | 'unknown'
}

export interface VoicesView {
  readonly voices: readonly VoiceView[]
  readonly variants: readonly { readonly id: string, readonly name: string, readonly gender: string }[]
}

export interface RunSheetRow {
  readonly number: number
  readonly name: string
  readonly title: string
  readonly partId: string
  readonly durationMs: number
  readonly exact: boolean
  readonly bytes: number
  readonly missing: number
  /** Against the newest delivery that holds this part: `stale` when the file made now would differ. */
  readonly state: 'notRead' | 'ready' | 'delivered' | 'stale'
}

export interface DeliveryView {
  readonly id: string
  readonly number: number
  readonly state: 'running' | 'stopped' | 'done' | 'failed'
  readonly createdAt: string
  readonly fileCount: number
  readonly problem: Problem | null
  readonly files: readonly DeliveryFileView[]
}

/** How far a delivery is. */
export interface DeliveryProgress extends Pick<DeliveryView, 'id' | 'state' | 'fileCount' | 'problem'> {
  readonly made: number
}

export interface DeliveryFileView {
  readonly number: number
  readonly name: string
  readonly title: string
  readonly durationMs: number
  readonly bytes: number
  readonly stale: boolean
}

export interface DeliveryDesk {
  readonly rows: readonly RunSheetRow[]
  readonly deliveries: readonly DeliveryView[]
  readonly namePattern: string
}

/** A failure that a process has written in its log. */
export interface LoggedError {
  readonly at: string
  /** `server` or `worker`. */
  readonly process: string
  readonly message: string
  /** The request or the job it belongs to. */
  readonly request?: string
  readonly job?: string
}

export interface HealthReport {
  readonly findings: readonly Finding[]
  /** Newest first. */
  readonly errors: readonly LoggedError[]
}

export type StorageKindId = 'takes' | 'deliveries' | 'documents' | 'database'

export interface StorageKind {
  readonly id: StorageKindId
  readonly bytes: number
  /** What could go: takes that no script needs now, deliveries that are not the newest, documents that were never accepted. */
  readonly freeable: { readonly bytes: number, readonly count: number, readonly items: readonly string[] } | null
}

export interface StorageView {
  readonly freeBytes: number
  readonly kinds: readonly StorageKind[]
}

/** Body of every answer that is not a success. */
export interface ErrorBody {
  readonly problem: Problem
}

/** Answer 409 to operations: what is there now, for each thing that has changed since. */
export interface ConflictBody extends ErrorBody {
  readonly conflicts: readonly { readonly id: string, readonly revision: number, readonly content?: Content, readonly label?: string }[]
}

export interface OperationsAnswer {
  readonly revisions: Readonly<Record<string, number>>
}

/** What an edit did: changed text, or a part's name, presence or place, or put parts together or one in two. */
export type EditKind = 'text' | 'name' | 'inclusion' | 'order' | 'merge' | 'split'

/** What a window can undo and redo next. */
export interface EditHistory {
  readonly undo: EditKind | null
  readonly redo: EditKind | null
}

export interface UndoAnswer extends EditHistory {
  /** What was undone or redone; null when there was nothing. */
  readonly done: EditKind | null
  /** Where it is to be seen; null when no part is left to show. */
  readonly partId: string | null
  /** The passages whose text was changed, as they are now. */
  readonly passages: readonly PagePassage[]
}

/** A thing that was changed after the edit that was to be undone. */
export interface UndoConflict {
  readonly id: string
  readonly of: 'part' | 'passage'
  /** The text or name that would have been put back, and the one that is there; null where there is none. */
  readonly wanted: string | null
  readonly now: string | null
  /** To put a passage's text back all the same. */
  readonly content: Content | null
  readonly revision: number | null
}

/** Answer 409 to an undo or redo that meets a later change. */
export interface UndoConflictBody extends ErrorBody {
  readonly editId: string
  readonly conflicts: readonly UndoConflict[]
}
