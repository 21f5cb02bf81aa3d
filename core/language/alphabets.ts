/** Letters beyond ASCII of languages that are written in Latin letters, in lower case: the main exemplars of Unicode CLDR, *from memory*. */
export const alphabets: Readonly<Record<string, string>> = {
  af: 'áâèéêëîïôöûü', ca: 'àçéèíïóòúü·', cs: 'áčďéěíňóřšťúůýž', da: 'æøåé', de: 'äöüß', es: 'áéíñóúüªº', et: 'äõöüšž', fi: 'äöåšž', fr: 'àâæçéèêëîïôœùûüÿ', hr: 'čćđšž', hu: 'áéíóöőúüű',
  is: 'áðéíóúýþæö', it: 'àèéìíîòóùúªº', lt: 'ąčęėįšųūž', lv: 'āčēģīķļņšūž', nl: 'áéèëïóöü', no: 'æøåéòôà', nb: 'æøåéòôà', pl: 'ąćęłńóśźż', pt: 'áàâãçéêíóôõúªº', ro: 'ăâîșşțţ', sk: 'áäčďéíĺľňóôŕšťúýž', sl: 'čšž', sq: 'ëç', sv: 'åäöé', tr: 'çğıöşüâîû', eu: 'ñçü', gl: 'áéíñóúü',
}

const unknown = new Set(Object.values(alphabets).flatMap(letters => [...letters]))

/** Whether a letter beyond ASCII is one that a language (`de`) has; of a language that is not in the table, whether any language has it. */
export function isLetterOf(language: string, letter: string): boolean {
  const lower = letter.toLowerCase()
  return alphabets[language] === undefined ? unknown.has(lower) : alphabets[language].includes(lower)
}

/** Whether a word has a letter that a language does not have. English has none beyond the 26: words that keep those of others (café) count too. */
export function hasForeignLetter(word: string, language: string): boolean {
  return [...word.normalize('NFC')].some(letter => {
    if (!/\p{L}/u.test(letter) || /[a-z]/iu.test(letter)) return false
    if (language === 'en') return true
    return alphabets[language] === undefined ? false : !alphabets[language].includes(letter.toLowerCase())
  })
}

/**
 * Letters that voices of languages in Latin letters spell out by their code (“letter one E C five”): those beyond Latin-1 and Latin Extended-A, the barred d, and other scripts.
 * Tried with the embedded engine's voices of English, German and French.
 */
export function isSpeltOut(word: string): boolean {
  return /[đĐ]|(?=\p{L})[^\u0000-\u017f]/u.test(word.normalize('NFC'))
}
