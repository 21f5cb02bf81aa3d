import { each, type RuleKind } from './rule-kind'

const restMs = { type: 'integer', minimum: 0, maximum: 20_000 } as const

interface Pause {
  readonly restMs: number
}

/** A rest behind every match, with the quotation marks and brackets that close there. */
const pause = (pattern: RegExp, ms: number, needs?: RegExp): RuleKind<Pause> => ({
  group: 'pauses', options: { restMs }, required: ['restMs'], defaults: { restMs: ms }, finder: options => each(pattern, () => ({ restAfterMs: options.restMs }), needs),
})

// The lengths are this product's own starting values. A voice makes pauses of its own at these marks, each as it likes: here they become equal ones.

/** Between words; a comma within a figure has no space behind it. */
export const comma = pause(/,[”"’»“)\]]*(?=\s)/gu, 180, /,/u)
/** Between a quotation and the words that name its speaker, and before one that follows a comma. */
export const quotation = pause(/[.,!?…—–-][\u00a0\u202f ]?["”“’‘»«›]+(?=\s+[\p{L}\p{N}])|[“«»‘],(?=\s+\p{L})|,(?=\s+["“‘„«»‹›])/gu, 250, /["”“’‘»«›]/u)
export const ellipsis = pause(/(?:…|\.{3}|\. \. \.)[.!?]?[”"’»)\]]*/gu, 500)
export const dash = pause(/—|(?<=\s)[–-](?=\s)/gu, 250)
export const colon = pause(/:(?=[\s”"’»)]|$)[”"’»)\]]*/gu, 350)
export const semicolon = pause(/;[”"’»)\]]*/gu, 300)
/** Before a bracket that opens and behind one that closes. */
export const parenthesis: RuleKind<Pause> = {
  ...pause(/[([]|[)\]]/gu, 200),
  finder: options => each(/[([](?!\d{1,4}[\],;–-])|[)\]][.,;:!?”"’»]*/gu, ([text]) => /^[([]/u.test(text) ? { restBeforeMs: options.restMs } : { restAfterMs: options.restMs }),
}
/** At the end of a line in a passage that has no punctuation there. */
export const unendedLine = pause(/(?<=[^\s.,;:!?…—–-][”"’»)\]]{0,4})[ \t]*\n/gu, 350, /\n/u)
