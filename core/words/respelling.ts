import { primaryLanguage } from '../language/abbreviations'
import { madeOnce } from '../made-once'
import { onsetLength } from './onset'

// Respelling: how an English word sounds, in syllables of everyday letters, joined by hyphens, the stressed one in capitals.
// The spellings are this product's own table; what they stand for is IPA.

/** Longest first where one begins another. */
const consonants: readonly (readonly [spelling: string, ipa: string])[] = [
  ['tch', 'tʃ'], ['ch', 'tʃ'], ['dh', 'ð'], ['sh', 'ʃ'], ['th', 'θ'], ['zh', 'ʒ'], ['ng', 'ŋ'], ['kh', 'x'], ['wh', 'w'], ['ck', 'k'], ['dj', 'dʒ'],
  ['b', 'b'], ['d', 'd'], ['f', 'f'], ['g', 'ɡ'], ['h', 'h'], ['j', 'dʒ'], ['k', 'k'], ['l', 'l'], ['m', 'm'], ['n', 'n'], ['p', 'p'], ['r', 'ɹ'],
  ['s', 's'], ['t', 't'], ['v', 'v'], ['w', 'w'], ['x', 'ks'], ['y', 'j'], ['z', 'z'],
]

/** British and American where they differ. */
const vowels: readonly (readonly [spelling: string, british: string, american?: string])[] = [
  ['ahr', 'ɑː', 'ɑːɹ'], ['air', 'eə', 'ɛɹ'], ['eer', 'iə', 'ɪɹ'], ['oor', 'ʊə', 'ʊɹ'], ['igh', 'aɪ'], ['eye', 'aɪ'],
  ['ah', 'ɑː'], ['ar', 'ɑː', 'ɑːɹ'], ['aw', 'ɔː'], ['ay', 'eɪ'], ['ee', 'iː'], ['eh', 'ɛ'], ['er', 'ɜː', 'ɜːɹ'], ['ih', 'ɪ'], ['oh', 'əʊ', 'oʊ'], ['oo', 'uː'],
  ['or', 'ɔː', 'ɔːɹ'], ['ow', 'aʊ'], ['oy', 'ɔɪ'], ['uh', 'ə'], ['uu', 'ʊ'], ['a', 'a', 'æ'], ['e', 'ɛ'], ['i', 'ɪ'], ['o', 'ɒ', 'ɑː'], ['u', 'ʌ'],
]

/** The spellings a producer can use for vowels, each with its IPA in British English. */
export const vowelSpellings = vowels.map(([spelling, ipa]) => ({ spelling, ipa }))

export type Respelt = { readonly ipa: string } | { readonly message: string, /** From 0, in the respelling. */ readonly at: number }

/** The IPA of a respelling in English (BCP 47 tag); or what in it stands for no sound, and where. */
export function respell(text: string, language = 'en-GB'): Respelt {
  if (primaryLanguage(language) !== 'en') return { message: 'Respelling is known for English only. Write the pronunciation in IPA.', at: 0 }
  let at = 0
  const words: string[] = []
  for (const word of text.split(/(\s+)/u)) {
    if (word.trim() !== '') {
      const syllables: string[] = []
      let place = at
      const parts = word.split('-')
      for (const part of parts) {
        const found = syllable(part, isAmerican(language))
        if ('message' in found) return { message: found.message, at: place + found.at }
        const stressed = parts.length === 1 || part.length > 0 && part === part.toUpperCase()
        syllables.push(`${stressed ? 'ˈ' : ''}${found.ipa}`)
        place += part.length + 1
      }
      words.push(syllables.join(''))
    }
    at += word.length
  }
  return words.length === 0 ? { message: 'Write the syllables as they sound, such as var-ROH-ah.', at: 0 } : { ipa: words.join(' ') }
}

function syllable(part: string, isAmerican: boolean): Respelt {
  const text = part.toLowerCase()
  let ipa = ''
  let hasVowel = false
  for (let at = 0; at < text.length;) {
    const vowel = hasVowel ? undefined : vowels.find(([spelling]) => text.startsWith(spelling, at))
    if (vowel !== undefined) {
      hasVowel = true
      ipa += isAmerican ? vowel[2] ?? vowel[1] : vowel[1]
      at += vowel[0].length
      continue
    }
    const consonant = consonants.find(([spelling]) => text.startsWith(spelling, at))
    if (consonant === undefined) {
      return { message: `“${text.slice(at, at + 1)}” is no sound here${hasVowel && /[aeiou]/u.test(text[at]!) ? ': begin another syllable with a hyphen' : ''}. Vowels are written such as ah, ay, ee, igh, oh, oo, uh.`, at }
    }
    // A consonant that is written twice is said once.
    if (text[at - 1] !== text[at] || consonant[0].length > 1) ipa += consonant[1]
    at += consonant[0].length
  }
  return hasVowel || /^[lmn]$/u.test(text.at(-1) ?? '') ? { ipa } : { message: part === '' ? 'A syllable is empty. Take one hyphen out.' : `“${part}” has no vowel.`, at: 0 }
}

