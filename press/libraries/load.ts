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

/** Calls a function of a library in a thread of Node's pool. What it is given stays where it is until then. */
export function inThread(call: ReturnType<IKoffiLib['func']>, ...given: unknown[]): Promise<unknown> {
  return new Promise((resolve, reject) => {
    call.async(...given, (error: unknown, result: unknown) => {
      if (error === null || error === undefined) resolve(result)
      else reject(error as Error)
    })
  })
}
