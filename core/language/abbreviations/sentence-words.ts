/** The words of a language that tell whether a full stop ends a sentence; each list is separated by spaces. */
export interface SentenceWords {
  /**
   * Abbreviations that stand before a name: they never end a sentence.
   * Those of several short words are without their spaces: `p.ej.`
   */
  readonly beforeName: string
  /** Abbreviations that stand before a number: they do not end a sentence there. */
  readonly beforeNumber: string
  /** Abbreviations that end a sentence only when a word follows that usually opens one, beyond those of CLDR. */
  readonly other: string
  /** Abbreviations that end an enumeration: before a capital letter they end the sentence too (etc.). */
  readonly endsList?: string
  /** Words that usually open a sentence when they are written with a capital letter. */
  readonly opening: string
  /** Ordinals are written with a full stop, also before a word with a capital letter: 2. Ordu, Karel IV. Lipový. */
  readonly ordinals?: 'roman' | 'all'
}
