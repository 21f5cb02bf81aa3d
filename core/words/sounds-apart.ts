// How far two transcriptions in IPA of one English word are apart: what a voice says, and what a dictionary of another accent has. Differences of accent count little: they are those between
// British and General American (lexical sets of bath, lot, goat, nurse, near, square, cure; r behind vowels; reduced vowels); *common practice* of pronouncing dictionaries, the figures are our own.

/** Sounds of one sign each, by classes: diphthongs have capitals. */
const oneSign: readonly (readonly [pattern: RegExp, sign: string])[] = [
  // January, laboratory: behind the stress the vowel is whole in America and lost in Britain.
  [/(?<=ˈ[^ˈ]{0,12}[aeiouæɑɒɔəɛɪʊʌɐ]ː?[^ˈaeiouæɑɒɔəɛɪʊʌɐ]{0,3})(?:ɛ|ɔː|ə)?ɹi(?=ː?$|z$)/gu, 'ɹi'],
  [/ɚ(?=ˈ?[aeiouæɑɒɔəɛɪʊʌ])/gu, 'əɹ'], [/ɜːɹ(?=[aeiouæɑɒɔəɛɪʊʌ])/gu, 'ʌɹ'], [/uːə(?=[lɹ])/gu, 'əwə'], [/nj(?=ə)/gu, 'niː'], [/ŋkθ/gu, 'ŋθ'],
  [/iəɹ|ɪəɹ/gu, 'ɪɹ'], [/eəɹ|ɛəɹ/gu, 'ɛɹ'], [/ʊəɹ/gu, 'ʊɹ'], [/iə(?!ɹ)|ɪə/gu, 'ɪR'], [/eə|ɛə/gu, 'ɛR'], [/ʊə/gu, 'ʊR'],
  [/(?:ɜː?|ə)ɹ(?!ˈ?[aeiouæɑɒɔəɛɪʊʌ])|ɚ|ɝ|ɜː?/gu, 'R'], [/tʃ|tj(?=[uʊ])/gu, 'C'], [/dʒ|dj(?=[uʊ])/gu, 'J'],
  [/eɪ/gu, 'E'], [/aɪ/gu, 'I'], [/ɔɪ/gu, 'Y'], [/əʊ|oʊ/gu, 'O'], [/aʊ/gu, 'A'], [/g/gu, 'ɡ'], [/ᵻ/gu, 'ɪ'], [/[ˌ.‿\u0361\u0303\u0329\u032fː|\s-]/gu, ''],
]
const vowels = 'iɪeɛæaɐəʌɑɒɔoʊuɜREIYOA'

/** Pairs of vowels and how far they are apart; those that are not here are 0.8. */
const nearVowels = new Map<string, number>()
for (const [cost, pairs] of [
  [0.03, 'ɒɑ ɔɑ ɒɔ aæ əR ɜR ɐə ɐʌ ɐæ ɐa iɪ ʊu əʌ'], [0.1, 'ɑæ ɑa əɪ əɛ ɪɛ əʊ ɪR ɛR ʊR Oɔ Oo'], [0.2, 'əæ əa əɒ əɑ əɔ əi əu ʌɒ ʌɑ eE eɛ'], [0.3, 'əO ɛE ɛæ ɛa ɔO Oɒ Oɑ ɔʊ'], [0.5, 'əE əI iE iɛ ɪI iI Eæ Ea EI əu æɪ'],
] as const) for (const pair of pairs.split(' ')) nearVowels.set(pair, cost).set([...pair].reverse().join(''), cost)

const nearConsonants = ['pb', 'td', 'kɡ', 'fv', 'θð', 'sz', 'ʃʒ', 'CJ', 'ʃC', 'ʒJ', 'nŋ', 'lɫ', 'ɹɾ', 'tɾ', 'dɾ', 'sʃ', 'zʒ']

function costOf(a: string, b: string): number {
  if (a === b) return 0
  const [isVowel, isOther] = [vowels.includes(a), vowels.includes(b)]
  if (isVowel && isOther) return nearVowels.get(a + b) ?? 0.8
  return isVowel || isOther ? 1.3 : nearConsonants.some(pair => pair.includes(a) && pair.includes(b)) ? 0.4 : 1
}

/** A sound that one of the two does not have: r behind vowels, h, y and short vowels are lost most easily. */
function lossOf(sign: string): number {
  if (sign === 'ɹ' || sign === 'j') return 0.15
  if ('əɪRʊ'.includes(sign)) return 0.35
  return 'thd'.includes(sign) ? 0.5 : vowels.includes(sign) ? 0.8 : 1
}

interface Sounds {
  readonly signs: readonly string[]
  /** Which vowel has the stress; null where none is marked. */
  readonly stressed: number | null
}

function soundsOf(ipa: string): Sounds {
  let text = ipa.normalize('NFD')
  for (const [pattern, sign] of oneSign) text = text.replace(pattern, sign)
  const at = text.indexOf('ˈ')
  const vowelsIn = (piece: string): number => [...piece].filter(sign => vowels.includes(sign)).length
  return { signs: [...text.replaceAll('ˈ', '')], stressed: at < 0 ? null : vowelsIn(text.slice(0, at)) }
}

export interface Apart {
  /** 0 for equal ones; from about 0.25 on they are other words. */
  readonly distance: number
  /** The stress is on another vowel. */
  readonly isStressMoved: boolean
}

/** Compares two transcriptions. */
export function soundsApart(said: string, expected: string): Apart {
  const [a, b] = [soundsOf(said), soundsOf(expected)]
  let row = [0]
  for (const sign of b.signs) row.push(row.at(-1)! + lossOf(sign))
  for (const sign of a.signs) {
    const next = [row[0]! + lossOf(sign)]
    b.signs.forEach((other, index) => next.push(Math.min(row[index]! + costOf(sign, other), row[index + 1]! + lossOf(sign), next[index]! + lossOf(other))))
    row = next
  }
  const syllables = (sounds: Sounds): number => sounds.signs.filter(sign => vowels.includes(sign)).length
  return {
    distance: row.at(-1)! / Math.max(4, Math.max(a.signs.length, b.signs.length)),
    isStressMoved: a.stressed !== null && b.stressed !== null && syllables(a) === syllables(b) && syllables(a) > 1 && a.stressed !== b.stressed,
  }
}

/** Names are said otherwise from here on, or with another stress; other words from here on. */
const leastOfNames = 0.065
const leastOfWords = 0.2

/** Whether a voice says a word otherwise than all of its pronunciations in a dictionary: of names every difference counts that is none of accent, of other words a plain one. */
export function isSaidOtherwise(said: string, expected: readonly string[], isName: boolean): boolean {
  return expected.length > 0 && expected.every(each => {
    const { distance, isStressMoved } = soundsApart(said, each)
    return isName ? distance >= leastOfNames || isStressMoved : distance >= leastOfWords
  })
}
