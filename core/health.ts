/** What a look at one thing that the work needs has found. */
export interface Finding {
  readonly subject: string
  /** `poor`: the work goes on, but not for long or not as it should. `bad`: something cannot be done at all. */
  readonly state: 'good' | 'poor' | 'bad'
  /** A version, an amount, or what is wrong. */
  readonly found: string
  /** What to do; null when nothing is wrong. */
  readonly remedy: string | null
}

/** What a part of the installation says about itself; with a remedy where it works less well than it could. */
export type About = Pick<Finding, 'found' | 'remedy'>

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

/** Below the first, work stops soon; below the second, it is told in time. Takes need about 160 MB an hour of audio, files about 86. */
const scarceBytes = { bad: 300e6, poor: 3e9 }

/** Judges the free space of a disk, in bytes. */
export function spaceFinding(freeBytes: number, folder: string): Finding {
  const state = freeBytes < scarceBytes.bad ? 'bad' : freeBytes < scarceBytes.poor ? 'poor' : 'good'
  const remedy = state === 'good' ? null : 'Free some space: the Storage page shows what can go. An hour of narration needs about 250 MB.'
  return { subject: 'Free space', state, found: `${(freeBytes / 1e9).toFixed(1)} GB for ${folder}`, remedy }
}
