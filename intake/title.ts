import { basename, extname } from 'node:path'
import type { Block } from '#core/manuscript/manuscript'

/** The title of a document: what it says, else the heading that opens it, else its file's name. */
export function titleOf(declared: string | null, blocks: readonly Block[], fileName: string): string {
  return declared ?? openingTitle(blocks) ?? titleFromName(fileName)
}

/** A heading that opens the document, alone on the shallowest level, with deeper headings below it. */
function openingTitle(blocks: readonly Block[]): string | null {
  const read = blocks.filter(block => block.dropped === undefined)
  const [first] = read
  if (first?.level === undefined) return null
  const headings = read.filter(block => block.level !== undefined)
  const alone = headings.filter(block => block.level! <= first.level!).length === 1
  return alone && headings.some(block => block.level! > first.level!) ? first.text : null
}

function titleFromName(name: string): string {
  const bare = basename(name, extname(name)).replace(/[_-]+/gu, ' ').trim()
  return bare === '' ? name : bare
}
