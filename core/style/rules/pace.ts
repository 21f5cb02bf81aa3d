import type { RuleHit, RuleKind, RuleText } from './rule-kind'

const paceTargets = ['passage', 'numbers', 'quotations'] as const
type PaceTarget = (typeof paceTargets)[number]

const found: Readonly<Record<PaceTarget, (text: RuleText) => (readonly [start: number, end: number])[]>> = {
  passage: ({ text }) => text.trim() === '' ? [] : [[0, text.length]],
  numbers: ({ text }) => spans(text, /(?:(?<![\p{L}\p{N}])\p{Lu}{1,5}-?(?=\d))?(?:[-−+]?\d[\d.,:/\u00a0\u202f'’-]*\d|\d)/gu),
  quotations: ({ text, kind }) => kind === 'quotation' ? [[0, text.length]] : spans(text, /[“„«][^“”„«»]*[”“»]|"[^"]*"/gu),
}

function spans(text: string, pattern: RegExp): [start: number, end: number][] {
  return [...text.matchAll(pattern)].map(match => [match.index, match.index + match[0].length])
}

/** Slower or faster than the voice: whole passages (of the kinds in its scope), numbers, or what is quoted. */
export const pace: RuleKind<{ readonly ratePercent: number, readonly of: PaceTarget }> = {
  group: 'pace', options: { ratePercent: { type: 'integer', minimum: 50, maximum: 200 }, of: { enum: paceTargets } }, required: ['ratePercent', 'of'], defaults: { ratePercent: 90, of: 'passage' },
  finder: ({ ratePercent, of }) => text => found[of](text).map(([start, end]): RuleHit => ({ start, end, on: [{ kind: 'prosody', rate: `${ratePercent}%` }] })),
}
