import { ssmlElements } from '#core/script/ssml/elements'

/** Whether a text that is pasted is SSML: it has an element of SSML in it, closed or empty. */
export function looksLikeSsml(text: string): boolean {
  for (const match of text.matchAll(/<([a-z-]+)(?:\s[^<>]*)?(\/?)>/gu)) {
    if (Object.hasOwn(ssmlElements, match[1]!) && (match[2] === '/' || text.includes(`</${match[1]}>`))) return true
  }
  return false
}
