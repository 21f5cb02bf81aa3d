import { primaryLanguage } from '#core/language/abbreviations'
import { isWrittenIn, languageOfScript, sameScript } from '#core/language/scripts'
import type { Block, LanguageSource } from '#core/manuscript/manuscript'
import { count, most } from '#core/tally'

const leastCharacters = 40
/** The whole text is looked at in pieces from all of its length. */
const [samples, sampleCharacters] = [24, 1_000]
/** A passage must be this long for its own language to be recognised by its words. */
const leastPassageCharacters = 60
/** Share of the samples that must be in one language for it to be sure. */
const leastShare = 0.5
/** Share of the most usual words of a text in a passage of the same language, at least. */
const usualShare = 0.2
const usualWords = 60

/** The language of a text, as far as it can be told: by its script, and by what detectors say of samples from all of it. */
export async function detectLanguage(blocks: readonly Block[]): Promise<{ language: string, source: LanguageSource }> {
  const texts = running(blocks)
  const found = new Map<string, number>()
  let all = 0
  for (const sample of samplesOf(texts)) {
    const language = await languageOfText(sample)
    all += sample.length
    if (language !== null) count(found, language, sample.length)
  }
  const [language, characters] = most(found) ?? ['en', 0]
  return { language, source: all >= leastCharacters && characters > all * leastShare ? 'detected' : 'assumed' }
}

/** The language of a sample; null where detectors cannot tell. Two must agree on one that is not sure. */
async function languageOfText(text: string): Promise<string | null> {
  const byScript = languageOfScript(text)
  if (byScript !== null && !Object.hasOwn(sameScript, byScript)) return byScript
  // The detectors' tables are large: they are loaded only when they are needed.
  const { eld } = await import('eld/small')
  const first = eld.detect(text)
  if (byScript !== null) return sameScript[byScript]!.includes(first.language) && first.isReliable() ? first.language : byScript
  if (first.language === '') return null
  if (first.isReliable()) return first.language
  const { detect } = await import('tinyld')
  return detect(text) === first.language ? first.language : null
}

/** Signs of program text. */
const codeSigns = /[{}[\]<>=$\\|_/;*#@~^&]/gu
const mostCodeSigns = 0.06

/** What says most about a language: running text, without code, addresses and names of files. */
function running(blocks: readonly Block[]): string[] {
  const read = blocks.filter(block => block.dropped === undefined)
  const paragraphs = read.filter(block => block.kind === 'paragraph' || block.kind === 'listItem' || block.kind === 'quotation')
  const texts = (paragraphs.length > 0 ? paragraphs : read).map(({ text }) => text)
  const prose = texts.filter(text => (text.match(codeSigns)?.length ?? 0) <= text.length * mostCodeSigns)
  return (prose.some(text => text.length >= leastCharacters) ? prose : texts).map(text => text.split(/\s+/u).filter(word => !isName(word)).join(' '))
}

/** Addresses, paths, names with underscores and options of commands. */
function isName(word: string): boolean {
  return /[/\\@_=]|^https?:|^-{1,2}\w/u.test(word)
}

/** Pieces from all of a text. */
function samplesOf(texts: readonly string[]): string[] {
  const whole = texts.join('\n')
  if (whole.length <= samples * sampleCharacters) return whole.match(/[\s\S]{1,1000}/gu) ?? []
  const step = Math.floor(whole.length / samples)
  return Array.from({ length: samples }, (_, index) => whole.slice(index * step, index * step + sampleCharacters))
}

/** Notes the language of passages that are in another one than the document: by their script, and of longer ones in Latin letters where two detectors agree. */
export async function languagesOfPassages(blocks: readonly Block[], language: string): Promise<Block[]> {
  const isOpen = (block: Block): boolean => block.dropped === undefined && block.language === undefined
  const isLong = (block: Block): boolean => block.text.length >= leastPassageCharacters && block.kind !== 'tableRow'
  const isUsual = usualText(blocks)
  const result: Block[] = []
  for (const block of blocks) {
    const found = isOpen(block) ? await languageOfPassage(block.text, language, isLong(block) && !isUsual(block.text)) : null
    result.push(found === null ? block : { ...block, language: found })
  }
  return result
}

/** A word in another script, or a character of one that needs no more: a single letter may be the sign of a formula. */
const foreignWord = /[\u2e80-\ud7ff\uf900-\ufaff]|\p{sc=Greek}{3}|[\u0400-\u1fff]{2}/u

async function languageOfPassage(text: string, language: string, isLong: boolean): Promise<string | null> {
  const byScript = foreignWord.test(text) ? languageOfScript(text) : null
  const own = primaryLanguage(language)
  if (byScript !== null) return isWrittenIn(byScript, own) ? null : byScript
  if (!isLong) return null
  const { eld } = await import('eld/small')
  const found = eld.detect(text)
  if (found.language === '' || sameLanguage(found.language, language) || !found.isReliable()) return null
  const { detect } = await import('tinyld')
  return detect(text) === found.language ? found.language : null
}

/** Whether a text has so many of the most usual words of all blocks that it is in their language. */
function usualText(blocks: readonly Block[]): (text: string) => boolean {
  const counts = new Map<string, number>()
  const wordsOf = (text: string): string[] => text.toLowerCase().match(/\p{L}+/gu) ?? []
  for (const { text, dropped } of blocks) if (dropped === undefined) for (const word of wordsOf(text.slice(0, sampleCharacters))) count(counts, word)
  const usual = new Set([...counts].sort((a, b) => b[1] - a[1]).slice(0, usualWords).map(([word]) => word))
  const isEnough = counts.size > usualWords * 10
  return text => {
    if (!isEnough) return false
    const words = wordsOf(text)
    return words.filter(word => usual.has(word)).length > words.length * usualShare
  }
}

/** Whether two tags name one language, whatever the region. */
export function sameLanguage(a: string, b: string): boolean {
  return primaryLanguage(a) === primaryLanguage(b)
}
