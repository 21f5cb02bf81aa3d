import { beginner, looksLikeTitle, type Candidate } from '../manuscript/begins'
import type { Split } from '../manuscript/choices'
import type { Block } from '../manuscript/manuscript'
import type { PassageKind } from './script'

/** A part as dividing it anew needs it. */
export interface DividedPart {
  readonly id: string
  readonly label: string
  readonly passages: readonly DividedPassage[]
}

export interface DividedPassage {
  readonly id: string
  readonly kind: PassageKind
  readonly text: string
  /** Of a heading, also where it became a title. */
  readonly level: number | null
  /** The manuscript's block that it came from. */
  readonly block: number | null
}

/** The passages of one part after the division. */
export interface DividedGroup {
  /** The part that goes on with it; null for a new one. */
  readonly part: string | null
  /** The part that its first passage was in. */
  readonly from: string
  readonly label: string
  readonly passages: readonly { readonly id: string, readonly kind: PassageKind }[]
}

const labelCharacters = 300

/**
 * Divides a script anew by a rule, passage by passage: texts stay as they are. A part that begins where one began
 * before is the same part and keeps its name. `blocks` are the manuscript's, for rules and empty lines.
 */
export function divideScript(parts: readonly DividedPart[], split: Split, blocks: readonly Block[]): DividedGroup[] {
  const passages = parts.flatMap(part => part.passages.map((passage, index) => ({ part, passage, isFirst: index === 0 })))
  const candidates = passages.map(({ passage }, index) => behind(passages[index - 1]?.passage, candidate(passage, blocks)))
  const begins = beginner(candidates, split)
  const groups: { part: string | null, from: string, label: string, passages: { id: string, kind: PassageKind }[] }[] = []
  passages.forEach(({ part, passage, isFirst }, index) => {
    const how = begins(candidates[index]!, index)
    if (index === 0 || how !== null) {
      const titled = how === 'titled' || (how === 'perhaps' && looksLikeTitle(candidates[index]!, candidates[index + 1])) || (index === 0 && passage.kind === 'title')
      groups.push({ part: isFirst ? part.id : null, from: part.id, label: isFirst ? part.label : label(passage.text), passages: [{ id: passage.id, kind: titled ? 'title' : untitled(passage) }] })
    } else {
      groups.at(-1)!.passages.push({ id: passage.id, kind: untitled(passage) })
    }
  })
  return groups
}

/** A scene break parts, wherever it comes from. */
function behind(before: DividedPassage | undefined, { text, source }: Candidate): Candidate {
  return { text, source: before?.kind === 'sceneBreak' ? { ...source, after: 'rule' } : source }
}

/** A passage as a rule for dividing sees it: with what is known of the block that it came from. */
export function candidate({ kind, text, level, block }: DividedPassage, blocks: readonly Block[]): Candidate {
  const { after, emptyLines, entry } = (block === null ? undefined : blocks[block]) ?? {}
  return {
    text,
    source: {
      kind: kind === 'title' ? 'heading' : kind,
      ...(level === null ? {} : { level }), ...(after === undefined ? {} : { after }), ...(emptyLines === undefined ? {} : { emptyLines }), ...(entry === undefined ? {} : { entry }),
    },
  }
}

/** What a passage is where it begins no part. */
function untitled({ kind, level }: DividedPassage): PassageKind {
  return kind !== 'title' ? kind : level === null ? 'paragraph' : 'heading'
}

function label(text: string): string {
  return text.length <= labelCharacters ? text : `${text.slice(0, labelCharacters - 2).trimEnd()} …`
}
