// Signs of the International Phonetic Alphabet: its chart of 2020 (IPA Association), letters, diacritics, tones and ties, and the ligatures of
// affricates that it had before; from memory.
const letters = 'pbtdʈɖcɟkɡqɢʔmɱnɳɲŋɴʙrʀⱱɾɽɸβfvθðszʃʒʂʐçʝxɣχʁħʕhɦɬɮʋɹɻjɰlɭʎʟʘǀǃǂǁɓɗʄɠʛʍwɥʜʢʡɕʑɺɧiyɨʉɯuɪʏʊeøɘɵɤoəɛœɜɞʌɔæɐaɶɑɒɚɝɫᵻgʣʤʥʦʧʨ'
const marks = 'ˈˌːˑ.|‖‿ ʼ˞ʰʷʲˠˤⁿˡ̥̬̹̜̟̠̩̯̤̰̼̝̞̘̙̪̺̻̃̈̽̚͜͡˥˦˧˨˩↗↘ꜛꜜ\'’:'
const known = new Set([...letters.normalize('NFD'), ...marks.normalize('NFD')])

/** The first sign that is none of IPA, with its place (characters from 0); null when there is none. */
export function strangeSign(ipa: string): { readonly sign: string, readonly at: number } | null {
  const signs = [...ipa]
  const at = signs.findIndex(sign => [...sign.normalize('NFD')].some(each => !known.has(each)))
  return at < 0 ? null : { sign: signs[at]!, at }
}
