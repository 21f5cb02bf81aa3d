import { writtenText } from '#core/script/content'
import type { IntakeFlags } from './choices'
import { openDocument } from './environment'
import { noteProblems } from './outline'

/** Prints what would be read, one passage a line. */
export async function text(file: string, flags: IntakeFlags): Promise<void> {
  const { manuscript, script } = await openDocument(file, flags)
  noteProblems(manuscript)
  for (const part of script.parts) {
    if (part.included) for (const passage of part.passages) process.stdout.write(`${writtenText(passage.content)}\n`)
  }
}
