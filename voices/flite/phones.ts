import { nearestSound } from '#core/words/nearest-sound'

// IPA as the phones of the voices' dictionary: ARPABET in small letters, vowels with their stress (0, 1).

/** General American, and the sounds of British English as the nearest of it. */
const phones: Readonly<Record<string, string>> = {
  'ɑː': 'aa', 'ɑ': 'aa', 'ɒ': 'aa', 'æ': 'ae', 'a': 'ae', 'ʌ': 'ah', 'ɐ': 'ah', 'ə': 'ax', 'ɔː': 'ao', 'ɔ': 'ao', 'aʊ': 'aw', 'aɪ': 'ay', 'ɛ': 'eh', 'e': 'eh', 'ɜː': 'er', 'ɜːɹ': 'er', 'ɜ': 'er', 'ɝ': 'er', 'ɚ': 'er', 'eɪ': 'ey',
  'ɪ': 'ih', 'ɨ': 'ih', 'iː': 'iy', 'i': 'iy', 'oʊ': 'ow', 'əʊ': 'ow', 'o': 'ow', 'ɔɪ': 'oy', 'ʊ': 'uh', 'uː': 'uw', 'u': 'uw', 'ɪə': 'ih r', 'ɛə': 'eh r', 'eə': 'eh r', 'ʊə': 'uh r',
  'b': 'b', 'tʃ': 'ch', 'd': 'd', 'ð': 'dh', 'f': 'f', 'ɡ': 'g', 'h': 'hh', 'dʒ': 'jh', 'k': 'k', 'l': 'l', 'ɫ': 'l', 'm': 'm', 'n': 'n', 'ŋ': 'ng', 'p': 'p', 'ɹ': 'r', 'r': 'r', 'ɾ': 'd', 's': 's', 'ʃ': 'sh', 't': 't', 'θ': 'th', 'v': 'v', 'w': 'w',
  'j': 'y', 'z': 'z', 'ʒ': 'zh',
}
const longest = Math.max(...Object.keys(phones).map(sound => sound.length))

export interface Phones {
  /** Parted by spaces; empty where nothing can be said. */
  readonly phones: string
  /** Signs that the voices have no sound for, and the one that is said instead; empty for one that is passed over. */
  readonly otherwise: ReadonlyMap<string, string>
}

/** IPA as phones, longest sounds first. A vowel has the stress that stands before its syllable; without any mark the first has it. */
export function toPhones(ipa: string): Phones {
  const otherwise = new Map<string, string>()
  const signs = [...ipa.normalize('NFD').replace(/[.‿\s\u0361\u035c\u200d]/gu, '').replace(/g/gu, 'ɡ').replace(/:/gu, 'ː').replace(/['’]/gu, 'ˈ')]
  const out: string[] = []
  let stressed = !signs.includes('ˈ')
  for (let at = 0; at < signs.length;) {
    const sign = signs[at]!
    if (sign === 'ˈ' || sign === 'ˌ') {
      stressed = true
      at += 1
      continue
    }
    const length = Array.from({ length: longest }, (_, index) => longest - index).find(count => at + count <= signs.length && phones[signs.slice(at, at + count).join('')] !== undefined)
    let sound = length === undefined ? null : signs.slice(at, at + length).join('')
    if (sound === null && !/[ː\p{M}]/u.test(sign)) {
      sound = nearestSound(sign, each => each in phones)
      otherwise.set(sign, sound ?? '')
    }
    at += length ?? 1
    if (sound === null) continue
    for (const phone of phones[sound]!.split(' ')) {
      const isVowel = /^[aeiou]/u.test(phone)
      // The sound of no stress has another sign where it is stressed.
      out.push(isVowel ? stressed ? `${phone === 'ax' ? 'ah' : phone}1` : `${phone}0` : phone)
      if (isVowel) stressed = false
    }
  }
  return { phones: out.join(' '), otherwise }
}
