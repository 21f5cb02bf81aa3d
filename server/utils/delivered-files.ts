import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import PQueue from 'p-queue'
import { fail } from '#core/problem'
import { sha256Of } from '#press/deliver'
import type { FileDamage } from '#shared/api'
import { log } from '#store/log'

/** A delivered file as it was noted. */
export interface NotedFile {
  readonly name: string
  readonly bytes: number
  /** SHA-256, hex. */
  readonly sha256: string
}

interface Verdict {
  /** Size, time of change and identity of the file that was judged. */
  readonly state: string
  readonly damage: FileDamage | null
}

/** The newest verdicts, by path; the oldest go first. */
const verdicts = new Map<string, Verdict>()
const mostVerdicts = 20_000
const hashing = new PQueue({ concurrency: 1 })

/** What is wrong with a delivered file, by its checksum. A file that was judged is not read again until it is another. */
export async function damageOf(folder: string, file: NotedFile): Promise<FileDamage | null> {
  return await look(folder, file) ?? await judge(folder, file)
}

/** The same at once: for a file that was not read yet null, and `found` is called later if there is something wrong with it. */
export async function knownDamageOf(folder: string, file: NotedFile, found: () => Promise<void>): Promise<FileDamage | null> {
  const known = await look(folder, file)
  if (known === undefined) {
    void hashing.add(async () => { if (await damageOf(folder, file) !== null) await found() })
      .catch((error: unknown) => { log.error({ err: error, file: file.name }, 'A delivered file could not be checked') })
  }
  return known ?? null
}

/** Throws a problem for a delivered file that is gone, or no longer what was delivered. */
export async function refuseDamaged(folder: string, file: NotedFile): Promise<void> {
  const damage = await damageOf(folder, file)
  if (damage === 'missing') fail('delivery-file-missing', `${file.name} is no longer on the disk. Make the delivery again.`)
  if (damage === 'altered') fail('delivery-file-altered', `${file.name} is not what was delivered any more: something has changed it on the disk. Make the delivery again.`)
}

/** What is known without reading the file; undefined when that must be read. */
async function look(folder: string, { name, bytes }: NotedFile): Promise<FileDamage | null | undefined> {
  const path = join(folder, name)
  const found = await stat(path).catch(() => null)
  if (found === null) return 'missing'
  if (found.size !== bytes) return 'altered'
  const verdict = verdicts.get(path)
  return verdict?.state === `${found.size} ${found.mtimeMs} ${found.ino}` ? verdict.damage : undefined
}

async function judge(folder: string, { name, sha256 }: NotedFile): Promise<FileDamage | null> {
  const path = join(folder, name)
  const { size, mtimeMs, ino } = await stat(path)
  const damage = await sha256Of(path) === sha256 ? null : 'altered'
  verdicts.delete(path)
  verdicts.set(path, { state: `${size} ${mtimeMs} ${ino}`, damage })
  if (verdicts.size > mostVerdicts) verdicts.delete(verdicts.keys().next().value!)
  return damage
}
