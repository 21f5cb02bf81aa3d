import { spokenOf, type CompileContext } from './compile'
import type { Step } from './segments'
import { writtenText } from '../script/content'
import type { Part } from '../script/script'
import { addTo } from '../tally'
import { contextOf } from '../words/census'

/** A place where a rule does something. */
export interface RulePlace {
  readonly partId: string
  readonly partLabel: string
  readonly passageId: string
  /** In the written text; `end` is exclusive. */
  readonly start: number
  readonly end: number
  readonly step: Step
}

/** Every place of the parts that are spoken where a rule acts, by the rule's id, in the order of the script. */
export function placesOfRules(parts: readonly Part[], context: Pick<CompileContext, 'language' | 'findWords' | 'rules' | 'off'>): Map<string, RulePlace[]> {
  const places = new Map<string, RulePlace[]>()
  for (const part of parts) {
    if (!part.included) continue
    for (const passage of part.passages) {
      for (const step of spokenOf(passage, { ...context, partLabel: part.label }).steps) {
        if ('rule' in step.by) addTo(places, step.by.rule, { partId: part.id, partLabel: part.label, passageId: passage.id, start: step.written[0], end: step.written[1], step })
      }
    }
  }
  return places
}

/** A place in its context, before and behind. */
export interface RuleHitView extends Omit<RulePlace, 'step'> {
  readonly before: string
  readonly written: string
  readonly after: string
  /** What it becomes; null where only a rest or a way of saying comes. */
  readonly becomes: string | null
  readonly restMs: number
  readonly how: Step['on'] | null
}

/** A place as it is shown, `text` being the written text of its passage. */
export function viewOfPlace({ step, ...place }: RulePlace, text: string): RuleHitView {
  return {
    ...place, ...contextOf(text, place),
    becomes: step.from === step.to ? null : step.to, restMs: (step.restBeforeMs ?? 0) + (step.restAfterMs ?? 0), how: step.on ?? null,
  }
}

/** The written text of every passage, by its id. */
export function textsOf(parts: readonly Part[]): Map<string, string> {
  return new Map(parts.flatMap(part => part.passages.map(passage => [passage.id, writtenText(passage.content)] as const)))
}
