import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { basename } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { fail } from '#core/problem'
import { maximumFileBytes } from '#intake/reader'

/** The name of a file that was brought in, without the folders before it. Throws a problem when there is none. */
export function arrivingName(given: string): string {
  const name = basename(given.replace(/\\/gu, '/')).trim()
  return name === '' || name === '.' || name === '..' ? fail('name-missing', `“${given.slice(0, 60)}” is no name of a file. Give the file a name.`) : name
}

/** Streams the body of a request to disk. Gives its SHA-256 (hex); throws a problem when it is empty or too large. */
export async function storeArriving(body: NodeJS.ReadableStream, path: string, fileName: string): Promise<string> {
  const digest = createHash('sha256')
  let size = 0
  const measure = new Transform({
    transform(chunk: Buffer, _, done) {
      size += chunk.length
      digest.update(chunk)
      done(size > maximumFileBytes ? new Error('too large') : null, chunk)
    },
  })
  try {
    await pipeline(body, measure, createWriteStream(path))
  } catch (error) {
    if (size > maximumFileBytes) fail('file-too-large', `${fileName} has more than ${maximumFileBytes / 1024 / 1024} MB. Divide it.`)
    throw error
  }
  if (size === 0) fail('file-empty', `${fileName} is empty: there is nothing to read in it.`)
  return digest.digest('hex')
}
