/** Nouns that an ordinal stands before without an article, with the ending that it has there: II. Weltkrieg, 1. Kapitel. */
export const countedNouns: Readonly<Record<string, string>> = {
  Weltkrieg: 'er', Akt: 'er', Teil: 'er', Abschnitt: 'er', Band: 'er', Stock: 'er', Advent: 'er', Platz: 'er', Rang: 'er', Tag: 'er',
  Kapitel: 'es', Quartal: 'es', Buch: 'es', Jahrhundert: 'es', Reich: 'es', Semester: 'es', Obergeschoss: 'es',
  Liga: 'e', Republik: 'e', Internationale: 'e', Dynastie: 'e', Auflage: 'e', Klasse: 'e', Etage: 'e', Halbzeit: 'e', Woche: 'e',
}
