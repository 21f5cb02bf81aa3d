import { basename, extname } from 'node:path'
import type { Manuscript } from '#core/manuscript/manuscript'
import { fail } from '#core/problem'
import { canonicalLanguage, detectLanguage } from './language'
import { readerFor } from './registry'
import type { ReadOptions, SourceFile } from './reader'

export interface IntakeOptions extends ReadOptions {
  /** BCP 47 tag that overrides what the file declares and what is detected. */
  readonly language?: string
}

/** Bytes → manuscript. Throws a problem for a file that cannot be read or holds nothing to read. */
export async function readManuscript(file: SourceFile, options: IntakeOptions): Promise<Manuscript> {
  const reader = readerFor(file)
  const found = await reader.read(file, options)
  if (found.blocks.length === 0) {
    fail('nothing-to-read', `No text was found in ${file.name}. Check that it is the right file and that its text is not hidden.`)
  }
  return {
    format: reader.format,
    title: found.title ?? openingTitle(found.blocks) ?? titleFromName(file.name),
    author: found.author,
    ...await languageOf(found.language, found.blocks, options),
    blocks: found.blocks,
  }
}

async function languageOf(
  declared: string | null, blocks: Manuscript['blocks'], options: IntakeOptions,
): Promise<Pick<Manuscript, 'language' | 'languageSource'>> {
  if (options.language !== undefined) {
    const language = canonicalLanguage(options.language)
    if (language === null) fail('language-unknown', `“${options.language}” is not a language tag. Use one such as en, en-GB or de.`)
    return { language, languageSource: 'chosen' }
  }
  const language = declared === null ? null : canonicalLanguage(declared)
  if (language !== null) return { language, languageSource: 'declared' }
  const detected = await detectLanguage(blocks)
  return { language: detected.language, languageSource: detected.source }
}

/** A heading that opens the document, alone on the shallowest level, with deeper headings below it. */
function openingTitle(blocks: Manuscript['blocks']): string | null {
  const [first] = blocks
  if (first?.level === undefined) return null
  const alone = blocks.filter(block => block.level !== undefined && block.level <= first.level!).length === 1
  return alone && blocks.some(block => block.level !== undefined && block.level > first.level!) ? first.text : null
}

function titleFromName(name: string): string {
  const bare = basename(name, extname(name)).replace(/[_-]+/gu, ' ').trim()
  return bare === '' ? name : bare
}
