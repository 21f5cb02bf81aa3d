import { join } from 'node:path'
import { fail } from '#core/problem'
import { FolderStorage } from './folder-storage'
import type { FileStorage } from './storage'

/** What tells where files are; an environment has more. */
export interface StorageSettings extends Readonly<Record<string, string | undefined>> {
  /** A folder: of all files, or of those in hand where the others are in a bucket. */
  readonly QUILL_DATA?: string | undefined
  /** `s3://bucket/prefix?endpoint=http://host:port&region=name`: prefix, endpoint and region may be left out. Without it files are in the folder. */
  readonly QUILL_STORAGE?: string | undefined
}

const defaultRegion = 'us-east-1'

/** Opens the storage that the settings name. Rejects with a problem when they name none. */
export async function openStorage({ QUILL_DATA: folder, QUILL_STORAGE: address }: StorageSettings): Promise<FileStorage> {
  if (folder === undefined) fail('storage-unnamed', 'QUILL_DATA is not set. Name a folder for the files.')
  if (address === undefined || address === '') return new FolderStorage(folder)
  const url = URL.canParse(address) ? new URL(address) : null
  if (url?.protocol !== 's3:' || url.hostname === '') fail('storage-unnamed', `QUILL_STORAGE is “${address}”. Write it as s3://bucket/prefix?endpoint=http://host:port&region=name.`)
  const endpoint = url.searchParams.get('endpoint')
  if (endpoint !== null && !URL.canParse(endpoint)) fail('storage-unnamed', `The endpoint in QUILL_STORAGE is “${endpoint}”. Write it as http://host:port.`)
  const path = decodeURIComponent(url.pathname).replace(/^\/+|\/+$/gu, '')
  // What only a bucket needs takes long to load.
  const { BucketStorage } = await import('./bucket-storage')
  return new BucketStorage({ bucket: url.hostname, prefix: path === '' ? '' : `${path}/`, endpoint, region: url.searchParams.get('region') ?? defaultRegion }, join(folder, 'work'))
}
