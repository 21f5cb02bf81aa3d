import { basename, extname } from 'node:path'
import { isSpeakable, type Manuscript } from '#core/manuscript/manuscript'
import { fail, ProblemError } from '#core/problem'
import { canonicalLanguage, detectLanguage } from './language'
import { readerFor } from './registry'
import { maximumCharacters, type ReadOptions, type Reading, type SourceFile } from './reader'

export interface IntakeOptions extends ReadOptions {
  /** BCP 47 tag that overrides what the file declares and what is detected. */
  readonly language?: string
}

/** Bytes → manuscript. Throws a problem for a file that cannot be read or holds nothing to read. */
export async function readManuscript(file: SourceFile, options: IntakeOptions): Promise<Manuscript> {
  const reader = readerFor(file)
  const found = withoutControls(await reader.read(file, options).catch((error: unknown) => { throw inFile(error, file.name) }))
  if (found.blocks.length === 0) {
    fail('nothing-to-read', `No text was found in ${file.name}. Check that it is the right file and that its text is not hidden.`)
  }
  const characters = found.blocks.reduce((sum, block) => sum + block.text.length, 0)
  if (characters > maximumCharacters) {
    fail('text-too-long', `${file.name} has ${characters.toLocaleString('en')} characters of text; at most ${maximumCharacters.toLocaleString('en')} make one production. Divide it into volumes.`)
  }
  return {
    format: reader.format,
    title: found.title ?? openingTitle(found.blocks) ?? titleFromName(file.name),
    author: found.author,
    ...await languageOf(found.language, found.blocks, options),
    blocks: found.blocks,
  }
}

/** A problem of something within a file, such as an entry of a container, names the file too. */
function inFile(error: unknown, name: string): unknown {
  if (!(error instanceof ProblemError)) return error
  const { message, place } = error.problem
  if (place === undefined || `${message}${place}`.includes(name)) return error
  return new ProblemError({ ...error.problem, place: `${name}, ${place}` })
}

/** Control characters and halves of characters, which no text means, and no database and no voice takes. */
const controls = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]|\p{Cs}/gu

function withoutControls(found: Reading): Reading {
  const clean = (text: string): string => text.replace(controls, '')
  return {
    ...found,
    title: found.title === null ? null : clean(found.title),
    author: found.author === null ? null : clean(found.author),
    blocks: found.blocks.map(block => ({ ...block, text: clean(block.text) })).filter(block => isSpeakable(block.text)),
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
