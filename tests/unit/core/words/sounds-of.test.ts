import { execFileSync } from 'node:child_process'
import { strangeSign } from '#core/words/ipa'
import { soundsOf } from '#core/words/sounds-of'
import { phonemeTable, toMnemonics } from '#voices/espeak/phonemes'

const voices = { en: 'gmw/en', de: 'gmw/de', fr: 'roa/fr', es: 'roa/es', it: 'roa/it', pt: 'roa/pt', nl: 'gmw/nl', pl: 'zlw/pl', sv: 'gmq/sv', cs: 'zlw/cs', ru: 'zle/ru', tr: 'trk/tr', el: 'grk/el' } as const

/** Sounds of a language that its voice has not, and says as the nearest. */
const asNearest: Partial<Record<keyof typeof voices, string[]>> = { it: ['ɔ', 'u'], nl: ['ɦ'], sv: ['ɧ'], cs: ['ɪ', 'ɦ'], ru: ['ɨ', 'lʲ'] }

const data = /Data at: (\S+)/u.exec(execFileSync('espeak-ng', ['--version'], { encoding: 'utf8' }))![1]!

describe.each(Object.keys(voices) as (keyof typeof voices)[])('the sounds that are offered for %s', language => {
  const sounds = soundsOf(language).filter(({ ipa }) => ipa !== 'ˈ' && ipa !== 'ˌ')

  test('are signs of IPA, each once', () => {
    expect(sounds.filter(({ ipa }) => strangeSign(ipa) !== null)).toEqual([])
    expect(new Set(sounds.map(({ ipa }) => ipa)).size).toBe(sounds.length)
  })

  test('are those that a voice of the language can speak, but for a few', () => {
    const table = phonemeTable(data, voices[language])
    const unspoken = sounds.filter(({ ipa }) => toMnemonics(ipa, table).otherwise.size > 0)
    expect(unspoken.map(({ ipa }) => ipa)).toEqual(asNearest[language] ?? [])
  })
})

test('a soft consonant of Russian is the one before the sign that makes it soft', () => {
  const said = toMnemonics('pʲˈatʲ', phonemeTable(data, voices.ru))
  expect(said.otherwise.size).toBe(0)
  expect(execFileSync('espeak-ng', ['-q', '--ipa', '-v', 'ru', `[[${said.mnemonics}]]`], { encoding: 'utf8' }).trim()).toBe('pʲˈatʲ')
})

test('another language is offered the English ones', () => {
  expect(soundsOf('cy')).toEqual(soundsOf('en-GB'))
})
