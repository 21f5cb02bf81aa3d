import type { VoicePrice } from '#core/estimate/price'
import type { Choices, Split } from '#core/manuscript/choices'
import type { ComparedState } from '#core/manuscript/compare'
import type { Divisible } from '#core/manuscript/divisions'
import type { TextEncoding } from '#core/manuscript/encodings'
import type { DropKind, LanguageSource, SourceUnit, TableColumns } from '#core/manuscript/manuscript'
import type { Problem } from '#core/problem'
import type { Casting, EngineId, Engines } from '#core/score/cast'
import type { FileMark } from '#core/runsheet/split'
import type { Content } from '#core/script/content'
import type { SpeakerLabel } from '#core/script/dialogue'
import type { Hit } from '#core/script/find'
import type { Decision } from '#core/script/decisions'
import type { DirectionValue } from '#core/script/directions'
import type { Part, PartAbout, PartKind, Passage, PassageKind } from '#core/script/script'
import type { PresetName } from '#core/style/presets'
import type { Rule } from '#core/style/rule'
import type { RuleKindName } from '#core/style/rules'
import type { HouseStyle } from '#core/style/house-style'
import type { WordEntry, Wordbook } from '#core/words/wordbook'

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
  readonly about: PartAbout | null
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
  /** What it makes of each part, while it runs: a sentence that comes again is made with the part where it comes first. */
  readonly parts: Readonly<Record<string, { readonly made: number, readonly total: number }>>
}

/** What a reading would make now. */
export interface ToRead {
  readonly sentences: number
  /** How often they come again: each is read once. */
  readonly repeats: number
  /** Of speech, about. */
  readonly ms: number
}

/** A production and its editions, the one made first before the others. */
export interface ProductionView {
  readonly id: string
  readonly title: string
  readonly editions: readonly { readonly id: string, readonly language: string }[]
}

export interface ShelfEntry {
  readonly productionId: string
  readonly editionId: string
  /** Editions of its production, this one among them. */
  readonly editions: number
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly changedAt: string
  readonly parts: readonly PartSummary[]
  readonly deliveries: number
  /** Why it cannot be put together; it has no parts then. */
  readonly problem: Problem | null
  /** It has changed and is put together again just now: its parts are as they were before, or not known yet. */
  readonly pending: boolean
}

/** An edition that was taken off the shelf. */
export interface RemovedEdition {
  readonly id: string
  readonly title: string
  readonly language: string
  readonly removedAt: string
  /** It goes for good then. */
  readonly keptUntil: string
}

export interface Desk {
  readonly editionId: string
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly fileName: string | null
  readonly houseStyle: HouseStyle
  readonly houseStyleId: string
  /** The narrator's. */
  readonly casting: Casting
  /** What the engines can do. */
  readonly engines: Engines
  /** The narrator first. */
  readonly roles: readonly RoleView[]
  /** In the order of their names. */
  readonly sounds: readonly SoundView[]
  /** Speaker labels that could become roles. */
  readonly speakers: readonly SpeakerLabel[]
  /** Languages (BCP 47) that there are voices for. */
  readonly languages: readonly string[]
  readonly parts: readonly PartSummary[]
  readonly reading: ReadingStatus | null
  /** What would probably be read wrong as a whole. */
  readonly warnings: readonly Problem[]
}

export interface PagePassage {
  readonly id: string
  readonly kind: PassageKind
  readonly level?: number
  readonly content: Content
  /** BCP 47, where it differs from the edition's. */
  readonly language: string | null
  /** Who speaks it; null for the narrator. */
  readonly role: string | null
  readonly revision: number
}

/** An utterance as the page and the reel need it: with the sounds before it, after the rest before these. */
export interface PageUtterance {
  readonly key: string
  readonly passageId: string
  readonly start: number
  readonly end: number
  /** Where it begins in its part. */
  readonly startMs: number
  readonly durationMs: number
  /** The silence that is heard before it: one, also around what says nothing. */
  readonly restBeforeMs: number
  /** A direction asks for it. */
  readonly restIsDirected: boolean
  readonly read: boolean
  /** Not read since it was changed; one that never was is only unread. */
  readonly stale: boolean
  /** Who speaks it; null for the narrator. */
  readonly role: string | null
}

/** A word of an utterance: its written span in the passage, and when it begins, in ms from the utterance's start. */
export interface SpokenWord {
  readonly start: number
  readonly end: number
  readonly ms: number
}

/** Peaks of the waveform of each utterance that is read, 0…1, by its key. */
export type PagePeaks = Readonly<Record<string, readonly number[]>>

export interface Page {
  readonly part: PartSummary
  readonly passages: readonly PagePassage[]
  readonly utterances: readonly PageUtterance[]
  /** What is announced before and after its text. */
  readonly announced: { readonly before: readonly string[], readonly after: readonly string[] }
  readonly said: readonly SaidPlace[]
  /** Where a file begins or goes on by hand, by the ids of passages. */
  readonly fileMarks: Readonly<Record<string, FileMark>>
}

