import { spokenOf } from '#core/score/compile'
import type { Cause } from '#core/score/segments'
import type { Group } from '#core/score/spoken'
import type { Passage } from '#core/script/script'
import { writtenText, type Content } from '#core/script/content'
import { prepareRules, type Rule } from '#core/style/rule'
import type { IntakeFlags } from './choices'
import { openDocument, openHouseStyle, type VoiceFlags } from './environment'
import { printJson } from './print'
import { openWordbooks } from './wordbook'

/** Prints the text as it is spoken, a line for each passage; as JSON, with the map between what is written and what is spoken. */
export async function spoken(file: string, flags: IntakeFlags & VoiceFlags & { json?: boolean }): Promise<void> {
  const { script, manuscript } = await openDocument(file, flags)
  const findWords = await openWordbooks(flags.wordbook ?? [], script.language)
  const passages = script.parts.flatMap((part, index) => part.included ? part.passages.map(passage => ({ part: index + 1, passage })) : [])
  const style = await openHouseStyle(flags.houseStyle, manuscript)
  const context = { language: script.language, findWords, rules: prepareRules(style.rules) }
  const forms = passages.map(({ part, passage }) => ({ part, passage, form: spokenOf(passage, { ...context, partLabel: script.parts[part - 1]!.label }) }))
  if (flags.json !== true) {
    for (const { form } of forms) process.stdout.write(`${form.text}\n`)
    return
  }
  printJson({
    passages: forms.map(({ part, passage, form }) => ({
      part, kind: passage.kind, written: writtenText(passage.content), spoken: form.text,
      map: form.groups.map(group => ({ written: group.written, spoken: group.spoken, ...ruleOf(group, passage, style.rules) })),
    })),
  })
}

/** What made a piece of text spoken as it is, when something did: the last of it, and where there were several all of them in order. */
function ruleOf({ by }: Group, { content }: Passage, rules: readonly Rule[]): { readonly rule?: string, readonly rules?: readonly string[] } {
  if (by === undefined) return {}
  const named = by.map(cause => nameOf(cause, content, rules))
  return { rule: named.at(-1)!, ...(named.length > 1 ? { rules: named } : {}) }
}

function nameOf(cause: Cause, content: Content, rules: readonly Rule[]): string {
  if ('word' in cause) return `wordbook ${cause.word}`
  if ('rule' in cause) return `house-style ${rules.find(rule => rule.id === cause.rule)?.does} ${cause.rule}`
  return `direction ${content.directions.find(direction => direction.id === cause.direction)?.kind}`
}
