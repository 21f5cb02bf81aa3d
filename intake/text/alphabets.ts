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
