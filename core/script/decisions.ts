import { addTo } from '../tally'
import type { HitOff } from '../style/rule'
import { anchorSchema, placeOf, type Anchor } from './anchor'
import { writtenText } from './content'
import type { Passage } from './script'
import { wholeText } from './whole-text'

/**
 * What a producer has decided about something that was found: a hit of a rule switched off, an entry of the census (all of its places, or one)
 * or a finding of the narrator check ignored.
 */
export type Decision =
  | { readonly about: 'rule', readonly rule: string, readonly at: Anchor }
  | { readonly about: 'census', readonly reason: string, readonly key: string, readonly at?: Anchor }
  | { readonly about: 'narrator', readonly reason: string, readonly at: Anchor }

const name = { type: 'string', minLength: 1, maxLength: 300, pattern: wholeText } as const

/** JSON Schema of a decision. */
export const decisionSchema = {
  oneOf: [
    { type: 'object', required: ['about', 'rule', 'at'], additionalProperties: false, properties: { about: { const: 'rule' }, rule: name, at: anchorSchema } },
    { type: 'object', required: ['about', 'reason', 'key'], additionalProperties: false, properties: { about: { const: 'census' }, reason: name, key: name, at: anchorSchema } },
    { type: 'object', required: ['about', 'reason', 'at'], additionalProperties: false, properties: { about: { const: 'narrator' }, reason: name, at: anchorSchema } },
  ],
} as const

/** The hits of rules that are switched off in a passage as it is now; what is no longer found there is not among them. */
export function hitsOff(decisions: readonly Decision[]): (passage: Passage) => readonly HitOff[] {
  const byPassage = new Map<string, RuleDecision[]>()
  for (const decision of decisions) if (decision.about === 'rule') addTo(byPassage, decision.at.passageId, decision)
  return passage => {
    const own = byPassage.get(passage.id)
    if (own === undefined) return []
    const text = writtenText(passage.content)
    return own.flatMap(({ rule, at }) => {
      const place = placeOf(at, text)
      return place === null ? [] : [{ rule, start: place[0], end: place[1] }]
    })
  }
}

type RuleDecision = Extract<Decision, { about: 'rule' }>
