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

/** Consonants that can begin an English syllable together; one alone can, but for NG. */
const onsets = new Set(('P L,P R,P Y,B L,B R,B Y,T R,T W,D R,D W,K L,K R,K W,K Y,G L,G R,G W,F L,F R,F Y,TH R,TH W,SH R,S P,S T,S K,S M,S N,S F,S W,S L,'
  + 'HH Y,M Y,N Y,V Y,S P L,S P R,S P Y,S T R,S K R,S K W,S K Y,S K L').split(','))

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
      const between = phones.slice(onset, index).map(phone => phone.name)
      // The mark stands before as many consonants as can begin a syllable.
      let begins = between.length
      if (onset === 0) begins = 0
      else while (begins > 0 && canBegin(between.slice(begins - 1))) begins -= 1
      const at = onset + begins
      written[at] = `${stress === '1' ? 'ˈ' : 'ˌ'}${written[at]}`
    }
    onset = index + 1
  }
  return written.join('')
}

function canBegin(cluster: readonly string[]): boolean {
  return cluster.length === 1 ? cluster[0] !== 'NG' : onsets.has(cluster.join(' '))
}
