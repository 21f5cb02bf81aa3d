import { readFile, readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Manifest } from '#core/delivery/manifest'
import type { WorkCover } from '#core/delivery/details'
import { checksumsName, checksumsOf, coverName, isBeside, isCover, manifestName } from '#core/delivery/lists'
import { fail } from '#core/problem'
import { FolderStorage } from '#takes/folder-storage'

/**
 * Makes sure that a delivery overwrites nothing but an earlier delivery: a file that would be replaced must
 * be listed, unchanged, in the folder's manifest. A cover that lies there already as it is stays. Gives the step that removes files of the earlier
 * delivery that the new one does not have.
 */
export async function prepareFolder(folder: string, names: readonly string[], cover: WorkCover | null): Promise<() => Promise<void>> {
  const present = new Set(await readdir(folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return []
    if (error.code === 'ENOTDIR') return fail('out-no-folder', `${folder} is a file. Choose a folder with --out.`)
    throw error
  }))
  const storage = new FolderStorage(folder)
  const earlier = await earlierFiles(folder, present.has(manifestName))
  const lists = await earlierLists(storage, folder, present)
  for (const name of present) {
    if (!isBeside(name) || lists.has(name)) continue
    // Only a cover that would become another picture is in the way.
    if (isCover(name) && (cover === null || coverName(cover) !== name || await storage.sha256(name) === cover.sha256)) continue
    foreign(folder, name)
  }
  for (const name of names) {
    if (!present.has(name)) continue
    const listed = earlier.get(name)
    if (listed === undefined || await storage.sha256(name) !== listed) foreign(folder, name)
  }
  return async () => {
    for (const [name, sha256] of earlier) {
      if (names.includes(name) || !present.has(name)) continue
      if (await storage.sha256(name) === sha256) await rm(join(folder, name))
    }
    const written = await sumsIn(folder)
    for (const name of lists) if (name !== checksumsName && name !== manifestName && !written.has(name)) await rm(join(folder, name), { force: true })
  }
}

function foreign(folder: string, name: string): never {
  return fail('out-foreign-file', `${join(folder, name)} exists and is not from an earlier run, or was changed since. Move it, or choose another folder with --out.`)
}

/** Which of the lists beside the files are from an earlier run: the manifest, the checksums that name it, and what these name. */
async function earlierLists(storage: FolderStorage, folder: string, present: ReadonlySet<string>): Promise<ReadonlySet<string>> {
  const sums = await sumsIn(folder)
  if (!sums.has(manifestName)) return new Set([manifestName])
  const lists = new Set([manifestName, checksumsName])
  for (const [name, sha256] of sums) if (isBeside(name) && present.has(name) && await storage.sha256(name) === sha256) lists.add(name)
  return lists
}

async function sumsIn(folder: string): Promise<ReadonlyMap<string, string>> {
  const text = await readFile(join(folder, checksumsName), 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return ''
    throw error
  })
  return new Map(checksumsOf(text).map(({ name, sha256 }) => [name, sha256]))
}

async function earlierFiles(folder: string, present: boolean): Promise<Map<string, string>> {
  if (!present) return new Map()
  try {
    const manifest = JSON.parse(await readFile(join(folder, 'manifest.json'), 'utf8')) as Manifest
    return new Map(manifest.files
      .filter(file => /^[^/\\]+$/u.test(file.name))
      .map(file => [file.name, file.sha256]))
  } catch {
    return fail('out-foreign-file', `${join(folder, 'manifest.json')} exists and is not from an earlier run. Move it, or choose another folder with --out.`)
  }
}
