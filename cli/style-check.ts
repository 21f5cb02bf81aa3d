import { writtenText } from '#core/script/content'
import { checkNarration, narratorAdvice } from '#core/style/narrator-check'
import type { IntakeFlags } from './choices'
import { openDocument } from './environment'
import { counted, printJson } from './print'

/** Prints what of a document is not for a synthetic narrator, with its place. */
export async function styleCheck(file: string, flags: IntakeFlags & { longest?: number, json?: boolean }): Promise<void> {
  const { script } = await openDocument(file, flags)
  const findings = script.parts.flatMap((part, index) => !part.included ? [] : checkNarration(part.passages, script.language, flags.longest).map(finding => {
    const at = part.passages.findIndex(passage => passage.id === finding.passageId)
    const text = writtenText(part.passages[at]!.content)
    return { part: index + 1, passage: at + 1, start: finding.start, end: finding.end, reason: finding.reason, text: text.slice(finding.start, finding.end), message: narratorAdvice[finding.reason] }
  }))
  if (flags.json === true) return printJson({ findings })
  for (const { part, passage, reason, text, message } of findings) process.stdout.write(`part ${part}, passage ${passage}: ${reason} “${text.length > 80 ? `${text.slice(0, 79)}…` : text}” ${message}\n`)
  process.stdout.write(`${counted(findings.length, 'finding')}\n`)
}
