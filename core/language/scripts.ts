import { most } from '../tally'
import { primaryLanguage } from './abbreviations'

/** Classes of characters of the usual languages that have a script to themselves. Kana stand before Chinese characters, which Japanese has too. */
const classes = {
  ja: '\\p{sc=Hiragana}\\p{sc=Katakana}', ko: '\\p{sc=Hangul}', zh: '\\p{sc=Han}', el: '\\p{sc=Greek}', he: '\\p{sc=Hebrew}',
  th: '\\p{sc=Thai}', ka: '\\p{sc=Georgian}', hy: '\\p{sc=Armenian}', hi: '\\p{sc=Devanagari}', ar: '\\p{sc=Arabic}', ru: '\\p{sc=Cyrillic}',
}
const scripts = Object.entries(classes).map(([language, letters]) => [language, new RegExp(`[${letters}]`, 'gu')] as const)

/** Other languages of these scripts, which only words tell apart. */
export const sameScript: Readonly<Record<string, readonly string[]>> = {
  ru: ['uk', 'bg', 'sr', 'be', 'mk', 'kk', 'mn'], ar: ['fa', 'ur', 'ckb', 'ps'], hi: ['mr', 'ne'], he: ['yi'], zh: ['ja', 'yue'],
}

/** A character of these says as much as several letters. */
const weightOfSyllables = 3
/** Share of kana that Japanese has among its characters, at least. */
const leastKana = 0.1

/** The language that most characters of a text belong to by their script; null for Latin letters and for scripts of many languages. */
export function languageOfScript(text: string): string | null {
  const latin = text.match(/\p{sc=Latin}/gu)?.length ?? 0
  const counts = new Map(scripts.map(([language, letters]) => [language, text.match(letters)?.length ?? 0] as const))
  const [kana, han] = [counts.get('ja')!, counts.get('zh')!]
  if (kana > 0 && kana >= (kana + han) * leastKana) {
    counts.set('ja', kana + han)
    counts.set('zh', 0)
  }
  const [language, characters] = most(counts)!
  const weight = /^(?:ja|ko|zh)$/u.test(language) ? weightOfSyllables : 1
  return characters * weight > latin ? language : null
}

/** Words in a script that the words around them are not in. */
export interface ForeignRun {
  readonly start: number
  readonly end: number
  /** The usual language of that script, BCP 47. */
  readonly language: string
}

const { ja, zh, ...apart } = classes
/** Japanese mixes its scripts within a word, with marks of its own. */
const families = [`${ja}${zh}ー々`, ...Object.values(apart)]
/** Words of one script that stand together. */
const foreignWords = new RegExp(families.map(letters => `[${letters}][${letters}\\p{M}]*(?:[ ・'’-][${letters}][${letters}\\p{M}]*)*`).join('|'), 'gu')
/** Latin words among Chinese and Japanese are English as a rule; voices of the two spell them out. */
const latinWords = /\p{sc=Latin}[\p{sc=Latin}\p{M}]*(?:[ '’-]\p{sc=Latin}[\p{sc=Latin}\p{M}]*)*/gu
const withLatinWords: ReadonlySet<string> = new Set(['ja', 'zh'])
const hasOtherScript = /[\u0370-\u1fff\u2e80-\ud7ff\uf900-\ufaff]/u
/** A character of these is a word; a single letter of others may be the sign of a formula. */
const syllables = /[\u2e80-\ud7ff\uf900-\ufaff]/u
const leastLetters = 2

/** The words of a text that are in another script than its language (BCP 47), by the usual language of that script. */
export function foreignRuns(text: string, language: string): ForeignRun[] {
  if (!hasOtherScript.test(text)) return []
  const own = primaryLanguage(language)
  const latin = withLatinWords.has(own) ? Array.from(text.matchAll(latinWords), ({ index, 0: words }): ForeignRun => ({ start: index, end: index + words.length, language: 'en' })) : []
  const others = [...text.matchAll(foreignWords)].flatMap(({ index, 0: words }): ForeignRun[] => {
    const spoken = languageOfScript(words)
    const isWord = syllables.test(words) || (words.match(/\p{L}/gu)?.length ?? 0) >= leastLetters
    return spoken === null || !isWord || isWrittenIn(spoken, own) ? [] : [{ start: index, end: index + words.length, language: spoken }]
  })
  return [...latin.filter(({ start, end }) => end - start >= leastLetters), ...others].sort((one, other) => one.start - other.start)
}

/** Whether a language is written in the script that another one stands for. Japanese and Korean texts have Chinese characters of their own. */
export function isWrittenIn(script: string, language: string): boolean {
  return script === language || sameScript[script]?.includes(language) === true || script === 'zh' && language === 'ko'
}
