import { fail } from '#core/problem'
import { textOf, type Archive } from '../archive'
import { joined } from '../html/paths'
import { parseXml } from '../xml'

/** A relationship of a part of an Open Packaging Conventions package (ECMA-376, part 2). */
export interface Relation {
  readonly id: string
  /** Last segment of the relationship type: `footnotes`, `slide` … */
  readonly type: string
  /** Path in the package, or the address of an external target. */
  readonly target: string
  readonly external: boolean
}

export async function relationsOf(archive: Archive, part: string): Promise<Relation[]> {
  const path = part.replace(/([^/]*)$/u, '_rels/$1.rels')
  const xml = await textOf(archive, path)
  const relations: Relation[] = []
  if (xml === null) return relations
  parseXml(xml, path, {
    open: tag => {
      if (tag.local !== 'Relationship') return
      const value = (name: string): string => tag.attributes[name]?.value ?? ''
      const external = value('TargetMode') === 'External'
      relations.push({ id: value('Id'), type: /[^/]*$/u.exec(value('Type'))![0], external, target: external ? value('Target') : joined(part, value('Target')) })
    },
  })
  return relations
}

/** The main part of a package: by its relationship, else where it usually is. */
export async function mainPart(archive: Archive, usual: string): Promise<string | null> {
  const related = (await relationsOf(archive, '')).find(relation => relation.type === 'officeDocument')?.target
  return [related, usual].find(name => name !== undefined && archive.names.includes(name)) ?? null
}

export interface Properties {
  readonly title: string | null
  readonly author: string | null
  readonly language: string | null
}

/** The core properties. */
export async function readProperties(archive: Archive): Promise<Properties> {
  const xml = await textOf(archive, 'docProps/core.xml')
  const found = new Map<string, string>()
  let current = ''
  if (xml !== null) {
    parseXml(xml, 'docProps/core.xml', {
      open: tag => { current = tag.local },
      close: () => { current = '' },
      text: value => { if (value.trim() !== '') found.set(current, (found.get(current) ?? '') + value.trim()) },
    })
  }
  return { title: found.get('title') ?? null, author: found.get('creator') ?? null, language: found.get('language') ?? null }
}

/** The container of encrypted documents and of the older formats. */
export function refuseCompound(name: string): never {
  return fail('office-encrypted-or-old', `${name} is protected by a password or in an old format (DOC, PPT). Save it without a password as DOCX or PPTX.`)
}

export function isCompound(bytes: Buffer): boolean {
  return bytes.length > 7 && bytes.readUInt32BE(0) === 0xd0cf11e0
}
