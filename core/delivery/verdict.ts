import type { Finding } from './conformance'

/** What is found of a file; null where it was never judged. */
type Findings = readonly Finding[] | null

export const verdictOf = (findings: Findings): 'not measured' | 'passes' | 'fails' => findings === null ? 'not measured' : findings.length === 0 ? 'passes' : 'fails'

/** A file that was never judged does not fail. */
export const isFailing = ({ findings }: { readonly findings: Findings }): boolean => verdictOf(findings) === 'fails'

/** Seconds with two decimals, of ms; nothing where they are not known. */
export const secondsOf = (ms: number | null | undefined): string => ms === null || ms === undefined ? '' : (ms / 1000).toFixed(2)
