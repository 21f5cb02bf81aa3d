import { execFile } from 'node:child_process'
import { join } from 'node:path'
import { root } from './paths'

export interface Run {
  readonly code: number
  readonly out: string
  readonly error: string
}

/** The command line, run in a folder, which has its cache too. */
export function quillIn(folder: () => string): (...parameters: string[]) => Promise<Run> {
  return (...parameters) => new Promise(resolve => {
    execFile(join(root, 'bin/quill'), parameters, { cwd: folder(), env: { ...process.env, XDG_CACHE_HOME: join(folder(), 'home') } }, (error, out, message) => {
      resolve({ code: error === null ? 0 : Number(error.code), out, error: message })
    })
  })
}
