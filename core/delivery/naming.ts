/** What names say of who speaks. */
export interface SpeakerNames {
  readonly voice: string
  readonly role: string
}

/** What in the name of a file is of the whole work; who speaks is the narrator, but in files that another role says most of; author and date are an article's own where it has them. */
export interface WorkNames extends SpeakerNames {
  readonly production: string
  readonly author: string
  /** BCP 47 */
  readonly language: string
  /** YYYY-MM-DD */
  readonly date: string
}

/** What names say of a work with its narrator, on the day (universal time) on which they are made. */
export function workNames({ title, author, language }: { readonly title: string, readonly author: string | null, readonly language: string }, voice: string, role: string, made: Date): WorkNames {
  return { production: title, author: author ?? '', language, voice, role, date: made.toISOString().slice(0, 10) }
}

/** What in a name differs from file to file; `within` is the number of a file among those that begin in the same part, `slide` that of the slide in its deck. */
export const fileFields = ['number', 'within', 'title', 'part', 'slide'] as const
export const workFields = ['production', 'author', 'language', 'voice', 'role', 'date'] as const satisfies readonly (keyof WorkNames)[]
export type NameField = (typeof fileFields)[number] | (typeof workFields)[number]
export const nameFields: readonly NameField[] = [...fileFields, ...workFields]

/** How names are made from a pattern. */
export interface NameRules {
  /** The number of the first file. */
  readonly firstNumber: number
  /** `files` are counted; of `parts` each file has the number of the slide or part that it begins in, whether those before it say something or not. */
  readonly counts: 'files' | 'parts'
  /** Least figures of a number; null for as many as the last one has, but two. */
  readonly digits: number | null
  /** Lower-case a–z, figures and hyphens, or letters as they are written, without what file systems refuse. */
  readonly letters: 'ascii' | 'written'
  /** Most characters of a name without its extension. */
  readonly longest: number
}

export const leastLongest = 20
/** File systems take 255 bytes; an extension, and another one while a file is being made, need room. */
export const mostNameBytes = 240
export const mostDigits = 6
export const mostFirstNumber = 100_000

export const defaultNameRules: NameRules = { firstNumber: 1, counts: 'files', digits: null, letters: 'ascii', longest: mostNameBytes }

export const defaultNamePattern = '{number}-{title}'

const fieldPattern = /\{([^}]*)\}?/gu

/** Whatever keeps a pattern from naming files; null where nothing does. */
export function namePatternProblem(pattern: string): string | null {
  const fields = [...pattern.matchAll(fieldPattern)].map(([written, name]) => ({ written, name: name as NameField }))
  const unknown = fields.find(({ written, name }) => !nameFields.includes(name) || !written.endsWith('}'))
  if (unknown !== undefined) return `The file name pattern contains ${unknown.written}; use ${nameFields.map(name => `{${name}}`).join(' ')}.`
  const number = fields.findIndex(({ name }) => name === 'number')
  if (number < 0) return 'The file name pattern must have {number}, so that names differ and players keep the order.'
  const before = fields.slice(0, number).find(({ name }) => fileFields.some(each => each === name))
  if (before !== undefined) return `Put {number} before ${before.written}: players sort by names, and keep the order only so.`
  if (new TextEncoder().encode(pattern.replace(fieldPattern, '')).length > mostNameBytes / 2) return 'The file name pattern is too long: leave room for what it is filled with.'
  return null
}

/** Whether a pattern says who speaks. */
export const namesSpeaker = (pattern: string): boolean => pattern.includes('{voice}') || pattern.includes('{role}')

/** The pieces of a pattern: what stands for a field, and what is written as it is. */
export function namePieces(pattern: string): ({ readonly field: NameField } | { readonly text: string })[] {
  return pattern.split(/(\{[a-z]{1,12}\})/u).filter(piece => piece !== '').map(piece => piece.startsWith('{') ? { field: piece.slice(1, -1) as NameField } : { text: piece })
}
