import { basename, extname } from 'node:path'
import { titleHeading } from '#core/manuscript/choices'
import type { Block } from '#core/manuscript/manuscript'

/** The title of a document: what it says, else the heading that opens it, else its file's name. */
export function titleOf(declared: string | null, blocks: readonly Block[], fileName: string): string {
  return declared ?? titleHeading(blocks) ?? titleFromName(fileName)
}

function titleFromName(name: string): string {
  const bare = basename(name, extname(name)).replace(/[_-]+/gu, ' ').trim()
  return bare === '' ? name : bare
}
