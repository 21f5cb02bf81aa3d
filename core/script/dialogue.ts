import { directionSpans, writtenText, type Content } from './content'
import { withDirection } from './edit'
import { count } from '../tally'

/** A label that names a speaker at the beginning of passages, such as `MENTOR:`. */
export interface SpeakerLabel {
  /** As it is written, without the colon. */
  readonly label: string
  /** Name of the role that it would become. */
  readonly role: string
  readonly count: number
}

/** A name in capitals, or up to three capitalised words, before a colon and something to say. */
const labelled = /^\s*((?:\p{Lu}[\p{Lu}\p{M}\p{N}.'’-]*)(?: [\p{Lu}\p{N}][\p{Lu}\p{M}\p{N}.'’-]*){0,3}|\p{Lu}[\p{L}\p{M}.'’-]*(?: \p{Lu}[\p{L}\p{M}.'’-]*){0,2})\s*:\s+(?=\S)/u

/** Where a label ends and speech begins; null when the text begins with none. */
function labelOf(text: string): { readonly label: string, readonly end: number } | null {
  const match = labelled.exec(text)
  return match === null || match[1]!.length > 40 ? null : { label: match[1]!, end: match[0].length }
}

/** How often each label stands at the beginning of some passages. */
export function labelCounts(passages: readonly { readonly content: Content }[]): Map<string, number> {
  const counts = new Map<string, number>()
  for (const { content } of passages) {
    const found = labelOf(writtenText(content))
    if (found !== null && !isLeftOut(content, found.end)) count(counts, found.label)
  }
  return counts
}

/**
 * The speaker labels of a script by the counts of its labels, the most frequent first. One in capitals counts from its first time when another
 * label stands there too; one in other letters only when it comes twice at least, beside a second one: a note such as
 * “Warning:” is no speaker. Passages whose label is left out already are dealt with.
 */
export function speakerLabels(counts: ReadonlyMap<string, number>): SpeakerLabel[] {
  const likely = [...counts].filter(([label, count]) => isCapitals(label) || count >= 2)
  const speakers = likely.length >= 2 ? likely : likely.filter(([label, count]) => isCapitals(label) && count >= 2)
  return speakers.map(([label, count]) => ({ label, role: roleName(label), count })).sort((a, b) => b.count - a.count)
}

function isCapitals(label: string): boolean {
  return label === label.toUpperCase() && /\p{Lu}{2}/u.test(label)
}

function roleName(label: string): string {
  return isCapitals(label) ? label.toLowerCase().replace(/(?<=^|[\s'’-])\p{L}/gu, letter => letter.toUpperCase()) : label
}

function isLeftOut(content: Content, end: number): boolean {
  return directionSpans(content).some(span => span.direction.kind === 'leftOut' && span.start === 0 && span.end >= end)
}

/** A passage spoken by the role of its label, the label left out; null when it has none of these. `id` is for the direction. */
export function asTurn(content: Content, roles: ReadonlyMap<string, string>, id: string): { readonly content: Content, readonly role: string } | null {
  const found = labelOf(writtenText(content))
  const role = found === null ? undefined : roles.get(found.label)
  if (found === null || role === undefined || isLeftOut(content, found.end)) return null
  return { role, content: withDirection(content, { id, kind: 'leftOut' }, 0, found.end) }
}
