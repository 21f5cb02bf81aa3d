/** What the tags of a production say besides its title, author, and language; empty where nothing is known. */
export interface WorkDetails {
  readonly narrator: string
  /** Four figures. */
  readonly year: string
  readonly genre: string
  /** Place in a set: *1* or *1/2*. */
  readonly disc: string
  readonly comment: string
  readonly copyright: string
}

/** What is written for a year and for a place in a set, or nothing (regular expressions of JSON Schema). */
export const yearPattern = '^(\\d{4})?$'
export const discPattern = '^(\\d{1,3}(/\\d{1,3})?)?$'

const remedies: Readonly<Partial<Record<keyof WorkDetails, { readonly pattern: RegExp, readonly remedy: string }>>> = {
  year: { pattern: new RegExp(yearPattern, 'u'), remedy: 'Write four figures, e.g. 2031.' },
  disc: { pattern: new RegExp(discPattern, 'u'), remedy: 'Write e.g. 1/2.' },
}

/** What to write instead of a value that a tag does not take; null where it does. */
export function detailRemedy(name: keyof WorkDetails, value: string): string | null {
  const known = remedies[name]
  return known === undefined || known.pattern.test(value) ? null : known.remedy
}

/** The picture on the cover of files. */
export interface WorkCover {
  /** Hex. */
  readonly sha256: string
  readonly mediaType: 'image/jpeg' | 'image/png'
  /** Pixels. */
  readonly width: number
  readonly height: number
  readonly bytes: number
}

export const noDetails: WorkDetails = { narrator: '', year: '', genre: '', disc: '', comment: '', copyright: '' }
