/** How long a process may take to end in good order when its supervisor is gone, ms. */
const patienceMs = 5_000

/**
 * Ends this process, with all that it has started, when the supervisor that started it is gone: its standard input, a pipe that only the
 * supervisor holds, ends then. Without a supervisor (`QUILL_SUPERVISED`) nothing happens.
 */
export function endWithSupervisor(): void {
  if (process.env['QUILL_SUPERVISED'] === undefined) return
  const end = (): void => {
    process.kill(process.pid, 'SIGTERM')
    // The supervisor made it the leader of a group of its own.
    setTimeout(() => process.kill(-process.pid, 'SIGKILL'), patienceMs)
  }
  process.stdin.once('end', end).once('error', end).resume()
}
