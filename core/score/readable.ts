import { madeOnce } from '../made-once'

/** The scripts, as Unicode names them, of those that ISO 15924 has a name for as a whole. */
const joint: Readonly<Record<string, readonly string[]>> = { Hans: ['Hani', 'Bopo'], Hant: ['Hani', 'Bopo'], Jpan: ['Hani', 'Hira', 'Kana'], Kore: ['Hang', 'Hani'] }

/** The letters that a voice of a language reads; null when its script is not known. Latin is read by all of them. */
const signsOf = madeOnce((language): RegExp | null => {
  try {
    const { script } = new Intl.Locale(language).maximize()
    return script === undefined ? null : new RegExp(`[\\p{sc=Latn}${(joint[script] ?? [script]).map(name => `\\p{sc=${name}}`).join('')}]`, 'gu')
  } catch {
    return null
  }
})

/** Whether at least half of a text's letters are of a script that a voice of this language (BCP 47) reads. */
export function isReadable(text: string, language: string): boolean {
  const known = signsOf(language)
  if (known === null || !/[^\p{ASCII}]/u.test(text)) return true
  const letters = text.match(/\p{L}/gu)?.length ?? 0
  return (text.match(known)?.length ?? 0) * 2 >= letters
}
