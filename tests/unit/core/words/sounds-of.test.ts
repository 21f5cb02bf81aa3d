import { execFileSync } from 'node:child_process'
import { strangeSign } from '#core/words/ipa'
import { soundsOf } from '#core/words/sounds-of'
import { phonemeTable, toMnemonics } from '#voices/espeak/phonemes'

const voices = { en: 'gmw/en', de: 'gmw/de', fr: 'roa/fr', es: 'roa/es' } as const

describe.each(Object.keys(voices) as (keyof typeof voices)[])('the sounds that are offered for %s', language => {
  const sounds = soundsOf(language).filter(({ ipa }) => ipa !== 'ˈ' && ipa !== 'ˌ')

  test('are signs of IPA, each once', () => {
    expect(sounds.filter(({ ipa }) => strangeSign(ipa) !== null)).toEqual([])
    expect(new Set(sounds.map(({ ipa }) => ipa)).size).toBe(sounds.length)
  })

  test('are those that a voice of the language can speak', () => {
    const data = /Data at: (\S+)/u.exec(execFileSync('espeak-ng', ['--version'], { encoding: 'utf8' }))![1]!
    const table = phonemeTable(data, voices[language])
    const unspoken = sounds.filter(({ ipa }) => toMnemonics(ipa, table).otherwise.size > 0)
    expect(unspoken.map(({ ipa }) => ipa)).toEqual([])
  })
})

test('another language is offered the English ones', () => {
  expect(soundsOf('cy')).toEqual(soundsOf('en-GB'))
})
