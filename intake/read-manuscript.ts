import { canonicalLanguage, notALanguage } from '#core/language/tag'
import { isOfUse, isOrnament, isSpeakable, type Block, type LanguageSource, type Manuscript } from '#core/manuscript/manuscript'
import { fail, ProblemError, type Problem } from '#core/problem'
import type { Archive } from './archive'
import { withChapterHeadings } from './chapters'
import { withoutLongBlocks } from './long-blocks'
import { detectLanguage, languagesOfPassages, sameLanguage } from './language'
import { maximumCharacters, type ReadOptions, type Reading } from './reader'
import { readerFor } from './registry'
import { withoutControls } from './text-builder'
import { titleOf } from './title'

export interface IntakeOptions extends ReadOptions {
  /** BCP 47 tag that overrides what the file declares and what is detected. */
  readonly language?: string
}

/** Bytes, or a folder, → manuscript. Throws a problem for a file that cannot be read or holds nothing to read. */
export async function readManuscript(source: { readonly name: string, readonly bytes: Buffer, readonly archive?: Archive }, options: IntakeOptions): Promise<Manuscript> {
  const { name } = source
  const { reader, file } = await readerFor(source)
  const found = await reader.read(file, options).catch((error: unknown) => { throw inFile(error, name) })
  const parted = withSceneBreaks(found.blocks.filter(isOfUse))
  const blocks = found.units === undefined || found.units.length === 0 ? withChapterHeadings(parted) : parted
  if (!blocks.some(block => isSpeakable(block.text))) {
    fail('nothing-to-read', `No text was found in ${name}. Check that it is the right file and that its text is not hidden.`)
  }
  const characters = blocks.reduce((sum, block) => sum + block.text.length, 0)
  if (characters > maximumCharacters) {
    fail('text-too-long', `${name} has ${characters.toLocaleString('en')} characters of text; at most ${maximumCharacters.toLocaleString('en')} make one production. Divide it into volumes.`)
  }
  const title = titleOf(found.title === null ? null : withoutControls(found.title), blocks, name)
  const { differs, ...language } = await languageOf(found, blocks, options, name)
  const cut = withoutLongBlocks(await withLanguages(blocks, language), language.language)
  const units = (found.units ?? []).map(unit => unit.label === '' ? { ...unit, label: title } : unit)
  return {
    format: reader.format, title, author: found.author === null ? null : withoutControls(found.author),
    ...language, units, problems: [...found.problems ?? [], ...differs === undefined ? [] : [differs], ...cut.problems],
    blocks: cut.blocks,
    ...(found.columns === undefined ? {} : { columns: found.columns }),
    ...(found.encoding === undefined ? {} : { encoding: found.encoding }),
  }
}

/** An ornament by itself is no text: it is what separates the block behind it from those before. */
function withSceneBreaks(blocks: readonly Block[]): Block[] {
  const result: Block[] = []
  let parted: Partial<Block> = {}
  for (const block of blocks) {
    if (isSceneBreak(block)) {
      // What begins at the ornament begins behind it.
      const { page, entry } = block
      parted = { ...parted, ...(page === undefined ? {} : { page }), ...(entry === undefined ? {} : { entry }), after: 'rule' }
      continue
    }
    result.push({ ...parted, ...block })
    parted = {}
  }
  return result
}

function isSceneBreak({ kind, text, dropped, note, cuts }: Block): boolean {
  return (kind === 'paragraph' || kind === 'quotation') && dropped === undefined && note === undefined && cuts === undefined && isOrnament(text)
}

/** A problem of something within a file, such as an entry of a container, names the file too. */
function inFile(error: unknown, name: string): unknown {
  if (!(error instanceof ProblemError)) return error
  const { message, place } = error.problem
  if (place === undefined || `${message}${place}`.includes(name)) return error
  return new ProblemError({ ...error.problem, place: `${name}, ${place}` })
}

async function languageOf(
  found: Reading, blocks: readonly Block[], options: IntakeOptions, name: string,
): Promise<Pick<Manuscript, 'language' | 'languageSource'> & { readonly differs?: Problem }> {
  if (options.language !== undefined) {
    const language = canonicalLanguage(options.language)
    if (language === null) fail('language-unknown', notALanguage(options.language))
    return { language, languageSource: 'chosen' }
  }
  const language = found.language === null ? null : canonicalLanguage(found.language)
  const detected = await detectLanguage(blocks)
  if (language !== null) return { language, languageSource: 'declared', ...differing(language, detected, blocks, name) }
  const hint = canonicalLanguage(found.languageHint ?? '')
  if (hint !== null && (detected.source === 'assumed' || sameLanguage(hint, detected.language))) return { language: hint, languageSource: 'declared' }
  return { language: detected.language, languageSource: detected.source }
}

/** A text must be this long to be trusted more than what its file says, in characters. */
const leastToDiffer = 600

/** What is said when the text is in another language than its file declares. */
function differing(declared: string, { language, source }: { readonly language: string, readonly source: LanguageSource }, blocks: readonly Block[], name: string): { readonly differs?: Problem } {
  const length = blocks.reduce((sum, { text, dropped }) => sum + (dropped === undefined ? text.length : 0), 0)
  if (source !== 'detected' || sameLanguage(declared, language) || length < leastToDiffer) return {}
  const nameOf = (tag: string): string => new Intl.DisplayNames('en', { type: 'language' }).of(tag) ?? tag
  return { differs: { code: 'language-differs', message: `${name} says that it is in ${nameOf(declared)} (${declared}), but its text looks like ${nameOf(language)} (${language}). If that is right, choose ${language}.`, place: name } }
}

/** Blocks in another language say so: as the file has it, or, unless the language was chosen, as it is recognised in longer ones. */
async function withLanguages(blocks: readonly Block[], { language, languageSource }: Pick<Manuscript, 'language' | 'languageSource'>): Promise<Block[]> {
  const declared = blocks.map(block => {
    const own = block.language === undefined ? null : canonicalLanguage(block.language)
    const { language: _, ...rest } = block
    return own === null || sameLanguage(own, language) ? rest : { ...rest, language: own }
  })
  return languageSource === 'chosen' ? declared : languagesOfPassages(declared, language)
}
