const onset = /^(?:[BCDFGHJKLMNPQRSTVWXYZ]?[AEIOU]|(?:BL|BR|CH|CL|CR|DR|FL|FR|GL|GR|PL|PR|SC|SH|SK|SL|SM|SN|SP|ST|SW|TH|TR)[AEIOU])/iu
/** Three consonants or three vowels in a row, Y among the consonants. */
const unsayable = /[BCDFGHJKLMNPQRSTVWXYZ]{3}|[AEIOU]{3}/iu

/** Whether capital letters are said as a word rather than one by one: at least four, with vowels between consonants (COVID, NATO, UNESCO). */
export function hasWordShape(letters: string): boolean {
  return letters.length >= 4 && onset.test(letters) && !unsayable.test(letters)
}
