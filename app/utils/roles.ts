import { v7 as uuidv7 } from 'uuid'
import type { Content } from '#core/script/content'
import { renamed } from '#core/script/roles'
import { rolesOfPassage } from '#core/script/script'
import type { RoleView } from '#shared/api'
import type { Operation } from '#shared/operations'

/** Passages whose roles have names, as SSML writes them, with the ids of the roles; and what makes those that are not there yet. */
export function withRoleIds<P extends { readonly role?: string | null, readonly content: Content }>(passages: readonly P[], roles: readonly Pick<RoleView, 'id' | 'name'>[]): { readonly passages: P[], readonly make: Operation[] } {
  const ids = new Map(roles.map(({ id, name }) => [name, id]))
  const make: Operation[] = []
  for (const name of passages.flatMap(rolesOfPassage)) {
    if (ids.has(name)) continue
    const id = uuidv7()
    ids.set(name, id)
    make.push({ op: 'makeRole', id, name })
  }
  return { passages: passages.map(passage => renamed(passage, name => ids.get(name)!)), make }
}
