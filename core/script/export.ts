import { countWords } from '../manuscript/manuscript'
import { writtenText } from './content'
import { sceneBreakText, type Part, type Passage, type Script } from './script'
import { writeSsml } from './ssml/write'

// A script as text for people and other programs. Parts that are left out of the narration are left out here too.

export const scriptFormats = ['ssml', 'txt', 'md', 'docx'] as const
export type ScriptFormat = (typeof scriptFormats)[number]

export const scriptMediaTypes: Readonly<Record<ScriptFormat, string>> = {
  ssml: 'application/ssml+xml', txt: 'text/plain; charset=utf-8', md: 'text/markdown; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document',
}

/** The parts of a script that are narrated. */
export function includedParts({ parts }: Pick<Script, 'parts'>): Part[] {
  return parts.filter(part => part.included && part.passages.length > 0)
}

/** Whether a passage says again what its part is called. */
export function repeatsLabel(part: Part, passage: Passage): boolean {
  return passage.kind === 'title' && writtenText(passage.content).trim() === part.label.trim()
}

export function scriptAsSsml(script: Script): string {
  return writeSsml({ language: script.language, parts: includedParts(script) })
}

/** One passage a paragraph, an empty line between them; the parts under their labels. */
export function scriptAsText(script: Script): string {
  return includedParts(script).map(part => [
    part.label, ...part.passages.filter(passage => !repeatsLabel(part, passage)).map(passage => `${passage.role === undefined ? '' : `${passage.role}: `}${writtenText(passage.content)}`),
  ].join('\n\n')).join('\n\n\n').concat('\n')
}

const before: Readonly<Record<Passage['kind'], string>> = { title: '## ', heading: '### ', paragraph: '', listItem: '- ', quotation: '> ', tableRow: '', note: '', sceneBreak: '' }

/** Parts as headings of the first level, passages by their kind, roles in bold. */
export function scriptAsMarkdown(script: Script): string {
  return includedParts(script).map(part => [
    `# ${escapeMarkdown(part.label)}`,
    ...part.passages.filter(passage => !repeatsLabel(part, passage)).map(({ kind, role, content }) =>
      kind === 'sceneBreak' && countWords(writtenText(content)) === 0 ? sceneBreakText : `${before[kind]}${role === undefined ? '' : `**${escapeMarkdown(role)}:** `}${escapeMarkdown(writtenText(content))}`),
  ].join('\n\n')).join('\n\n').concat('\n')
}

/** Text in which no sign means anything to Markdown. */
function escapeMarkdown(text: string): string {
  return text.split('\n').map(line => line.trim()).filter(line => line !== '').join(' ').replace(/[\\`*_[\]<>#|~]/gu, '\\$&').replace(/^(\d+)([.)])/u, '$1\\$2').replace(/^([-+=])/u, '\\$1')
}
