/** A JSON Schema pattern: no NUL and no half of a character. No text means them, and no database takes them. */
export const wholeText = '^[^\\u0000\\ud800-\\udfff]*$'
