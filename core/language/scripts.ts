import { most } from '../tally'
import { primaryLanguage } from './abbreviations'

/** Languages by scripts that no other of the usual ones is written in. Kana stand before Chinese characters, which Japanese has too. */
const scripts: readonly (readonly [language: string, letters: RegExp])[] = [
  ['ja', /[\p{sc=Hiragana}\p{sc=Katakana}]/gu], ['ko', /\p{sc=Hangul}/gu], ['zh', /\p{sc=Han}/gu], ['el', /\p{sc=Greek}/gu], ['he', /\p{sc=Hebrew}/gu],
  ['th', /\p{sc=Thai}/gu], ['ka', /\p{sc=Georgian}/gu], ['hy', /\p{sc=Armenian}/gu], ['hi', /\p{sc=Devanagari}/gu], ['ar', /\p{sc=Arabic}/gu], ['ru', /\p{sc=Cyrillic}/gu],
]

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

const families = ['\\p{sc=Hiragana}\\p{sc=Katakana}\\p{sc=Han}ー々', '\\p{sc=Hangul}', '\\p{sc=Greek}', '\\p{sc=Hebrew}', '\\p{sc=Thai}', '\\p{sc=Georgian}', '\\p{sc=Armenian}', '\\p{sc=Devanagari}', '\\p{sc=Arabic}', '\\p{sc=Cyrillic}']
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
