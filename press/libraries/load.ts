import koffi, { type IKoffiLib } from 'koffi'
import { fail } from '#core/problem'

/** A library of the system. Throws a problem when it is not installed. */
export function loadLibrary(file: string, debianPackage: string): IKoffiLib {
  try {
    return koffi.load(file)
  } catch {
    fail('encoder-missing', `The library ${file} is not installed. Run bin/start once, or install the Debian package ${debianPackage}.`)
  }
}

/** What `load` gives, which is asked once; again when it has thrown. */
export function once<T>(load: () => T): () => T {
  let loaded: T | null = null
  return () => loaded ??= load()
}

/** What threads work on now. Kept here it is not freed before they have done. */
const inUse = new Set<readonly unknown[]>()

/** Calls a function of a library in a thread of Node's pool. */
export function inThread(call: ReturnType<IKoffiLib['func']>, ...given: unknown[]): Promise<unknown> {
  inUse.add(given)
  return new Promise((resolve, reject) => {
    call.async(...given, (error: unknown, result: unknown) => {
      inUse.delete(given)
      if (error === null || error === undefined) resolve(result)
      else reject(error as Error)
    })
  })
}
