import { hash } from '#core/hash'
import { primaryLanguage } from '#core/language/abbreviations'
import type { Casting } from '#core/score/cast'
import { stretchAt, type Stretch, type WrittenRequest } from '#core/score/request'
import { spacesAndWords, type ToneSegment } from '#core/score/tone'

/** What is spoken at one go. */
export interface FlitePiece {
  /** Of letters, digits and marks that the voices know. */
  readonly text: string
  /** Against the request's pace and pitch. */
  readonly rate: number
  readonly pitchSemitones: number
}

/** What the engine is asked for. Places are characters of the texts, each with a space behind it. */
export interface FliteBody {
  readonly pieces: readonly FlitePiece[]
  /** IPA of words that stand for sounds. */
  readonly sounds: Readonly<Record<string, string>>
  /** Places where something is put or the level changes. */
  readonly cuts: readonly { readonly place: number, readonly isRest: boolean }[]
}

/** Letters that are written with others where they do not come apart by Unicode's decomposition. */
const letters: Readonly<Record<string, string>> = {
  'ß': 'ss', 'æ': 'ae', 'Æ': 'Ae', 'œ': 'oe', 'Œ': 'Oe', 'ø': 'o', 'Ø': 'O', 'ł': 'l', 'Ł': 'L', 'đ': 'd', 'Đ': 'D', 'ð': 'th', 'Ð': 'Th', 'þ': 'th', 'Þ': 'Th', 'ı': 'i',
  '’': '\'', '‘': '\'', '“': '"', '”': '"', '„': '"', '«': '"', '»': '"', '…': '...', '–': ',', '—': ',',
}

/** A text as the voices know it; what they have no sign for goes. */
export function plain(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').replace(/[^\x20-\x7e]/gu, sign => letters[sign] ?? '')
}

/** Whether there is a letter or digit in what the voices know of a text: signs alone have no sound. */
export function isSayable(text: string): boolean {
  return /[a-z\d]/iu.test(text)
}

/** Whether a text has letters that the voices have no sign for. */
export function hasUnknownLetters(text: string): boolean {
  return (text.normalize('NFKD').match(/\p{L}/gu) ?? []).some(letter => plain(letter) === '')
}

const consonants = 'bdfgklmnprstvwyz'
const vowels = 'aeio'
const standingWord = new RegExp(`\\bzu(?:[${consonants}][${vowels}]){4}\\b`, 'gu')

/** A word that no dictionary has, the same for the same sounds. It can be pronounced: the engine spells out what it takes for an abbreviation. */
function wordFor(ipa: string): string {
  const syllables = hash(ipa).slice(0, 8).match(/../gu)!.map(pair => {
    const value = Number.parseInt(pair, 16)
    return `${consonants[value % consonants.length]!}${vowels[Math.floor(value / consonants.length) % vowels.length]!}`
  })
  return `zu${syllables.join('')}`
}

/** How the engine is asked to say some segments in the voice of a casting. */
export function writeRequest(casting: Casting, segments: readonly ToneSegment[]): WrittenRequest {
  const pieces: { text: string, readonly rate: number, readonly pitchSemitones: number }[] = []
  const sounds: Record<string, string> = {}
  const cuts: { place: number, isRest: boolean }[] = []
  const words: number[] = []
  const stretches: Stretch[] = [{ place: 0, restMs: 0, gainDb: segments[0]!.tone.gainDb }]
  /** Where the piece that is written begins. */
  let begins = 0
  let saidPhoneme: string | null = null
  /** A space would be one too many: at the beginning, and behind another. */
  let spaced = true
  for (const [index, segment] of segments.entries()) {
    const { text, tone, gap, words: spans } = segment
    const { rate, pitchSemitones } = tone
    let piece = pieces.at(-1)
    if (piece === undefined || piece.rate !== rate || piece.pitchSemitones !== pitchSemitones) {
      begins += piece === undefined ? 0 : piece.text.length + 1
      piece = { text: '', rate, pitchSemitones }
      pieces.push(piece)
      spaced = true
    }
    const place = (): number => begins + piece.text.length
    const put = (said: string): void => {
      if (said === '') return
      piece.text += said
      spaced = said.endsWith(' ')
    }
    const space = (): void => { if (!spaced) put(' ') }
    if (gap !== undefined || index > 0 && tone.gainDb !== stretches.at(-1)!.gainDb) {
      space()
      stretches.push(stretchAt(place(), segment))
      cuts.push({ place: place(), isRest: gap !== undefined })
    }
    const isForeign = tone.language !== null && primaryLanguage(tone.language) !== 'en'
    if (tone.phoneme !== null && tone.phoneme.id === saidPhoneme) continue
    saidPhoneme = tone.phoneme?.id ?? null
    let word = 0
    for (const { 0: written, 1: blank } of text.matchAll(spacesAndWords)) {
      if (blank !== undefined) {
        space()
        continue
      }
      // All words of a pronunciation are said at once.
      if (tone.phoneme !== null && word > 0) continue
      if (word < spans.length) words.push(place(), spans[word]!, spans[word + 1]!)
      word += 2
      if (tone.phoneme !== null) {
        const standing = wordFor(tone.phoneme.ph)
        sounds[standing] = tone.phoneme.ph
        put(standing)
        continue
      }
      const said = isForeign && tone.orUnspoken === true ? '' : plain(written)
      put(tone.characters ? [...said.toUpperCase()].join(' ') : said)
      if (/[—–]$/u.test(written)) space()
    }
  }
  const { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones } = casting
  const body: FliteBody = { pieces, sounds, cuts }
  return {
    request: { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, body },
    key: hash([engine, voice, voiceRevision, wordsPerMinute, pitchSemitones, pieces, sounds, cuts]),
    words, stretches, length: begins + (pieces.at(-1)?.text.length ?? 0),
  }
}

/** What is sent for the places from `from` up to `to`. */
export function excerptOf({ pieces, sounds }: FliteBody, from: number, to: number): string {
  return pieces.map(({ text }) => text).join(' ').slice(from, to).trim().replace(standingWord, word => sounds[word] === undefined ? word : `/${sounds[word]}/`)
}
