import { getRouterParam, type H3Event } from 'h3'
import { fail } from '#core/problem'
import type { AccountCheck } from '#shared/api'
import { sayVoices } from '#store/voices'
import type { Workshop } from './workshop'

export const engineParam = (event: H3Event): string => getRouterParam(event, 'engine') ?? fail('not-found', 'There is no such service. Load the page again.')

/** Asks a service about itself, and makes its voices known. Rejects with a problem where it does not answer as it should. */
export async function checkAccount({ engines }: Workshop, engine: string): Promise<AccountCheck> {
  const { found } = await engines.of(engine).about()
  await sayVoices(await engines.list())
  return { found }
}