interface SpeltSound {
  readonly spelling: string
  readonly ipa: string
  readonly isVowel: boolean
  readonly isStressed: boolean
}

/** The respelling of IPA in English (BCP 47 tag); null where it has a sound that has no spelling, or would be read otherwise. */
export function respellingOf(ipa: string, language = 'en-GB'): string | null {
  if (primaryLanguage(language) !== 'en') return null
  const words = ipa.trim().split(/[\s|]+/u).map(word => respeltWord(word, language))
  const respelt = words.every(word => word !== null) ? words.join(' ') : null
  if (respelt === null) return null
  // What the spellings stand for side by side can be another sound.
  const back = respell(respelt, language)
  return 'ipa' in back && bareSounds(back.ipa) === bareSounds(ipa) ? respelt : null
}

/** Sounds that count as one here: spellings do not tell them apart. */
const alike: Readonly<Record<string, string>> = { g: 'ɡ', r: 'ɹ', ɐ: 'ə', æ: 'a', e: 'ɛ', ᵻ: 'ɪ', i: 'iː', u: 'uː', ɚ: 'ɜːɹ', ɝ: 'ɜːɹ', ɾ: 't', ɑ: 'ɑː', ɔ: 'ɔː', 'ʊɹ': 'ʊə' }

function alikeSounds(word: string): string {
  return word.replace(/(?:eɪ|eə|iə|[iu]ː|ɛɹ|ʊɹ)|[gr\u0250æeᵻiuɚɝɾ]|[ɑɔ](?![ːɪ])/gu, sound => sound.length > 1 && sound !== 'ʊɹ' ? sound : alike[sound] ?? sound)
}

function bareSounds(ipa: string): string {
  return alikeSounds(ipa.normalize('NFC').replace(/[ˈˌ\s|.‿\u0361]/gu, '')).replaceAll('iə', 'iːə')
}

const isAmerican = (language: string): boolean => /^en-US/iu.test(language)

/** What sounds are written as, longer sounds first. */
const spellingsIn = madeOnce(language => [
  ...vowels.map(([spelling, british, american]) => ({ spelling, ipa: alikeSounds(isAmerican(language) ? american ?? british : british), isVowel: true })),
  ...consonants.map(([spelling, sound]) => ({ spelling, ipa: alikeSounds(sound), isVowel: false })),
].sort((a, b) => b.ipa.length - a.ipa.length || a.spelling.length - b.spelling.length))

function respeltWord(word: string, language: string): string | null {
  // At the end of “media” are two syllables, in “near” is one.
  const text = alikeSounds(word.normalize('NFC').replace(/[.‿\u0361]/gu, '')).replace(/(?<=[aeiouɑɒɔɛɜəɪʊʌ][^ˈ]*)iə$/u, 'iːə')
  const sounds: SpeltSound[] = []
  let isStressed = false
  for (let at = 0; at < text.length;) {
    if (text[at] === 'ˈ' || text[at] === 'ˌ') {
      isStressed = text[at] === 'ˈ'
      at += 1
      continue
    }
    const found = spellingsIn(language).find(each => text.startsWith(each.ipa, at))
    if (found === undefined) return null
    sounds.push({ ...found, isStressed: found.isVowel && isStressed })
    if (found.isVowel) isStressed = false
    at += found.ipa.length
  }
  return syllables(sounds).map(syllable => {
    const written = syllable.map(sound => sound.spelling).join('')
    return syllable.some(sound => sound.isStressed) ? written.toUpperCase() : written
  }).join('-')
}

/** Each with one vowel, and as many consonants before it as can begin it. */
function syllables(sounds: readonly SpeltSound[]): SpeltSound[][] {
  const nuclei = [...sounds.keys()].filter(index => sounds[index]!.isVowel)
  if (nuclei.length < 2) return sounds.length === 0 ? [] : [[...sounds]]
  const begins = nuclei.slice(1).map((nucleus, index) => nucleus - onsetLength(sounds.slice(nuclei[index]! + 1, nucleus).map(sound => sound.ipa)))
  return [0, ...begins].map((begin, index) => sounds.slice(begin, begins[index] ?? sounds.length))
}
