import { spokenForm, type Group } from '#core/score/spoken'
import type { Passage } from '#core/script/script'
import { writtenText } from '#core/script/content'
import type { IntakeFlags } from './choices'
import { openDocument, type VoiceFlags } from './environment'
import { printJson } from './print'
import { openWordbooks } from './wordbook'

/** Prints the text as it is spoken, a line for each passage; as JSON, with the map between what is written and what is spoken. */
export async function spoken(file: string, flags: IntakeFlags & VoiceFlags & { json?: boolean }): Promise<void> {
  const { script } = await openDocument(file, flags)
  const findWords = await openWordbooks(flags.wordbook ?? [], script.language)
  const passages = script.parts.flatMap((part, index) => part.included ? part.passages.map(passage => ({ part: index + 1, passage })) : [])
  const forms = passages.map(({ part, passage }) => ({ part, passage, form: spokenForm(passage.content, passage.language ?? script.language, findWords) }))
  if (flags.json !== true) {
    for (const { form } of forms) process.stdout.write(`${form.text}\n`)
    return
  }
  printJson({
    passages: forms.map(({ part, passage, form }) => ({
      part, kind: passage.kind, written: writtenText(passage.content), spoken: form.text,
      map: form.groups.map(group => ({ written: group.written, spoken: group.spoken, ...ruleOf(group, passage) })),
    })),
  })
}

/** What made a piece of text spoken as it is, when something did. */
function ruleOf({ by }: Group, { content }: Passage): { readonly rule?: string } {
  if (by === undefined) return {}
  return { rule: 'word' in by ? `wordbook ${by.word}` : `direction ${content.directions.find(direction => direction.id === by.direction)?.kind}` }
}
