// The charts of the International Phonetic Alphabet (IPA Association, 2020; from memory) as numbers: how near sounds are to each other.

/**
 * Rows of the chart of consonants by manner. Places of articulation in order: labial, labiodental, dental, alveolar, postalveolar, retroflex, palatal, velar, uvular, pharyngeal, glottal; of two signs
 * at one place the second is voiced. A full stop leaves a place out.
 */
const consonantRows: readonly (readonly [manner: number, ...signs: readonly string[]])[] = [
  [0, 'pb', '..', '..', 'td', '..', 'ʈɖ', 'cɟ', 'kɡ', 'qɢ', '.ʡ', 'ʔ.'],
  [1, 'ɸβ', 'fv', 'θð', 'sz', 'ʃʒ', 'ʂʐ', 'çʝ', 'xɣ', 'χʁ', 'ħʕ', 'hɦ'],
  [2, '.m', '.ɱ', '..', '.n', '..', '.ɳ', '.ɲ', '.ŋ', '.ɴ', '..', '..'],
  [3, '.ʙ', '.ⱱ', '..', '.r', '..', '.ɽ', '..', '..', '.ʀ', '..', '..'],
  [3.2, '..', '..', '..', '.ɾ', '..', '..', '..', '..', '..', '..', '..'],
  [4, '..', '.ʋ', '..', '.ɹ', '..', '.ɻ', '.j', '.ɰ', '..', '..', '..'],
  [5, '..', '..', '..', '.l', '..', '.ɭ', '.ʎ', '.ʟ', '..', '..', '..'],
  [1.5, '..', '..', '..', 'ɬɮ', '..', '..', '..', '..', '..', '..', '..'],
  // Implosives and clicks are made like stops.
  [0.3, '.ɓ', '..', '..', '.ɗ', '..', '..', '.ʄ', '.ɠ', '.ʛ', '..', '..'],
  [0.4, 'ʘ.', '..', 'ǀ.', 'ǃ.', '..', '..', 'ǂ.', '..', '..', '..', '..'],
]
/** Consonants that the chart has beside it: manner, place, voiced. */
const otherConsonants: Readonly<Record<string, readonly [manner: number, place: number, voiced: number]>> = {
  ʍ: [1, 7, 0], w: [4, 7, 1], ɥ: [4, 6, 1], ʜ: [1, 9, 0], ʢ: [1, 9, 1], ɕ: [1, 5, 0], ʑ: [1, 5, 1], ɺ: [3.2, 3, 1], ɧ: [1, 4, 0], ǁ: [0.4, 3, 0], ɫ: [5, 3, 1],
}

/** Height from 0 (close) to 6 (open), backness from 0 (front) to 2, rounded. */
const vowels: Readonly<Record<string, readonly [height: number, back: number, rounded: number]>> = {
  i: [0, 0, 0], y: [0, 0, 1], ɨ: [0, 1, 0], ʉ: [0, 1, 1], ɯ: [0, 2, 0], u: [0, 2, 1], ɪ: [1, 0.4, 0], ʏ: [1, 0.4, 1], ʊ: [1, 1.6, 1], ᵻ: [1, 0.8, 0], e: [2, 0, 0], ø: [2, 0, 1], ɘ: [2, 1, 0], ɵ: [2, 1, 1], ɤ: [2, 2, 0], o: [2, 2, 1],
  ə: [3, 1, 0], ɛ: [4, 0, 0], œ: [4, 0, 1], ɜ: [4, 1, 0], ɝ: [4, 1, 0], ɚ: [3, 1, 0], ɞ: [4, 1, 1], ʌ: [4, 2, 0], ɔ: [4, 2, 1], æ: [5, 0, 0], ɐ: [5, 1, 0], a: [6, 0.3, 0], ɶ: [6, 0, 1], ɑ: [6, 2, 0], ɒ: [6, 2, 1],
}

const consonants = new Map<string, readonly number[]>([
  ...consonantRows.flatMap(([manner, ...signs]) => signs.flatMap((pair, place) => [...pair].flatMap((sign, voiced): (readonly [string, readonly number[]])[] => sign === '.' ? [] : [[sign, [manner, place, voiced]]]))),
  ...Object.entries(otherConsonants),
])

/** How far manner, place and voice are apart; the last counts least. */
const consonantWeights = [2, 0.8, 0.7]
const vowelWeights = [1, 1.6, 0.9]

/** The nearest sound to a sign of IPA of those that there are; null for a sign that stands for no sound by itself. */
export function nearestSound(sign: string, has: (ipa: string) => boolean): string | null {
  const [chart, weights] = consonants.has(sign) ? [[...consonants], consonantWeights] : [Object.entries(vowels), vowelWeights]
  const own = chart.find(([each]) => each === sign)?.[1]
  if (own === undefined) return null
  let nearest: string | null = null
  let least = Number.POSITIVE_INFINITY
  for (const [each, values] of chart) {
    const found = [each, `${each}ː`].find(has)
    const distance = values.reduce((sum, value, index) => sum + Math.abs(value - own[index]!) * weights[index]!, 0)
    if (found === undefined || distance >= least) continue
    nearest = found
    least = distance
  }
  return nearest
}
