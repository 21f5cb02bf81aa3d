import type { Content } from './content'

/** Content whose roles are called otherwise: by their ids where they have names, or the other way. */
export function withRoles(content: Content, called: (role: string) => string): Content {
  if (!content.directions.some(direction => direction.kind === 'role')) return content
  return { ...content, directions: content.directions.map(direction => direction.kind === 'role' ? { ...direction, role: called(direction.role) } : direction) }
}

/** A passage whose roles are called otherwise. */
export function renamed<P extends { readonly role?: string | null | undefined, readonly content?: Content | undefined }>(passage: P, called: (role: string) => string): P {
  const { role, content } = passage
  return { ...passage, ...(typeof role === 'string' ? { role: called(role) } : {}), ...(content === undefined ? {} : { content: withRoles(content, called) }) }
}

/** What the roles among these are called; one that is not among them as it is. */
export function namesOf(roles: readonly { readonly id: string, readonly name: string }[]): (id: string) => string {
  const names = new Map(roles.map(({ id, name }) => [id, name]))
  return id => names.get(id) ?? id
}