/** A place of the written text that a wordbook or a rule speaks for, and how it is said. */
export interface SaidPlace {
  readonly passageId: string
  readonly start: number
  readonly end: number
  /** Words, letters, or IPA between slashes; empty for what is not spoken. */
  readonly as: string
  readonly by: 'word' | 'rule'
  /** A rest that a rule puts there; `start` and `end` are one place then. */
  readonly restMs?: number
}

/** A document on its way in. */
export interface ManuscriptView {
  readonly id: string
  readonly fileName: string
  readonly state: 'reading' | 'ready' | 'failed' | 'stopped'
  /** How far its reading is, 0…1. */
  readonly progress: number
  /** Documents that are read before it; 0 from when its reading has begun. */
  readonly ahead: number
  /** Why it could not be read. */
  readonly problem: Problem | null
  /** What was found, when it is ready. */
  readonly found: ManuscriptFound | null
}

export interface ManuscriptFound extends Divisible {
  readonly format: string
  readonly title: string
  readonly author: string | null
  readonly language: string
  readonly languageSource: LanguageSource
  /** Slides or articles; null for one running document. */
  readonly units: { readonly kind: SourceUnit['kind'], readonly count: number, readonly hidden: number } | null
  /** First and last page number; null without. */
  readonly pages: readonly [string, string] | null
  readonly footnotes: number
  readonly tables: number
  readonly images: number
  readonly columns: TableColumns | null
  /** Of a text whose bytes do not tell their encoding by themselves. */
  readonly encoding: TextEncoding | null
  readonly problems: readonly Problem[]
  readonly choices: Choices
}

export interface ManuscriptProposal {
  readonly parts: readonly ProposedPartView[]
  readonly dropped: readonly { readonly kind: DropKind, readonly count: number, readonly restored: number }[]
  readonly shown: ShownPart | null
}

/** Whether a pronunciation can be said. */
export interface Sayable {
  /** Why it cannot be; null when it can. */
  readonly reason: string | null
}

/** A way to say a word: as a language (BCP 47) says it, as another word is said, or letter by letter. */
export interface ProposedPronunciation {
  readonly by: 'language' | 'word' | 'letters'
  /** The language or the word. */
  readonly of: string | null
  readonly ipa: string
}

export interface Pronunciations {
  /** In IPA; empty where the engine does not tell. */
  readonly now: string
  readonly proposals: readonly ProposedPronunciation[]
}

/** What a house style would do to a document. */
export interface IntakeStyle {
  /** The one of its kind. */
  readonly usual: PresetName
  /** Most first. */
  readonly counts: readonly { readonly does: RuleKindName, readonly count: number }[]
}

export interface ProposedPartView {
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
  readonly block: number
  readonly words: number
  readonly durationMs: number
  readonly about: PartAbout | null
}

/** One part of a proposal to be looked at: what is read, and what is not, where it stands. */
export interface ShownPart {
  readonly index: number
  readonly rows: readonly ShownRow[]
  /** Rows beyond those that are sent. */
  readonly more: number
}

export type ShownRow =
  | { readonly of: 'passage', readonly kind: PassageKind, readonly text: string, readonly block: number | null, readonly language: string | null, readonly page: string | null }
  | { readonly of: 'drop', readonly id: string, readonly kind: DropKind, readonly text: string, readonly restored: boolean }

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
  readonly toRead: ToRead
}

export interface VoiceView {
  readonly engine: EngineId
  readonly id: string
  readonly name: string
  readonly language: string
  readonly gender: 'female' | 'male' | 'unknown'
  readonly warning?: string
  /** Of a paid voice, as its service calls it. */
  readonly tier?: string
  readonly price?: VoicePrice
}

export interface VoicesView {
  /** What the engines can do. */
  readonly engines: Engines
  readonly voices: readonly VoiceView[]
  readonly variants: readonly { readonly engine: EngineId, readonly id: string, readonly name: string, readonly gender: string }[]
}

export type StorageKindId = 'takes' | 'deliveries' | 'pieces' | 'documents' | 'database'

export interface StorageKind {
  readonly id: StorageKindId
  readonly bytes: number
  /** What could go: takes that no script needs now, deliveries that are not the newest, encoded pieces, documents that were never accepted. */
  readonly freeable: { readonly bytes: number, readonly count: number, readonly items: readonly string[] } | null
  /** Why it cannot be told what could go. */
  readonly problem: Problem | null
}

export interface StorageView {
  /** Room that there still is; null where that has no limit. */
  readonly freeBytes: number | null
  readonly kinds: readonly StorageKind[]
}

/** The account of a paid engine; its key is never told. */
export interface AccountView {
  readonly engine: EngineId
  readonly name: string
  /** Null where none is set up. */
  readonly address: string | null
}

export interface AccountsView {
  readonly accounts: readonly AccountView[]
  /** Address of the simulated service that runs beside the program; null where there is none. */
  readonly simulated: string | null
}

