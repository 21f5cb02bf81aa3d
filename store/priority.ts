import { writeFileSync } from 'node:fs'
import { setPriority } from 'node:os'

/**
 * Lets this process, which must be the first of a session, and all that it starts yield to others by so much (1…19). Linux shares processors between sessions first, and
 * between the processes of each one after that: so the session has to yield too.
 */
export function yieldBy(priority: number): void {
  setPriority(priority)
  try {
    writeFileSync('/proc/self/autogroup', String(priority))
  } catch {
    // A system that shares processors between processes only: then the first line is enough.
  }
}
