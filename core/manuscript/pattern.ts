import { RE2JS, RE2JSSyntaxException } from 're2js'
import { fail } from '../problem'
import { maximumPatternCharacters } from './choices'

/** Patterns that headings without a style follow (*common practice*), by their name on screen. */
export const usualPatterns: readonly { readonly name: string, readonly pattern: string }[] = [
  { name: 'Chapter 7', pattern: '(?i)(chapter|kapitel|chapitre|capítulo|capitolo|hoofdstuk)\\s+([0-9]+|[ivxlc]+)\\b' },
  { name: 'Chapter One', pattern: '(?i)chapter\\s+(the\\s+)?(one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirteen|fourteen|fifteen|sixteen|seventeen|eighteen|nineteen|twenty|thirty|forty|fifty|first|second|third|fourth|fifth|last)\\b' },
  { name: 'VII.', pattern: '[IVXLC]+\\.?(\\s+\\S.{0,80})?$' },
  { name: '7.', pattern: '[0-9]{1,3}\\.?(\\s+\\S.{0,80})?$' },
  { name: 'Part One', pattern: '(?i)(part|book|teil|partie|parte)\\s+(one|two|three|four|five|six|seven|eight|nine|ten|[0-9]+|[ivxlc]+)\\b' },
]

/**
 * Whether a text begins with a match. Runs in time linear in the text, whatever the pattern (RE2 syntax). Throws a
 * problem for a pattern that is none.
 */
export function compilePattern(pattern: string): (text: string) => boolean {
  const compiled = compileRegExp(pattern)
  return text => compiled.matcher(text).lookingAt()
}

/** A regular expression in RE2 syntax. Throws a problem for one that is none. */
export function compileRegExp(pattern: string, { ignoreCase = false }: { readonly ignoreCase?: boolean } = {}): RE2JS {
  if (pattern.length > maximumPatternCharacters) fail('pattern-too-long', `The pattern has more than ${maximumPatternCharacters} characters. Use a shorter one.`)
  try {
    return RE2JS.compile(pattern, ignoreCase ? RE2JS.CASE_INSENSITIVE : 0)
  } catch (error) {
    if (!(error instanceof RE2JSSyntaxException)) throw error
    return fail('pattern-broken', `“${pattern}” is not a pattern that can be looked for: ${error.message.replace(/^error parsing regexp: /u, '')}. Correct it; look-around and back-references are not available.`)
  }
}
