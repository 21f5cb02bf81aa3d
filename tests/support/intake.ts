import { countDrops } from '#core/manuscript/arrange'
import { defaultChoices, type Choices } from '#core/manuscript/choices'
import type { Manuscript } from '#core/manuscript/manuscript'
import { propose, type Proposal } from '#core/manuscript/structure'
import { readManuscript, type IntakeOptions } from '../../intake/read-manuscript'

/** A manuscript of bytes that a test made. */
export const bring = (name: string, content: string | Buffer, options: IntakeOptions = {}): Promise<Manuscript> =>
  readManuscript({ name, bytes: Buffer.from(content) }, options)

export const proposed = (manuscript: Manuscript, choices: Partial<Choices> = {}): Proposal => propose(manuscript, { ...defaultChoices(manuscript), ...choices })

/** What is read of a manuscript, passage by passage; parts that are left out with the others. */
export const passages = (manuscript: Manuscript, choices: Partial<Choices> = {}): string[] =>
  proposed(manuscript, choices).parts.flatMap(part => part.passages.map(passage => passage.text))

export const labels = (manuscript: Manuscript, choices: Partial<Choices> = {}): string[] => proposed(manuscript, choices).parts.map(part => part.label)

/** How often each kind of thing is not read. */
export const dropped = (manuscript: Manuscript, choices: Partial<Choices> = {}): Record<string, number> =>
  Object.fromEntries(countDrops(proposed(manuscript, choices).drops).map(({ kind, count }) => [kind, count]))

export const words = (text: string): string[] => text.toLowerCase().normalize('NFKC').match(/[\p{L}\p{N}]+/gu) ?? []
