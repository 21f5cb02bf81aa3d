import { lstat, readdir, readFile, realpath } from 'node:fs/promises'
import { join, relative, sep } from 'node:path'
import { promisify } from 'node:util'
import yauzl, { type Entry, type ZipFile } from 'yauzl'
import { fail, ProblemError } from '#core/problem'

const maximumEntries = 10_000
const maximumEntryBytes = 64 * 1024 * 1024
const maximumTotalBytes = 256 * 1024 * 1024

/** A ZIP container, or a folder, whose entries are inflated on demand, never beyond the caps, whatever sizes it claims. */
export interface Archive {
  readonly names: readonly string[]
  /** The bytes of an entry, null when there is none of that name. */
  readonly bytes: (name: string) => Promise<Buffer | null>
}

/** A text entry in UTF-8, null when there is none of that name. */
export async function textOf(archive: Archive, name: string): Promise<string | null> {
  return (await archive.bytes(name))?.toString('utf8') ?? null
}

/** Whether bytes begin as a ZIP container does. */
export function isZip(bytes: Buffer): boolean {
  return bytes.length > 3 && (bytes.readUInt32LE(0) === 0x04034b50 || bytes.readUInt32LE(0) === 0x06054b50)
}

const fromBuffer = promisify<Buffer, yauzl.Options, ZipFile>(yauzl.fromBuffer)

/** Throws a problem for a container that is broken, encrypted, or unsafe (absolute, climbing or doubled names, too many entries). */
export async function openArchive(bytes: Buffer, fileName: string): Promise<Archive> {
  const entries = new Map<string, Entry>()
  let zip: ZipFile
  try {
    // Backslashes between folders are taken for strokes.
    zip = await fromBuffer(withoutTail(bytes), { lazyEntries: true, validateEntrySizes: true, strictFileNames: false })
    await listEntries(zip, entry => {
      if (entry.isEncrypted()) fail('file-encrypted', `${fileName} is protected by a password. Remove the password and bring it again.`)
      if (entries.has(entry.fileName)) fail('archive-unsafe', `${fileName} holds two entries named ${entry.fileName}; it was not opened.`)
      if (entries.size >= maximumEntries) fail('archive-unsafe', `${fileName} holds more than ${maximumEntries} entries; it was not opened.`)
      entries.set(entry.fileName, entry)
    })
  } catch (error) {
    if (error instanceof ProblemError) throw error
    const [, name] = /^(?:invalid relative path|absolute path|invalid characters in fileName): (.*)$/su.exec((error as Error).message) ?? []
    if (name !== undefined) fail('archive-unsafe', `${fileName} holds an entry that would lie outside of it, “${name.slice(0, 100)}”; it was not opened. Pack its files anew.`)
    fail('archive-broken', `${fileName} is damaged or not complete. Save it again in the program it comes from.`)
  }
  let total = 0
  return {
    names: [...entries.keys()],
    bytes: async name => {
      const entry = entries.get(name)
      if (entry === undefined) return null
      const data = await inflate(zip, entry, Math.min(maximumEntryBytes, maximumTotalBytes - total), fileName)
      total += data.length
      return data
    },
  }
}

/** The end of a container's list of entries (APPNOTE, 4.3.16): its sign, its length, and where it says how long its comment is. */
const end = { sign: Buffer.from('PK\u0005\u0006', 'latin1'), bytes: 22, commentLengthAt: 20 }
const longestComment = 65_535

/** A container without what stands behind its end, such as a line feed that a mail program added. */
function withoutTail(bytes: Buffer): Buffer {
  const at = bytes.lastIndexOf(end.sign)
  if (at < bytes.length - end.bytes - longestComment - longestTail || at < 0 || at + end.bytes > bytes.length) return bytes
  return bytes.subarray(0, Math.min(bytes.length, at + end.bytes + bytes.readUInt16LE(at + end.commentLengthAt)))
}

/** Bytes behind the end that are passed over. */
const longestTail = 64 * 1024

/** A folder as if it were a container, with the same caps. Links are not followed. */
export async function openFolder(path: string, name: string): Promise<Archive> {
  const root = await realpath(path)
  const entries = await readdir(root, { recursive: true, withFileTypes: true })
  const names = entries.filter(entry => entry.isFile()).map(entry => relative(root, join(entry.parentPath, entry.name)).split(sep).join('/'))
  if (names.length > maximumEntries) fail('archive-unsafe', `${name} holds more than ${maximumEntries} files; it was not opened.`)
  let total = 0
  return {
    names,
    bytes: async entry => {
      if (!names.includes(entry)) return null
      const { size } = await lstat(join(root, entry))
      total += size
      if (size > maximumEntryBytes || total > maximumTotalBytes) tooLarge(name)
      return readFile(join(root, entry))
    },
  }
}

function tooLarge(name: string): never {
  return fail('archive-too-large', `${name} grows to more than ${Math.round(maximumTotalBytes / 1024 / 1024)} MB when it is opened, or one file in it to more than ${Math.round(maximumEntryBytes / 1024 / 1024)} MB; it was not read.`)
}

function listEntries(zip: ZipFile, take: (entry: Entry) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    zip.on('error', reject)
    zip.on('end', () => resolve())
    zip.on('entry', (entry: Entry) => {
      try {
        take(entry)
        zip.readEntry()
      } catch (error) {
        reject(error instanceof Error ? error : new Error(String(error)))
      }
    })
    zip.readEntry()
  })
}

async function inflate(zip: ZipFile, entry: Entry, cap: number, fileName: string): Promise<Buffer> {
  const open = promisify(zip.openReadStream.bind(zip) as (entry: Entry, done: (error: Error | null, stream: NodeJS.ReadableStream) => void) => void)
  try {
    const chunks: Buffer[] = []
    let size = 0
    for await (const chunk of await open(entry)) {
      size += chunk.length
      if (size > cap) tooLarge(fileName)
      chunks.push(chunk as Buffer)
    }
    return Buffer.concat(chunks)
  } catch (error) {
    if (error instanceof ProblemError) throw error
    fail('archive-broken', `${fileName} is damaged: ${entry.fileName} in it cannot be read. Save it again in the program it comes from.`)
  }
}
