import type { Block, LanguageSource } from '#core/manuscript/manuscript'

const leastCharacters = 40
const sampleCharacters = 20_000

/** The language of a text, as far as it can be told: two detectors must agree on a short one. */
export async function detectLanguage(blocks: readonly Block[]): Promise<{ language: string, source: LanguageSource }> {
  const sample = sampleOf(blocks)
  if (sample.length < leastCharacters) return { language: 'en', source: 'assumed' }
  // The detectors' tables are large: they are loaded only when they are needed.
  const { eld } = await import('eld/small')
  const first = eld.detect(sample)
  if (first.language === '') return { language: 'en', source: 'assumed' }
  if (first.isReliable()) return { language: first.language, source: 'detected' }
  const { detect } = await import('tinyld')
  if (detect(sample) === first.language) return { language: first.language, source: 'detected' }
  return { language: first.language, source: 'assumed' }
}

/** Running text says more about a language than headings and lists of names. */
function sampleOf(blocks: readonly Block[]): string {
  const texts = blocks.filter(block => block.kind === 'paragraph').map(block => block.text)
  const sample = (texts.length > 0 ? texts : blocks.map(block => block.text)).join('\n')
  if (sample.length <= sampleCharacters) return sample
  const middle = Math.floor((sample.length - sampleCharacters) / 2)
  return sample.slice(middle, middle + sampleCharacters)
}

/** A language tag in its canonical form (`en-GB`), or null when it is none. */
export function canonicalLanguage(tag: string): string | null {
  try {
    return Intl.getCanonicalLocales(tag.trim().replace(/_/gu, '-'))[0] ?? null
  } catch {
    return null
  }
}
