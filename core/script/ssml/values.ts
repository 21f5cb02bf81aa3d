import { isLanguageTag } from '../../language/tag'
import type { RestStrength } from '../directions'
import { lookup } from '../../lookup'

// Values of SSML 1.1 attributes (W3C, 2010): what is legal, and what it means in numbers.

/** A time designation (SSML 1.1, 1.5): a number followed at once by `s` or `ms`. Gives ms, null when it is none. */
export function timeMs(value: string): number | null {
  const match = /^\+?(\d+(?:\.\d*)?|\.\d+)(ms|s)$/u.exec(value)
  return match === null ? null : Number(match[1]) * (match[2] === 's' ? 1000 : 1)
}

/** How long each strength of a break is: this product's own values, in ms. */
export const restMsOfStrength: Readonly<Record<RestStrength, number>> = { 'none': 0, 'x-weak': 100, 'weak': 200, 'medium': 400, 'strong': 700, 'x-strong': 1200 }

/** What the labels mean: this product's own values. */
const rateLabels: Readonly<Record<string, number>> = { 'x-slow': 0.6, 'slow': 0.8, 'medium': 1, 'fast': 1.25, 'x-fast': 1.6, 'default': 1 }
const pitchLabels: Readonly<Record<string, number>> = { 'x-low': -6, 'low': -3, 'medium': 0, 'high': 3, 'x-high': 6, 'default': 0 }
const rangeLabels: Readonly<Record<string, number>> = { 'x-low': 0.2, 'low': 0.6, 'medium': 1, 'high': 1.4, 'x-high': 1.8, 'default': 1 }
const volumeLabels: Readonly<Record<string, number>> = { 'silent': Number.NEGATIVE_INFINITY, 'x-soft': -12, 'soft': -6, 'medium': 0, 'loud': 3, 'x-loud': 6, 'default': 0 }

export const rateNames = Object.keys(rateLabels)
export const pitchNames = Object.keys(pitchLabels)
export const rangeNames = Object.keys(rangeLabels)
export const volumeNames = Object.keys(volumeLabels)

function labelled(labels: Readonly<Record<string, number>>, value: string): number | null {
  return lookup(labels, value) ?? null
}

/** A pace as a factor of the voice's own (3.2.4: a non-negative percentage or a label); null when it is none. */
export function rateFactor(value: string): number | null {
  const match = /^(\d+(?:\.\d*)?|\.\d+)%$/u.exec(value)
  return match === null ? labelled(rateLabels, value) : Number(match[1]) / 100
}

/** `semitones`: against what surrounds it; `hz`: absolute, or a change when it is signed. */
export type Pitch = { readonly semitones: number } | { readonly hz: number, readonly isChange: boolean }

/** A pitch (3.2.4: Hz, a relative change in %, st or Hz, or a label); null when it is none. */
export function pitchOf(value: string): Pitch | null {
  const label = labelled(pitchLabels, value)
  if (label !== null) return { semitones: label }
  const match = /^([+-]?)(\d+(?:\.\d*)?|\.\d+)(%|st|Hz)$/u.exec(value)
  if (match === null) return null
  const [, sign, digits, unit] = match
  const number = Number(digits) * (sign === '-' ? -1 : 1)
  if (unit === 'Hz') return { hz: number, isChange: sign !== '' }
  if (sign === '') return null
  if (unit === 'st') return { semitones: number }
  return number <= -100 ? null : { semitones: 12 * Math.log2(1 + number / 100) }
}

/** A range of pitch as a factor of the voice's own; null when it is none or is given in Hz or semitones. */
export function rangeFactor(value: string): number | null {
  const match = /^([+-])(\d+(?:\.\d*)?|\.\d+)%$/u.exec(value)
  return match === null ? labelled(rangeLabels, value) : Math.max(0, 1 + Number(match[1]! + match[2]!) / 100)
}

/** A volume in dB against what surrounds it (3.2.4: signed, in dB, or a label); −∞ for silent, null when it is none. */
export function volumeDb(value: string): number | null {
  const match = /^([+-](?:\d+(?:\.\d*)?|\.\d+))dB$/u.exec(value)
  return match === null ? labelled(volumeLabels, value) : Number(match[1])
}

/** Pairs of place and pitch (3.2.4): `(0%,+20Hz) (50%,-10%)`. */
export function isContour(value: string): boolean {
  const pairs = value.trim().match(/\([^()]*\)/gu) ?? []
  return pairs.length > 0 && value.replace(/\([^()]*\)/gu, '').trim() === '' && pairs.every(pair => {
    const [place = '', pitch = '', ...more] = pair.slice(1, -1).split(',').map(each => each.trim())
    return more.length === 0 && /^\+?(\d+(?:\.\d*)?|\.\d+)%$/u.test(place) && pitchOf(pitch) !== null
  })
}

/** Of `phoneme`: IPA where none is named. */
export function isIpa(alphabet: string | undefined): boolean {
  return alphabet === undefined || alphabet.toLowerCase() === 'ipa'
}

/** Names of alphabets: vendors' own begin with x- (SSML 1.1, 3.1.10; PLS 1.0, 4.1); no other name but IPA has been registered. */
export function isAlphabet(name: string): boolean {
  return /^ipa$|^x-[\w-]{1,100}$/iu.test(name)
}

/** BCP 47; empty where no language is meant. */
export function isLanguage(value: string): boolean {
  return value === '' || isLanguageTag(value)
}
