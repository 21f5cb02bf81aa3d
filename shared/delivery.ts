import type { DeliveryChanges } from '#core/delivery/compare'
import type { FileLevels, Finding } from '#core/delivery/conformance'
import type { WorkCover, WorkDetails } from '#core/delivery/details'
import type { FileSplit } from '#core/delivery/file-split'
import type { Extra } from '#core/delivery/lists'
import type { NameRules } from '#core/delivery/naming'
import type { DeliveryProfile } from '#core/delivery/profile'
import type { Concession, ConformanceReport } from '#core/delivery/report'
import type { Problem } from '#core/problem'
import type { Announcements } from '#core/script/announcements'
import type { PassageKind } from '#core/script/script'

// What the server answers about run sheets and deliveries.

export interface RunSheetRow {
  /** Tells it from the other files, also after others have changed. */
  readonly key: string
  readonly number: number
  /** The number as it is in its name. */
  readonly label: string
  readonly name: string
  readonly title: string
  /** Places in the script of the parts it holds: *3*, *3–7*. */
  readonly parts: string
  /** Where it begins. */
  readonly partId: string
  readonly passageId: string
  /** It could be joined with the file before: it begins neither within a passage nor beside an announcement with a file of its own. */
  readonly canGoOn: boolean
  /** How many it holds. */
  readonly passages: number
  readonly durationMs: number
  readonly exact: boolean
  readonly bytes: number
  readonly missing: number
  /** Against the newest file that begins here: `stale` when the file made now would differ, `damaged` when the file on the disk does. */
  readonly state: 'notRead' | 'ready' | 'delivered' | 'stale' | 'damaged'
  /** Of the newest file, where it is what would be made now; null otherwise, and for one of an earlier version. */
  readonly levels: FileLevels | null
  readonly findings: readonly Finding[] | null
}

export interface DeliveryView {
  readonly id: string
  readonly number: number
  /** Name of the profile that it is made to. */
  readonly profile: string
  readonly state: 'running' | 'stopped' | 'done' | 'failed'
  readonly createdAt: string
  readonly fileCount: number
  /** It has some of the files only. */
  readonly partial: boolean
  readonly problem: Problem | null
  /** It is handed over although files of it do not keep their profile. */
  readonly concession: Concession | null
  readonly files: readonly DeliveryFileView[]
}

/** The report of a delivery, and what is needed to act upon it. */
export interface DeliveryReportView {
  readonly report: ConformanceReport
  /** The parts of passages that the report has places in, as far as they are still there. */
  readonly partOf: Readonly<Record<string, string>>
  /** Finished deliveries before it that it can be compared with, newest first: those of the same profile, and then the others. */
  readonly earlier: readonly Pick<DeliveryView, 'id' | 'number' | 'profile' | 'createdAt'>[]
}

/** What a delivery has otherwise than an earlier one. */
export interface DeliveryChangesView extends DeliveryChanges {
  /** Number of the earlier one. */
  readonly since: number
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
  /** Measured of the finished file; null for one of an earlier version. */
  readonly levels: FileLevels | null
  /** What of its profile it does not keep; null for one of an earlier version. */
  readonly findings: readonly Finding[] | null
  /** What has happened to it on the disk. */
  readonly damage: FileDamage | null
}

/** `altered`: it is not what was delivered any more. */
export type FileDamage = 'altered' | 'missing'

export interface DeliveryDesk {
  readonly rows: readonly RunSheetRow[]
  readonly deliveries: readonly DeliveryView[]
  readonly namePattern: string
  readonly nameRules: NameRules
  /** They are the edition's, not the profile's. */
  readonly areOwnNames: boolean
  /** What lies beside the files, besides checksums and `manifest.json`. */
  readonly extras: readonly Extra[]
  /** The name of one that comes with the program, or the id of one that was made here. */
  readonly profile: string
  readonly split: FileSplit
  /** It is the edition's, not the profile's. */
  readonly isOwnSplit: boolean
  readonly announcements: Announcements
  /** They are the edition's, not the profile's. */
  readonly isOwnAnnouncements: boolean
  /** Labels of the parts whose own title says what their announcement has said. */
  readonly doubled: readonly string[]
  readonly details: WorkDetails
  readonly cover: WorkCover | null
  /** Levels of headings that files can begin at. */
  readonly levels: readonly number[]
  /** How many marks are set by hand. */
  readonly marks: number
}

/** A profile that was made here. */
export interface OwnProfile {
  readonly id: string
  readonly profile: DeliveryProfile
}

/** A passage of a file, for whoever divides it by hand. */
export interface FilePassage {
  readonly id: string
  readonly partId: string
  readonly kind: PassageKind
  readonly title: string
  readonly durationMs: number
}