/** What a service says of itself. */
export interface AccountCheck {
  readonly found: string
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
  /** Of a replacement. `refused`: values that the new text is no value of. */
  readonly replaced?: { readonly count: number, readonly passages: number, readonly refused: number }
}

/** Hits of a search, in the order of the script. */
export interface FindView {
  readonly count: number
  readonly passages: number
  /** The first of them. */
  readonly hits: readonly FindHit[]
}

export interface FindHit extends Hit {
  readonly partId: string
  readonly part: string
  readonly passageId: string
  readonly revision: number
}

/** An entry of a wordbook. */
export interface WordView {
  readonly entry: WordEntry
  readonly shared: boolean
  /** Of a reading that is one of sounds. */
  readonly ipa: string | null
  /** Places of the script where it counts. */
  readonly uses: number
  /** Another entry of its wordbook speaks for the same word. */
  readonly conflict: boolean
}

export interface WordsView {
  readonly words: readonly WordView[]
}

/** A house style, and how many productions have it. */
export interface HouseStyleSummary {
  readonly id: string
  readonly name: string
  readonly productions: number
}

/** All that rules and census look at: the script, and what has been decided. */
export interface WordsMaterial {
  readonly language: string
  readonly parts: readonly (Omit<Part, 'passages'> & { readonly passages: readonly (Passage & { readonly revision: number })[] })[]
  readonly rules: readonly Rule[]
  readonly wordbooks: readonly Wordbook[]
  readonly decisions: readonly { readonly id: string, readonly decision: Decision }[]
}

/** Why a place of the text is said as it is. */
export interface WhyView {
  readonly written: string
  /** What directions, wordbooks and rules did there, in order. */
  readonly steps: readonly WhyStep[]
  readonly spoken: string
  /** What the engine is given, without the elements around it. */
  readonly sent: string
  /** How its voice reads that by itself, in IPA; null where it cannot be asked. */
  readonly ipa: string | null
}

export interface WhyStep {
  readonly by: 'direction' | 'word' | 'rule'
  readonly id: string
  /** Kind of the direction or rule, or the entry's written form. */
  readonly name: string
  readonly from: string
  readonly to: string
  /** Rests and ways of saying that came with it. */
  readonly restMs?: number
  readonly how?: readonly DirectionValue[]
}

/** What came of a wordbook that was brought in. */
export interface WordImport {
  readonly added: number
  readonly problems: readonly { readonly line: number, readonly column: number, readonly message: string }[]
}

/** A sound of the library, and at how many places the script plays it. */
export interface SoundView {
  readonly id: string
  readonly name: string
  readonly durationMs: number
  readonly uses: number
}

/** A role of the cast, and how many passages and stretches it speaks. */
export interface RoleView {
  readonly id: string
  readonly name: string
  readonly casting: Casting
  readonly passages: number
}

/** What an edit did: changed text, or a part's name, presence or place, put parts together or one in two, divided the script anew, took over a new version of the manuscript, or changed rests of the house style or an entry of a wordbook, or chose a house style. */
export type EditKind = 'text' | 'name' | 'inclusion' | 'order' | 'merge' | 'split' | 'division' | 'version' | 'passage' | 'passages' | 'dialogue' | 'replacement' | 'style' | 'word' | 'decision' | 'take' | 'houseStyle'

/** A new version of the manuscript beside the script. */
export interface ComparisonView {
  readonly fileName: string
  readonly counts: Readonly<Record<ComparedState, number>>
  readonly conflicts: number
  /** All that is not the same, each with the part it is in. */
  readonly rows: readonly ComparedRow[]
}

export interface ComparedRow {
  readonly state: Exclude<ComparedState, 'same'>
  readonly conflict: boolean
  /** Of the script's passage; null for a new one. */
  readonly passageId: string | null
  readonly part: string
  /** As it came in before, as it is in the script, and as it comes in now; null where there is none. */
  readonly before: string | null
  readonly written: string | null
  readonly after: string | null
}

/** What a script would be divided into, and what it can be divided by. */
export interface DivisionView extends Pick<ManuscriptFound, 'levels' | 'patterns' | 'rules' | 'gaps' | 'units'> {
  readonly split: Split
  readonly parts: readonly { readonly label: string, readonly words: number, readonly isNew: boolean }[]
}

/** An edit, and what it was about: an entry of the wordbook, a rest, a part, the beginning of a text. */
export interface EditStep {
  readonly kind: EditKind
  readonly subject: string | null
}

/** What a window can undo and redo next. */
export interface EditHistory {
  readonly undo: EditStep | null
  readonly redo: EditStep | null
}

export interface UndoAnswer extends EditHistory {
  /** What was undone or redone; null when there was nothing. */
  readonly done: EditStep | null
  /** Where it is to be seen; null when no part is left to show. */
  readonly partId: string | null
  /** The passages whose text was changed, as they are now. */
  readonly passages: readonly PagePassage[]
}

/** A thing that was changed after the edit that was to be undone. */
export interface UndoConflict {
  readonly id: string
  readonly of: 'part' | 'passage' | 'style' | 'word' | 'decision' | 'choice' | 'edition'
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
