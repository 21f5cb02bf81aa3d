import { execFileSync } from 'node:child_process'
import { dictionary } from 'cmu-pronouncing-dictionary'
import { arpabetToIpa } from '#core/words/arpabet'
import { phonemeTable, toMnemonics } from '../../../voices/espeak/phonemes'

// Source: the CMU Pronouncing Dictionary, in the package of its name.

const words = Object.entries(dictionary).map(([word, pronunciation]) => ({ word, pronunciation: pronunciation.replace(/\s*#.*$/u, '') }))

test('every pronunciation of the dictionary becomes IPA, with a sign for each phone', () => {
  expect(words.length).toBeGreaterThan(135_000)
  const failed = words.filter(({ pronunciation }) => arpabetToIpa(pronunciation) === null)
  expect(failed).toEqual([])
})

test.each([
  // Stress stands before the syllable: phone set and stress marks as the dictionary documents them.
  ['HH AH1 N IY0', 'ˈhʌniː'], ['K AH0 M P Y UW1 T ER0', 'kəmˈpjuːtɚ'], ['IH0 K S T R IY1 M', 'ɪkˈstɹiːm'], ['B IY1 HH AY2 V', 'ˈbiːˌhaɪv'], ['S IH1 NG ER0', 'ˈsɪŋɚ'], ['F AH0 N EH1 T IH0 K', 'fəˈnɛtɪk'],
])('%s is /%s/', (arpabet, ipa) => {
  expect(arpabetToIpa(arpabet)).toBe(ipa)
})

test('what is no ARPABET is none', () => {
  expect([arpabetToIpa('HH XX1'), arpabetToIpa('HH1'), arpabetToIpa('')]).toEqual([null, null, null])
})

test('of 2,000 words, those that the dictionary and the engine read alike are the same phonemes when the engine is given the IPA', () => {
  // A fixed linear congruential generator: the same words every time.
  let state = 20_261
  const next = (): number => (state = (state * 1_103_515_245 + 12_345) % 2 ** 31)
  const plain = words.filter(({ word }) => /^[a-z]{2,}$/u.test(word))
  const chosen = Array.from({ length: 2000 }, () => plain[next() % plain.length]!)
  const data = /Data at: (\S+)/u.exec(execFileSync('espeak-ng', ['--version'], { encoding: 'utf8' }))![1]!
  const table = phonemeTable(data, 'gmw/en-US')
  const ask = (lines: readonly string[]): string[] => execFileSync('espeak-ng', ['-q', '--ipa', '-v', 'en-us', '--stdin'], { input: lines.map(line => `${line}.`).join('\n\n'), encoding: 'utf8', maxBuffer: 1 << 26 })
    .split('\n').map(line => line.trim()).filter(line => line !== '')
  const ipa = chosen.map(({ pronunciation }) => arpabetToIpa(pronunciation)!)
  const own = ask(chosen.map(({ word }) => word))
  const forced = ask(ipa.map(each => `[[${toMnemonics(each, table).mnemonics}]]`))
  expect([own.length, forced.length]).toEqual([2000, 2000])

  /** The sounds alone: signs that two transcriptions use for one sound, made one. */
  const sounds = (text: string): string => text.normalize('NFD').replace(/[ˈˌ\u0361ː]/gu, '').replace(/ɚ|ɜɹ|əɹ/gu, 'R').replace(/ɐ/gu, 'ə').replace(/ᵻ/gu, 'ɪ').replace(/ɾ/gu, 't').replace(/ɡ/gu, 'g')
  const agreeing = chosen.map((_, index) => index).filter(index => sounds(own[index]!) === sounds(ipa[index]!))
  const same = agreeing.filter(index => sounds(forced[index]!) === sounds(own[index]!))
  console.info(`Dictionary and engine read ${agreeing.length} of 2,000 words alike; ${same.length} of these are the same when forced.`)
  expect(agreeing.length).toBeGreaterThan(600)
  expect(same.length / agreeing.length).toBeGreaterThanOrEqual(0.99)
})
