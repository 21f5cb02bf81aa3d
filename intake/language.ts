import type { Block, LanguageSource } from '#core/manuscript/manuscript'

const leastCharacters = 40
const sampleCharacters = 20_000
/** A passage must be this long for its own language to be recognised. */
const leastPassageCharacters = 60

/** The language of a text, as far as it can be told: two detectors must agree on a short one. */
export async function detectLanguage(blocks: readonly Block[]): Promise<{ language: string, source: LanguageSource }> {
  const sample = sampleOf(blocks.filter(block => block.dropped === undefined))
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

/** Notes the language of longer passages that are in another one than the document, where two detectors agree. */
export async function languagesOfPassages(blocks: readonly Block[], language: string): Promise<Block[]> {
  const long = (block: Block): boolean => block.dropped === undefined && block.language === undefined && block.text.length >= leastPassageCharacters && block.kind !== 'tableRow'
  if (!blocks.some(long)) return [...blocks]
  const { eld } = await import('eld/small')
  const result: Block[] = []
  for (const block of blocks) {
    const found = long(block) ? eld.detect(block.text) : null
    if (found === null || found.language === '' || sameLanguage(found.language, language) || !found.isReliable()) {
      result.push(block)
      continue
    }
    const { detect } = await import('tinyld')
    result.push(detect(block.text) === found.language ? { ...block, language: found.language } : block)
  }
  return result
}

/** Whether two tags name one language, whatever the region. */
export function sameLanguage(a: string, b: string): boolean {
  return a.split('-')[0]!.toLowerCase() === b.split('-')[0]!.toLowerCase()
}
