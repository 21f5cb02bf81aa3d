import { matchesOf } from '../../matches'
import type { DirectionValue } from '../../script/directions'
import type { PassageKind } from '../../script/script'

/** A text that a rule looks at: that of a passage, with what the rules before it have made of it. */
export interface RuleText {
  readonly text: string
  /** BCP 47 */
  readonly language: string
  readonly kind: PassageKind
}

/** What a rule does at a place of a text. `end` is exclusive. */
export interface RuleHit {
  readonly start: number
  readonly end: number
  /** Spoken in its place; nothing is when it is empty. */
  readonly spoken?: string
  /** Silence around it, in ms. */
  readonly restBeforeMs?: number
  readonly restAfterMs?: number
  /** How it is said. */
  readonly on?: readonly DirectionValue[]
  /** It may be meant otherwise: the census lists it. */
  readonly weak?: true
}

export const ruleGroups = ['cleaning', 'pauses', 'pace', 'own', 'expansion'] as const
export type RuleGroup = (typeof ruleGroups)[number]

/** A kind of rule: what can be set about it, and what it finds. `Options` is what a rule of the kind holds besides what all have. */
export interface RuleKind<Options extends object> {
  readonly group: RuleGroup
  /** JSON Schema of its options, by name. */
  readonly options: Readonly<Record<string, object>>
  readonly required: readonly string[]
  readonly defaults: Options
  /** Hits in order, none over another. May throw a problem when it is made for options that cannot be followed. */
  readonly finder: (options: Options) => (text: RuleText) => RuleHit[]
}

export type NoOptions = Record<never, never>

/** All matches of a pattern, with what is made of each; null leaves one alone. A text without what `needs` finds is passed over: most are, and quickly. */
export function each(pattern: RegExp, make: (match: RegExpMatchArray & { index: number }, text: RuleText) => Omit<RuleHit, 'start' | 'end'> | null, needs?: RegExp): (text: RuleText) => RuleHit[] {
  return text => {
    if (needs?.test(text.text) === false) return []
    const hits: RuleHit[] = []
    for (const match of matchesOf(pattern, text.text)) {
      const made = make(match as RegExpMatchArray & { index: number }, text)
      if (made !== null) hits.push({ start: match.index, end: match.index + match[0].length, ...made })
    }
    return hits
  }
}

/**
 * Words stand by themselves: a space where a letter or a figure touches them, and where they ask for one by their own and none is there; never two. Behind a hyphen at
 * their end comes none.
 */
export function apart(spoken: string, text: string, start: number, end: number): string {
  const words = spoken.trim()
  if (words === '') return ''
  const [before, after] = [text.slice(Math.max(0, start - 2), start), text.slice(end, end + 2)]
  const asksBefore = /[\p{L}\p{N}]$/u.test(before) || spoken.startsWith(' ') && !/(?:^|\s)$/u.test(before)
  const asksAfter = !spoken.endsWith('-') && (/^[\p{L}\p{N}]/u.test(after) || spoken.endsWith(' ') && !/^(?:\s|$)/u.test(after))
  return `${asksBefore ? ' ' : ''}${words}${asksAfter ? ' ' : ''}`
}
