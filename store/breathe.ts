import { setImmediate as turn } from 'node:timers/promises'

/** Longest stretch of computing, in ms, after which others have their turn. */
const longestMs = 15

/** For long work in the server: awaited between its steps, it lets what else there is to be answered be answered. One for each piece of work. */
export function breather(): () => Promise<void> {
  let began = performance.now()
  return async () => {
    if (performance.now() - began < longestMs) return
    await turn()
    began = performance.now()
  }
}
