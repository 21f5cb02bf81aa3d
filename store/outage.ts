import { log } from './log'

const reminderMs = 60_000

/** Says in the log that something does not work just now: once when it begins, every minute while it goes on, and when it is over. */
export interface Outage {
  readonly failed: (error: unknown) => void
  readonly over: () => void
}

export function outage(what: string): Outage {
  let saidAt: number | null = null
  return {
    failed: error => {
      if (saidAt !== null && performance.now() - saidAt < reminderMs) return
      saidAt = performance.now()
      log.warn({ reason: error instanceof Error ? error.message : String(error) }, `${what} does not work just now; it is tried again`)
    },
    over: () => {
      if (saidAt !== null) log.info(`${what} works again`)
      saidAt = null
    },
  }
}
