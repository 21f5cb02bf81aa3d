import { hash } from '#core/hash'
import { primaryLanguage } from '#core/language/abbreviations'
import type { Casting } from '#core/score/cast'
import { fail } from '#core/problem'
import { stretchAt, type Stretch, type WrittenRequest } from '#core/score/request'
import { spacesAndWords, type ToneSegment } from '#core/score/tone'

// What a service is asked for, whatever it has for markup. Places are characters (UTF-16) of the text, a space behind each piece.

/** A stretch of a piece in one tone. */
export interface PaidSegment {
  readonly text: string
  /** Against the request's pace and pitch. */
  readonly rate: number
  readonly pitchSemitones: number
  /** IPA of the whole of it, as far as it is said otherwise than it is written. */
  readonly ph?: string
  readonly isSpelled?: true
}

/** What is spoken at one go: between two places where something is put into the sentence. */
export interface PaidPiece {
  readonly segments: readonly PaidSegment[]
  /** A rest or a sound is put before it, and not only another level. */
  readonly isAfterRest?: true
}

export interface PaidBody {
  readonly pieces: readonly PaidPiece[]
}

export const textOf = ({ segments }: Pick<PaidPiece, 'segments'>): string => segments.map(({ text }) => text).join('')

/** What a request asks for. Throws a problem for one that was written by another release of this program. */
export function bodyOf(body: unknown): PaidBody {
  return typeof body === 'object' && body !== null && 'pieces' in body ? body as PaidBody : fail('request-outdated', 'This sentence was prepared by another release of this program. Read what is missing again.')
}

/** Signs that XML does not allow. */
const forbidden = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/gu

/** Whether there is a letter or digit in a text: signs alone have no sound. */
export const isSayable = (text: string): boolean => /[\p{L}\p{N}]/u.test(text)

/** How a service is asked to say some segments in the voice of a casting; `language` (BCP 47) is the voice's. */
export function writePieces(casting: Casting, segments: readonly ToneSegment[], language: string | null): WrittenRequest {
  const pieces: { segments: PaidSegment[], isAfterRest?: true }[] = []
  const words: number[] = []
  const stretches: Stretch[] = [{ place: 0, restMs: 0, gainDb: segments[0]!.tone.gainDb }]
  let place = 0
  /** A space would be one too many: at the beginning, and behind another. */
  let spaced = true
  let saidPhoneme: string | null = null
  for (const segment of segments) {
    const { text, tone, gap, words: spans } = segment
    if (pieces.length === 0 || gap !== undefined || tone.gainDb !== stretches.at(-1)!.gainDb) {
      if (pieces.length > 0) place += 1
      if (pieces.length > 0 || gap !== undefined) stretches.push(stretchAt(place, segment))
      pieces.push({ segments: [], ...(gap === undefined ? {} : { isAfterRest: true }) })
      spaced = true
    }
    // All of a pronunciation is said at once, by its first segment.
    if (tone.phoneme !== null && tone.phoneme.id === saidPhoneme) continue
    saidPhoneme = tone.phoneme?.id ?? null
    const isUnspoken = tone.orUnspoken === true && tone.language !== null && language !== null && primaryLanguage(tone.language) !== primaryLanguage(language)
    let said = ''
    let word = 0
    for (const { 0: written, 1: blank } of text.matchAll(spacesAndWords)) {
      if (blank !== undefined) {
        if (!spaced) said += ' '
        spaced = true
        continue
      }
      if (word < spans.length) words.push(place + said.length, spans[word]!, spans[word + 1]!)
      word += 2
      const sent = isUnspoken ? '' : written.toWellFormed().replace(forbidden, '')
      said += sent
      if (sent !== '') spaced = false
    }
    if (said === '') continue
    const { rate, pitchSemitones, phoneme, characters } = tone
    const own = { rate, pitchSemitones, ...(phoneme === null ? {} : { ph: phoneme.ph }), ...(phoneme === null && characters ? { isSpelled: true as const } : {}) }
    const into = pieces.at(-1)!.segments
    const last = into.at(-1)
    if (last !== undefined && phoneme === null && JSON.stringify({ ...last, text: '' }) === JSON.stringify({ text: '', ...own })) into[into.length - 1] = { ...last, text: last.text + said }
    else into.push({ text: said, ...own })
    place += said.length
  }
  const { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones } = casting
  const body: PaidBody = { pieces }
  return {
    request: { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, body },
    key: hash([engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, pieces]),
    words, stretches, length: place,
  }
}
