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

/** Between two turns of a conversation there can be one passage of somebody else, such as what they do meanwhile. */
const nearTurns = 2
/** More than these do not speak with each other: the labels are headwords of a list. */
const mostSpeakers = 8

/** Labels at the beginning of the passages of a part. */
export interface FoundLabels {
  /** How often each stands there. */
  readonly counts: ReadonlyMap<string, number>
  /** Those that alternate as in a conversation: Ann, Ben, Ann. A list (First: … Secondly: …) names each once. */
  readonly alternating: ReadonlySet<string>
}

export function labelsIn(passages: readonly { readonly content: Content }[]): FoundLabels {
  const counts = new Map<string, number>()
  const alternating = new Set<string>()
  let turns: string[] = []
  let last = 0
  const end = (): void => {
    if (alternate(turns)) for (const label of turns) alternating.add(label)
    turns = []
  }
  passages.forEach(({ content }, index) => {
    const found = labelOf(writtenText(content))
    if (found === null || isLeftOut(content, found.end)) return
    count(counts, found.label)
    if (ordinals.has(found.label.toLowerCase())) return
    if (index - last > nearTurns) end()
    turns.push(found.label)
    last = index
  })
  end()
  return { counts, alternating }
}

/** Whether somebody speaks again after somebody else has, and there are few of them. */
function alternate(turns: readonly string[]): boolean {
  const speakers = new Set(turns).size
  const changes = turns.filter((label, index) => index > 0 && label !== turns[index - 1]).length
  return speakers <= mostSpeakers && changes >= speakers
}

/** Words that count what follows: they come again with every list. */
const ordinals: ReadonlySet<string> = new Set([
  'first', 'firstly', 'second', 'secondly', 'third', 'thirdly', 'fourth', 'fourthly', 'fifth', 'next', 'then', 'last', 'lastly', 'finally',
  'erstens', 'zweitens', 'drittens', 'viertens', 'fünftens', 'schließlich', 'zuletzt', 'premièrement', 'deuxièmement', 'troisièmement', 'enfin', 'primero', 'segundo', 'tercero', 'finalmente',
])

/** The speaker labels of a script, the most frequent first: those that alternate in some part, with how often they stand in all. Passages whose label is left out already are dealt with. */
export function speakerLabels({ counts, alternating }: FoundLabels): SpeakerLabel[] {
  return [...alternating].map(label => ({ label, role: roleName(label), count: counts.get(label) ?? 0 })).sort((a, b) => b.count - a.count)
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
