import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { fail } from '#core/problem'

const algorithm = 'aes-256-gcm'
const keyBytes = 32
const vectorBytes = 12
const tagBytes = 16

/** Seals texts that must not be read from the database alone. */
export interface Secrets {
  readonly seal: (text: string) => Promise<string>
  /** Throws a problem where the text was sealed with another key, or was changed. */
  readonly open: (sealed: string) => Promise<string>
}

/** Secrets under the key that lies in a folder beside the data, in the file `secret.key`, for its owner only. It is made when it is first needed. */
export function secretsIn(folder: string): Secrets {
  const file = join(folder, 'secret.key')
  const read = async (): Promise<Buffer | null> => {
    try {
      return await readFile(file)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null
      throw error
    }
  }
  const lost = (): never => fail('key-file-lost', `The keys of accounts cannot be read: ${file} is missing or was changed. Put it back from a backup, or enter each key again on the Settings page.`)
  const made = async (): Promise<Buffer> => {
    await mkdir(folder, { recursive: true, mode: 0o700 })
    const fresh = randomBytes(keyBytes)
    // Another process may be making it just now: then its key counts.
    await writeFile(file, fresh, { flag: 'wx', mode: 0o600 }).catch((error: unknown) => {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    })
    return await read() ?? lost()
  }
  return {
    seal: async text => {
      const key = await read() ?? await made()
      if (key.length !== keyBytes) lost()
      const vector = randomBytes(vectorBytes)
      const cipher = createCipheriv(algorithm, key, vector)
      const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
      return Buffer.concat([vector, cipher.getAuthTag(), body]).toString('base64')
    },
    open: async sealed => {
      const key = await read() ?? lost()
      const bytes = Buffer.from(sealed, 'base64')
      try {
        const decipher = createDecipheriv(algorithm, key, bytes.subarray(0, vectorBytes), { authTagLength: tagBytes })
        decipher.setAuthTag(bytes.subarray(vectorBytes, vectorBytes + tagBytes))
        return Buffer.concat([decipher.update(bytes.subarray(vectorBytes + tagBytes)), decipher.final()]).toString('utf8')
      } catch {
        return lost()
      }
    },
  }
}
