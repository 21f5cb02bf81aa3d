/** Nouns that an ordinal stands before without an article, with the ending that it has there: II. Weltkrieg, 1. Kapitel. */
export const countedNouns: Readonly<Record<string, string>> = {
  Weltkrieg: 'er', WK: 'er', Satz: 'er', Gang: 'er', Versuch: 'er', Spieltag: 'er', Vorsitzender: 'er', Bürgermeister: 'er', FC: 'er', SC: 'er', Akt: 'er', Teil: 'er', Abschnitt: 'er', Band: 'er', Stock: 'er', Advent: 'er', Platz: 'er', Rang: 'er', Tag: 'er',
  Kapitel: 'es', Quartal: 'es', Buch: 'es', Jahrhundert: 'es', Jh: 'es', Jhd: 'es', Jhdt: 'es', Reich: 'es', Semester: 'es', Obergeschoss: 'es', Untergeschoss: 'es', Lehrjahr: 'es', Mal: 'es', Halbjahr: 'es', Bataillon: 'es',
  Liga: 'e', Bundesliga: 'e', Mannschaft: 'e', Runde: 'e', Stufe: 'e', Staffel: 'e', Strophe: 'e', Reihe: 'e', Republik: 'e', Internationale: 'e', Dynastie: 'e', Auflage: 'e', Klasse: 'e', Etage: 'e', Halbzeit: 'e', Woche: 'e',
}
