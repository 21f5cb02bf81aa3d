import escapeHtml from 'escape-html'
import type { OrderPart } from '../paid/orders'
import type { PaidSegment } from '../paid/pieces'

/** Between two sentences, so that they can be told apart in the answer. */
const betweenMs = 400

const signed = (semitones: number): string => `${semitones > 0 ? '+' : '-'}${Number(Math.abs(semitones).toFixed(2))}st`

function segmentMarkup({ text, rate, pitchSemitones, ph, isSpelled }: PaidSegment): string {
  let inside = escapeHtml(text)
  if (isSpelled === true) inside = `<say-as interpret-as="characters">${inside}</say-as>`
  if (ph !== undefined) inside = `<phoneme alphabet="ipa" ph="${escapeHtml(ph)}">${inside}</phoneme>`
  const percent = Math.round(rate * 100)
  const changes = `${percent === 100 ? '' : ` rate="${percent}%"`}${Math.abs(pitchSemitones) < 0.005 ? '' : ` pitch="${signed(pitchSemitones)}"`}`
  return changes === '' ? inside : `<prosody${changes}>${inside}</prosody>`
}

/** An order in the service's own subset of SSML: each part a sentence, all its elements closed at its end. */
export function markupOf(parts: readonly Pick<OrderPart, 'segments'>[]): string {
  const sentences = parts.map(({ segments }) => `<s>${segments.map(segmentMarkup).join('')}</s>`)
  return `<speak>${sentences.join(`<break time="${betweenMs}ms"/>`)}</speak>`
}

/** What a segment is sent as, for whoever asks. */
export const excerptMarkup = (segments: readonly PaidSegment[]): string => segments.map(segmentMarkup).join('').trim()
