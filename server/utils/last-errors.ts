import { open } from 'node:fs/promises'
import { join } from 'node:path'
import type { LoggedError } from '#core/health'

const readBytes = 256 * 1024
const most = 20

interface Entry {
  readonly level?: string
  readonly time?: string
  readonly msg?: string
  readonly err?: { readonly message?: string }
  readonly request?: string
  readonly job?: string
}

/** The newest errors in the logs of server and worker, newest first. None when there are no logs in that folder. */
export async function lastErrors(folder: string | undefined): Promise<LoggedError[]> {
  if (folder === undefined) return []
  const found = await Promise.all(['server', 'worker'].map(async name => {
    const lines = (await end(join(folder, `${name}.log`))).split('\n')
    return lines.flatMap(line => {
      const entry = parsed(line)
      return entry?.level === 'error' || entry?.level === 'fatal' ? logged(name, entry) : []
    })
  }))
  return found.flat().sort((a, b) => b.at.localeCompare(a.at)).slice(0, most)
}

function logged(process: string, { time = '', msg = '', err, request, job }: Entry): LoggedError {
  return {
    at: time, process, message: err?.message === undefined ? msg : `${msg}: ${err.message.slice(0, 300)}`,
    ...(request === undefined ? {} : { request }), ...(job === undefined ? {} : { job }),
  }
}

/** Null for a line that some program wrote in a form of its own. */
function parsed(line: string): Entry | null {
  try {
    return line.startsWith('{') ? JSON.parse(line) as Entry : null
  } catch {
    return null
  }
}

/** The last part of a file; empty when it is not there. */
async function end(path: string): Promise<string> {
  const file = await open(path).catch(() => null)
  if (file === null) return ''
  try {
    const { size } = await file.stat()
    const from = Math.max(0, size - readBytes)
    const { buffer, bytesRead } = await file.read(Buffer.alloc(Math.min(size, readBytes)), 0, undefined, from)
    return buffer.subarray(0, bytesRead).toString('utf8')
  } finally {
    await file.close()
  }
}
