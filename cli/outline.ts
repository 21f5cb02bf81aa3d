import type { EncodingCertainty, TextEncoding } from '#core/manuscript/encodings'
import { countDrops } from '#core/manuscript/arrange'
import { otherDivisions } from '#core/manuscript/divisions'
import { countWords, type Manuscript } from '#core/manuscript/manuscript'
import type { ProposedPart } from '#core/manuscript/structure'
import { count, most } from '#core/tally'
import type { IntakeFlags } from './choices'
import { openDocument } from './environment'
import { note, printJson, printTable } from './print'

const shownWords = 5

export async function outline(file: string, flags: IntakeFlags & { json?: boolean }): Promise<void> {
  const { manuscript, proposal, script } = await openDocument(file, flags)
  const parts = proposal.parts.map((part, index) => summary(part, index, script.language))
  const dropped = countDrops(proposal.drops).flatMap(({ kind, count, restored }) => count === restored ? [] : [{ kind, count: count - restored }])
  const divisions = manuscript.units.length > 0 ? [] : otherDivisions(manuscript)
  if (flags.json === true) {
    const { format, author, problems, encoding } = manuscript
    printJson({ title: script.title, author, language: script.language, format, parts, dropped, problems, ...(encoding === undefined ? {} : { encoding }), ...(divisions.length === 0 ? {} : { divisions }) })
    return
  }
  if (manuscript.languageSource === 'assumed') {
    note(`There is too little text to tell the language; ${script.language} is assumed. Set it with --language.`)
  }
  noteProblems(manuscript)
  if (manuscript.encoding !== undefined) note(encodingLine(manuscript.encoding))
  process.stdout.write(`${script.title} (${script.language})\n`)
  printTable(['No', 'Part', 'Read', 'Words', 'Characters', 'Passages'], parts.map(part =>
    [part.number, part.label, part.included ? 'yes' : 'no', part.words, part.characters, part.passages]))
  if (dropped.length > 0) process.stdout.write(`Not read: ${dropped.map(({ kind, count }) => `${count} ${kind}`).join(', ')}\n`)
  if (divisions.length > 0) process.stdout.write(`Could also begin parts: ${divisions.map(({ by, places }) => `--by '${by}' (${places})`).join(', ')}\n`)
}

const certainties: Readonly<Record<EncodingCertainty, string>> = { chosen: 'as chosen', declared: 'as the file says', certain: 'recognised, certain', likely: 'recognised, likely', doubtful: 'doubtful' }

function encodingLine({ name, certainty, others }: TextEncoding): string {
  const other = certainty === 'certain' || certainty === 'chosen' ? [] : others.map(({ name: another }) => another)
  return `Read as ${name} (${certainties[certainty]}).${other.length === 0 ? '' : ` Could also be: ${other.join(', ')}; choose with --encoding.`}`
}

function summary(part: ProposedPart, index: number, language: string) {
  const words = part.passages.flatMap(passage => passage.text.split(/\s+/u).filter(word => word !== ''))
  return {
    number: index + 1, kind: part.kind, label: part.label, included: part.included, level: part.level, language: languageOf(part) ?? language,
    words: part.passages.reduce((sum, passage) => sum + countWords(passage.text), 0),
    characters: part.passages.reduce((sum, passage) => sum + passage.text.length, 0),
    passages: part.passages.length,
    firstWords: words.slice(0, shownWords).join(' '), lastWords: words.slice(-shownWords).join(' '),
    ...part.about,
  }
}

/** The language that most of a part is in, when it is another one. */
function languageOf({ passages }: ProposedPart): string | null {
  const counts = new Map<string | null, number>()
  for (const { language = null, text } of passages) count(counts, language, text.length)
  return most(counts)?.[0] ?? null
}

/** Says on standard error what could not be taken in as it is. */
export function noteProblems({ problems }: Manuscript): void {
  for (const { message, place } of problems) note(place === undefined ? message : `${place}: ${message}`)
}
