/** What something is called: one, and several. */
export type Names = readonly [one: string, many: string]

/** What a currency and its hundredth are called. */
export interface CurrencyNames {
  readonly unit: Names
  readonly part: Names
  readonly isFeminine?: true
}

/** What the rules of a language say: this product's own tables; the expansions that can be are checked against others. */
export interface RuleWords {
  readonly to: string
  readonly and: string
  readonly dot: string
  /** Between the figures of a version or a section: 2.0.1. */
  readonly point: string
  readonly slash: string
  readonly at: string
  readonly hyphen: string
  readonly underscore: string
  readonly colon: string
  /** For a sign of nearness: ~50. */
  readonly about: string
  /** Between the sides of a ratio (3:1), and of something that is measured (10×15). */
  readonly ratio: string
  readonly by: string
  /** Behind what is raised to the second and third power; before a higher exponent. */
  readonly squared: string
  readonly cubed: string
  readonly power: string
  readonly version: string
  /** Words before a Roman numeral that is said as a number, as a pattern. */
  readonly numbered: string
  /** Those of them that a single letter follows as often: Appendix C. */
  readonly lettered: string
  /** Rulers and popes whose numerals are said as ordinals (as cardinals where the language does that), as a pattern; words before such a name. */
  readonly rulers: string
  readonly titles: string
  /** Short forms of large numbers. */
  readonly magnitudes: Readonly<Record<string, string>>
  readonly symbols: Readonly<Record<string, string>>
  /** By sign, as it is written. */
  readonly currencies: Readonly<Record<string, CurrencyNames>>
  /** Abbreviations as they are written, with the last full stop. */
  readonly abbreviations: Readonly<Record<string, string>>
  /** Those that stand before a number only. */
  readonly beforeNumber: Readonly<Record<string, string>>
  /** Those that stand before a name (Dr. Elm), and behind one (Elm Dr.). */
  readonly beforeName: Readonly<Record<string, string>>
  readonly afterName: Readonly<Record<string, string>>
  /** Units beyond those that formatters know. */
  readonly units: Readonly<Record<string, Names>>
  /** Books of the Bible before chapter and verse, by what is written, with the full stop. */
  readonly books: Readonly<Record<string, string>>
  /** Words before a score: won 3–2. */
  readonly scores: string
  /** Words before a ratio that could be a time: a scale of 1:25. */
  readonly ratios: string
}
