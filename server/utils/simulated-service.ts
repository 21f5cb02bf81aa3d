import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { fail } from '#core/problem'

/** Address of the simulated service that was started beside this server; null where there is none. */
export function simulatedAddress(): string | null {
  return process.env['QUILL_SIMULATED_ADDRESS'] ?? null
}

/** What an account at the simulated service needs. Its key goes from its folder to the account, and to nobody's page. */
export async function simulatedAccount(): Promise<{ readonly address: string, readonly key: string }> {
  const { QUILL_SIMULATED_FOLDER: folder, QUILL_SIMULATED_ADDRESS: address } = process.env
  if (folder === undefined || address === undefined) fail('not-found', 'No simulated service runs here. Start everything with bin/start.')
  const { key } = JSON.parse(await readFile(join(folder, 'settings.json'), 'utf8')) as { key: string }
  return { address, key }
}
