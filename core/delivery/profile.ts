import type { Margins } from '../audio/track'

/** Format, margins and naming of a delivery. */
export interface DeliveryProfile extends Margins {
  readonly format: 'mp3'
  readonly bitRateKbps: number
  /** Hz */
  readonly sampleRate: number
  /** File name without its extension; `{number}` and `{title}` are replaced. */
  readonly namePattern: string
}

/** Format as the audiobook trade asks (*common practice*): MP3, 192 kbit/s constant, 44.1 kHz, mono. */
export const defaultProfile: DeliveryProfile = {
  format: 'mp3',
  bitRateKbps: 192,
  sampleRate: 44_100,
  headMs: 500,
  tailMs: 500,
  namePattern: '{number}-{title}',
}

export const extensions: Readonly<Record<DeliveryProfile['format'], string>> = { mp3: '.mp3' }

/** A pattern without a number cannot keep files in order or apart. */
export function namePatternProblem(pattern: string): string | null {
  const unknown = [...pattern.matchAll(/\{[^}]*\}?/gu)].map(match => match[0]).find(name => name !== '{number}' && name !== '{title}')
  if (unknown !== undefined) return `The file name pattern contains ${unknown}; use {number} and {title}.`
  if (!pattern.startsWith('{number}')) return 'The file name pattern must begin with {number}, so that players keep the order.'
  return null
}
