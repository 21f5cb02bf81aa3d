import { languageOfScript, sameScript } from '#core/language/scripts'

/** At least this share of its letters must speak for a language that a single word may come from. */
const leastLikely = 0.52
/** And this share of the likeliest. */
const leastOfTop = 0.75
/** How much it counts that a second detector is sure, beside the shares of the first (0 to 1). */
const agreement = 0.4

/** Languages that a single word may come from, the likeliest first. It is a guess: a word has few letters. */
export async function likelyLanguages(word: string): Promise<string[]> {
  const byScript = languageOfScript(word)
  if (byScript !== null && !Object.hasOwn(sameScript, byScript)) return [byScript]
  const { eld } = await import('eld/small')
  const { detectAll } = await import('tinyld')
  const found = new Map(Object.entries(eld.detect(word).getScores()))
  for (const { lang, accuracy } of detectAll(word)) if (lang !== '') found.set(lang, (found.get(lang) ?? leastLikely / 2) + accuracy * agreement)
  const top = Math.max(...found.values())
  return [...found].filter(([, share]) => share >= Math.max(leastLikely, top * leastOfTop)).sort((a, b) => b[1] - a[1]).map(([language]) => language)
}
