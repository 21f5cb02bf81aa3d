import { speakingMs } from '#core/estimate/speaking-time'
import { countWords } from '#core/manuscript/manuscript'
import type { EngineRequest } from '#core/score/request'
import { castingFor } from '../../../voices/choose'
import { espeak } from '../../../voices/espeak/index'
import { voicesFor } from '../../../voices/voices-for'
import { digest, pitchHz } from '../../support/audio'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { casting, castPassage, markupOf, plainRequest } from '../../support/casting'
import { longText } from '../../support/long-text'
import { programs } from '../../support/paths'

const engine = espeak.open({ programs, parallel: 2 })
afterAll(() => engine.close())

const sentence = 'All the bees were flying low over the meadow in the morning, and nobody was there to see them go.'

function request(change: Partial<EngineRequest> = {}, text = sentence): EngineRequest {
  return { ...plainRequest(text), ...change }
}


describe('the embedded engine', () => {
  test('no word of another script is called a letter of that script', async () => {
    const asked = castPassage({ id: 'p', kind: 'paragraph', content: plainContent('The word はちみつ means honey.') }, { language: 'en', style: defaultHouseStyle, casting })[0]!.request
    const seconds = async (spoken: EngineRequest): Promise<number> => (await engine.speak(spoken)).samples.length / 22_050
    // “Japanese letter” four times, or what stands behind in a voice that spells it out, takes more than five seconds.
    expect(await seconds(asked)).toBeLessThan(3)
    expect(await seconds(asked)).toBeGreaterThan(await seconds(plainRequest('The word means honey.')) + 0.2)
  })

  test('lists all its voices, each with an id of its own', async () => {
    const { voices, variants } = await engine.list()
    // Debian 12 ships 131 voices with the library.
    expect(voices.length).toBeGreaterThanOrEqual(131)
    expect(new Set(voices.map(voice => voice.id)).size).toBe(voices.length)
    expect(variants.some(variant => variant.gender === 'female')).toBe(true)
    expect(voices[0]!.revision).toMatch(/^1\.\d+/u)
  })

  test('speaks the same samples every time, whatever it spoke before and in whichever child', async () => {
    const first = digest((await engine.speak(request())).samples)
    const others = await Promise.all([
      engine.speak(request({ voice: 'de' }, 'Etwas anderes.')), engine.speak(request()), engine.speak(request({}, 'Short.')), engine.speak(request()), engine.speak(request()),
    ])
    expect([others[1], others[3], others[4]].map(spoken => digest(spoken!.samples))).toEqual([first, first, first])
  })

  test('gives the time of every word but those spoken as one with the word before', async () => {
    const { wordMarks, samples } = await engine.speak(request())
    const markup = [...markupOf(plainRequest(sentence))]
    const places = wordMarks.filter((_, index) => index % 2 === 0)
    const times = wordMarks.filter((_, index) => index % 2 === 1)
    const found = places.map(place => /^\w+/u.exec(markup.slice(place).join(''))?.[0])
    const all = sentence.match(/\w+/gu)!
    // The voice speaks “over the” and “in the” as one.
    expect(all.filter(word => !found.includes(word)).every(word => word === 'the')).toBe(true)
    expect(found.length).toBeGreaterThanOrEqual(all.length - 2)
    expect(times.every((at, index) => index === 0 || at > times[index - 1]!)).toBe(true)
    expect(times.at(-1)).toBeLessThan(samples.length)
  })

  test.each([
    ['en-gb', 'She said “indeed” and ‘never’ then.', ['indeed', 'never']], ['en-gb', 'He came—late—home.', ['came', 'late', 'home']], ['en-gb', 'He came – late – home.', ['came', 'late', 'home']],
    ['en-gb', 'It is a "queen" here.', ['queen']], ['fr-fr', 'Il dit « oui » et «non» puis.', ['oui', 'non']], ['de', 'Er sagt „gut“ und »nein« dazu.', ['gut', 'nein']], ['es', 'Dijo «bien» ayer.', ['bien']],
  ] as const)('in %s it gives the time of words behind quotation marks and dashes: %s', async (voice, text, wanted) => {
    const { wordMarks } = await engine.speak(request({ voice }, text))
    const markup = [...markupOf(plainRequest(text))]
    const found = wordMarks.flatMap((place, index) => index % 2 === 0 ? /^\p{L}+/u.exec(markup.slice(place).join(''))?.[0] ?? [] : [])
    expect(found).toEqual(expect.arrayContaining([...wanted]))
    const times = wordMarks.filter((_, index) => index % 2 === 1)
    expect(times).toEqual(times.toSorted((a, b) => a - b))
  })

  test.each([120, 155, 200, 280])('at %i words a minute it speaks that many, to within 6 %%', async wordsPerMinute => {
    const text = longText()
    const spoken = await Promise.all(text.map(each => engine.speak(request({ wordsPerMinute }, each))))
    const minutes = spoken.reduce((sum, { samples }) => sum + samples.length, 0) / 22_050 / 60
    const words = text.reduce((sum, each) => sum + countWords(each), 0)
    expect(Math.abs(words / minutes / wordsPerMinute - 1)).toBeLessThan(0.06)
  })

  test.each([-6, -3, 3, 6])('%i semitones move the pitch by that much, to within 0.7', async pitchSemitones => {
    const natural = pitchHz((await engine.speak(request())).samples, 22_050)
    const moved = pitchHz((await engine.speak(request({ pitchSemitones }))).samples, 22_050)
    expect(Math.abs(12 * Math.log2(moved / natural) - pitchSemitones)).toBeLessThan(0.7)
  })

  test('the estimate of speaking time is within 5 % over a chapter', async () => {
    const text = longText()
    const spoken = await Promise.all(text.map(each => engine.speak(request({}, each))))
    const ms = spoken.reduce((sum, { samples }) => sum + samples.length, 0) / 22.05
    const estimate = text.reduce((sum, each) => sum + speakingMs(each, 155), 0)
    expect(Math.abs(estimate / ms - 1)).toBeLessThan(0.05)
  })

  test('voices and variants sound different', async () => {
    const sounds = await Promise.all(['en-gb', 'en-us', 'en-gb+f3', 'en-gb-scotland'].map(voice => engine.speak(request({ voice }))))
    expect(new Set(sounds.map(spoken => digest(spoken.samples))).size).toBe(4)
  })

  test.each([['xx', 'no voice “xx”'], ['en-gb+nobody', 'no variant “nobody”']])('the unknown voice %s is refused, not replaced', async (voice, message) => {
    await expect(engine.speak(request({ voice }))).rejects.toMatchObject({ problem: { code: 'voice-unknown', message: expect.stringContaining(message) } })
  })

  test('a child that takes too long is replaced, and the utterance becomes a problem', async () => {
    const hasty = espeak.open({ programs, parallel: 1, timeoutMs: 300 })
    const endless = 'word '.repeat(60_000)
    await expect(hasty.list().catch(() => hasty.list()).then(() => hasty.speak(request({}, endless)))).rejects.toMatchObject({ problem: { code: 'engine-stopped' } })
    await hasty.close()
  })
})

describe('choosing a voice', () => {
  test('the exact language comes first, then the usual voice of the language', async () => {
    const { voices } = await engine.list()
    expect(voicesFor(voices, 'en-US')[0]!.id).toBe('en-us')
    expect(voicesFor(voices, 'en')[0]!.id).toBe('en-gb')
    expect(voicesFor(voices, 'fr')[0]!.id).toBe('fr-fr')
    expect(voicesFor(voices, 'de-AT')[0]!.id).toBe('de')
  })

  test('a value outside the engine’s range is refused with the range', async () => {
    const list = await engine.list()
    expect(() => castingFor(list, 'en', { wordsPerMinute: 20 })).toThrow('95 to 400')
    expect(() => castingFor(list, 'en', { gainDb: 6 })).toThrow('-24 to 0')
    expect(() => castingFor(list, 'tlh-x-none', {})).toThrow('No voice speaks')
  })
})
