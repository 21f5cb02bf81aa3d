/** A language tag (BCP 47) in its canonical form (`en-GB`); null when it is none. An underscore counts as a hyphen. */
export function canonicalLanguage(tag: string): string | null {
  try {
    return Intl.getCanonicalLocales(tag.trim().replace(/_/gu, '-'))[0] ?? null
  } catch {
    return null
  }
}

/** Whether a value is a language tag (BCP 47), by the grammar of ECMA-402: `en`, `en-GB`; not `en-`, `12`, `constructor`. */
export function isLanguageTag(value: string): boolean {
  return !/[\s_]/u.test(value) && canonicalLanguage(value) !== null
}

/** Name of the format in JSON Schemas; whoever compiles them adds it with `isLanguageTag`. */
export const languageTagFormat = 'language-tag'

/** JSON Schema of a language tag. */
export const languageTag = { type: 'string', minLength: 2, maxLength: 35, format: languageTagFormat } as const

/** Why a value is no language, for the user. */
export function notALanguage(value: string): string {
  return `“${value.slice(0, 40)}” is not a language tag. Use one such as en, en-GB or de.`
}
