import PQueue from 'p-queue'
import { fail } from '#core/problem'
import { nameIn, type DeliveryPlace } from '#press/deliver'
import type { FileDamage } from '#shared/delivery'
import { log } from '#store/log'
import type { StoredFile } from '#takes/storage'

/** A delivered file as it was noted. */
export interface NotedFile {
  readonly name: string
  readonly bytes: number
  /** SHA-256, hex. */
  readonly sha256: string
}

interface Verdict {
  /** Of the file that was judged. */
  readonly version: string
  readonly damage: FileDamage | null
}

/** The newest verdicts, by name; the oldest go first. */
const verdicts = new Map<string, Verdict>()
const mostVerdicts = 20_000
const hashing = new PQueue({ concurrency: 1 })

type Find = (place: DeliveryPlace, name: string) => Promise<StoredFile | null>

/** Finds files, and lists each folder once: for one answer about many of them. */
export function finder(): Find {
  const byFolder = new Map<string, Promise<ReadonlyMap<string, StoredFile>>>()
  return async (place, name) => {
    const files = byFolder.get(place.folder) ?? filesIn(place)
    byFolder.set(place.folder, files)
    return (await files).get(nameIn(place, name)) ?? null
  }
}

async function filesIn({ storage, folder }: DeliveryPlace): Promise<ReadonlyMap<string, StoredFile>> {
  return new Map((await storage.list(folder)).map(file => [file.name, file]))
}

/** What is wrong with a delivered file, by its checksum. A file that was judged is not read again until it is another. */
export async function damageOf(place: DeliveryPlace, file: NotedFile): Promise<FileDamage | null> {
  const known = verdictOn(await place.storage.find(nameIn(place, file.name)), file)
  return known === undefined ? judge(place, file) : known
}

/** The same at once: for a file that was not read yet null, and `found` is called later if there is something wrong with it. */
export async function knownDamageOf(place: DeliveryPlace, file: NotedFile, find: Find, found: () => Promise<void>): Promise<FileDamage | null> {
  const known = verdictOn(await find(place, file.name), file)
  if (known === undefined) {
    void hashing.add(async () => { if (await damageOf(place, file) !== null) await found() })
      .catch((error: unknown) => { log.error({ err: error, file: file.name }, 'A delivered file could not be checked') })
  }
  return known ?? null
}

/** Throws a problem for a delivered file that is gone, or no longer what was delivered. */
export async function refuseDamaged(place: DeliveryPlace, file: NotedFile): Promise<void> {
  const damage = await damageOf(place, file)
  if (damage === 'missing') fail('delivery-file-missing', `${file.name} is no longer on the disk. Make the delivery again.`)
  if (damage === 'altered') fail('delivery-file-altered', `${file.name} is not what was delivered any more: something has changed it on the disk. Make the delivery again.`)
}

/** What is known without reading the file; undefined when that must be read. */
function verdictOn(found: StoredFile | null, { bytes }: NotedFile): FileDamage | null | undefined {
  if (found === null) return 'missing'
  if (found.bytes !== bytes) return 'altered'
  const verdict = verdicts.get(found.name)
  return verdict?.version === found.version ? verdict.damage : undefined
}

async function judge(place: DeliveryPlace, { name, sha256 }: NotedFile): Promise<FileDamage | null> {
  const found = await place.storage.find(nameIn(place, name))
  if (found === null) return 'missing'
  const damage = await place.storage.sha256(found.name) === sha256 ? null : 'altered'
  verdicts.delete(found.name)
  verdicts.set(found.name, { version: found.version, damage })
  if (verdicts.size > mostVerdicts) verdicts.delete(verdicts.keys().next().value!)
  return damage
}
