import { madeOnce } from '../made-once'

/** Letters beyond ASCII of languages that are written in Latin letters, in lower case: the main exemplars of Unicode CLDR, *from memory*. */
export const alphabets: Readonly<Record<string, string>> = {
  af: 'áâèéêëîïôöûü', ca: 'àçéèíïóòúü·', cs: 'áčďéěíňóřšťúůýž', da: 'æøåé', de: 'äöüß', es: 'áéíñóúüªº', et: 'äõöüšž', fi: 'äöåšž', fr: 'àâæçéèêëîïôœùûüÿ', hr: 'čćđšž', hu: 'áéíóöőúüű',
  is: 'áðéíóúýþæö', it: 'àèéìíîòóùúªº', lt: 'ąčęėįšųūž', lv: 'āčēģīķļņšūž', nl: 'áéèëïóöü', no: 'æøåéòôà', nb: 'æøåéòôà', pl: 'ąćęłńóśźż', pt: 'áàâãçéêíóôõúªº', ro: 'ăâîșşțţ', sk: 'áäčďéíĺľňóôŕšťúýž', sl: 'čšž', sq: 'ëç', sv: 'åäöé', tr: 'çğıöşüâîû', eu: 'ñçü', gl: 'áéíñóúü',
}

/** Whether a language (`ru`) is written in other letters than Latin ones. */
const isOtherScript = madeOnce(language => {
  try {
    return (new Intl.Locale(language).maximize().script ?? 'Latn') !== 'Latn'
  } catch {
    return false
  }
})

/** Whether a word has a letter that a language does not have. English has none beyond the 26: words that keep those of others (café) count too. Of a language that is not in the table only Latin letters among those of another script do. */
export function hasForeignLetter(word: string, language: string): boolean {
  const own = language === 'en' ? '' : alphabets[language]
  const letters = [...word.normalize('NFC')].filter(letter => /\p{L}/u.test(letter))
  if (own === undefined) return isOtherScript(language) && letters.some(letter => /\p{sc=Latn}/u.test(letter))
  return letters.some(letter => !/[a-z]/iu.test(letter) && !own.includes(letter.toLowerCase()))
}

/**
 * Letters that voices of languages in Latin letters spell out by their code (“letter one E C five”): those beyond Latin-1 and Latin Extended-A, the barred d, and other scripts.
 * Tried with the embedded engine's voices of English, German and French.
 */
export function isSpeltOut(word: string): boolean {
  return /[đĐ]|(?=\p{L})[^\u0000-\u017f]/u.test(word.normalize('NFC'))
}
