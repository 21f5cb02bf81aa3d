import { onsetLength } from './onset'

// ARPABET as the CMU Pronouncing Dictionary writes it, and IPA. The pairs are those of the phone set that the dictionary documents
// (39 phones, lexical stress 0, 1, 2 on vowels), in General American.

const vowels: Readonly<Record<string, string>> = {
  AA: 'ɑː', AE: 'æ', AH: 'ʌ', AO: 'ɔː', AW: 'aʊ', AY: 'aɪ', EH: 'ɛ', ER: 'ɜːɹ', EY: 'eɪ', IH: 'ɪ', IY: 'iː', OW: 'oʊ', OY: 'ɔɪ', UH: 'ʊ', UW: 'uː',
}
const consonants: Readonly<Record<string, string>> = {
  B: 'b', CH: 'tʃ', D: 'd', DH: 'ð', F: 'f', G: 'ɡ', HH: 'h', JH: 'dʒ', K: 'k', L: 'l', M: 'm', N: 'n', NG: 'ŋ', P: 'p', R: 'ɹ', S: 's', SH: 'ʃ',
  T: 't', TH: 'θ', V: 'v', W: 'w', Y: 'j', Z: 'z', ZH: 'ʒ',
}
/** Without stress two vowels are others. */
const unstressed: Readonly<Record<string, string>> = { AH: 'ə', ER: 'ɚ' }

/** The IPA of a pronunciation in ARPABET, phones parted by spaces, stress marks before the syllable; null when it holds something else. */
export function arpabetToIpa(pronunciation: string): string | null {
  const phones = pronunciation.trim().split(/\s+/u).map(phone => ({ name: phone.replace(/[012]$/u, ''), stress: /[012]$/u.exec(phone)?.[0] ?? null }))
  const written: string[] = []
  let onset = 0
  for (const [index, { name, stress }] of phones.entries()) {
    const ipa = stress === null ? consonants[name] : stress === '0' ? unstressed[name] ?? vowels[name] : vowels[name]
    if (ipa === undefined) return null
    written.push(ipa)
    if (stress === null) continue
    if (stress !== '0') {
      // The mark stands before as many consonants as can begin a syllable.
      const between = written.slice(onset, index)
      const begins = onset === 0 ? 0 : between.length - onsetLength(between)
      const at = onset + begins
      written[at] = `${stress === '1' ? 'ˈ' : 'ˌ'}${written[at]}`
    }
    onset = index + 1
  }
  return written.join('')
}
