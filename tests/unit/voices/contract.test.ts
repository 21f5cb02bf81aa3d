import { isLanguageTag } from '#core/language/tag'
import { countWords } from '#core/manuscript/manuscript'
import type { Casting } from '#core/score/cast'
import { ProblemError } from '#core/problem'
import { plainContent, type Content } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import { defaultHouseStyle } from '#core/style/house-style'
import { requestForText } from '../../../voices/cast-score'
import { environmentAccounts } from '../../../voices/paid/accounts'
import type { Engine, EngineKind, Spoken } from '../../../voices/port'
import { engineKinds } from '../../../voices/registry'
import { voicesFor } from '../../../voices/voices-for'
import { digest, levelDb, rmsDb } from '../../support/audio'
import { castPassage } from '../../support/casting'
import { longText } from '../../support/long-text'
import { programs } from '../../support/paths'
import { speechService } from '../../support/speech-service'

// What every engine keeps. A new one is tried as soon as it is in the registry.

const opened: Engine[] = []
afterAll(() => Promise.all(opened.map(engine => engine.close())))

const sentences = [
  'The colony winters as one warm ball of bees.', 'In a mild week they fly, and drop what they have held for a month.', 'Nobody opens a hive then.',
  'Weigh it with one hand at the back, and write the weight into the book that hangs by the door.', 'Snow on the alighting board does no harm.', 'It melts by noon, and the bees come out to see.',
]

const hostile: readonly (readonly [name: string, text: string])[] = [
  ['markup', 'A <break time="99s"/> & </speak> bee.'], ['engine signs', '[[b\'i:z]] {lex} "word" : b iy1 z'], ['a NUL', 'Before\u0000after it.'], ['signs alone', '*** ### !!!'], ['another script', 'はちみつ и мёд.'], ['emoji', '🐝🐝🐝 bees'],
  ['a long word', `${'hive'.repeat(200)}.`], ['combining marks', 'Z\u0336\u0335a\u0334\u0333l\u0332go bees.'], ['one letter', 'x'], ['quotation marks', '“”‘’«»""\'\''], ['numbers', '1234567890123456789012345678901234567890'],
]

/** Where sound begins nearest to a sample. */
function onsetNear(samples: Int16Array, at: number, sampleRate: number): number {
  const window = Math.round(sampleRate / 1000)
  const isLoud = (from: number): boolean => rmsDb(samples.subarray(Math.max(0, from), from + window)) > -42
  let place = at
  if (isLoud(place)) while (place > 0 && isLoud(place - window)) place -= window
  else while (place < samples.length - window && !isLoud(place)) place += window
  return place
}

const equal = ({ samples, wordMarks }: Spoken): string => `${digest(samples)} ${wordMarks.join(' ')}`

describe.each(engineKinds().map(kind => [kind.capabilities.name, kind] as const))('%s', (_, kind: EngineKind) => {
  const { capabilities } = kind
  // What is asked over the network has its simulated service.
  const running = capabilities.isPaid === true ? speechService() : null
  const accounts = environmentAccounts({})
  const engine = kind.open({ programs, parallel: 2, accounts: running === null ? accounts : { ...accounts, of: async () => (await running).account } })
  afterAll(async () => { await (await running)?.close() })
  opened.push(engine)
  let casting: Casting

  beforeAll(async () => {
    const { voices } = await engine.list()
    const voice = voicesFor(voices, 'en')[0]!
    casting = { engine: capabilities.id, voice: voice.id, voiceRevision: voice.revision, ...capabilities.defaults, gainDb: 0 }
  })

  const written = (content: Content, change: Partial<Casting> = {}) => castPassage({ id: 'p', kind: 'paragraph', content }, { language: 'en', style: defaultHouseStyle, casting: { ...casting, ...change } })
  const speak = (text: string, change: Partial<Casting> = {}): Promise<Spoken> => engine.speak(written(plainContent(text), change)[0]!.request)

  test('has voices, each with an id, a language and a revision, and says what it is', async () => {
    const { voices } = await engine.list()
    expect(voices.length).toBeGreaterThan(0)
    expect(new Set(voices.map(voice => voice.id)).size).toBe(voices.length)
    for (const voice of voices) {
      expect([voice.engine, isLanguageTag(voice.language), voice.revision === '']).toEqual([capabilities.id, true, false])
      expect(kind.languageOf(voice.id)).not.toBe('')
    }
    expect(await engine.about()).toEqual({ found: expect.stringMatching(/\d/u) as string, remedy: null })
  })

  test('gives the same samples for the same request, whatever it spoke before and in whichever child', async () => {
    const first = await speak(sentences[0]!)
    const others = await Promise.all([speak('Something else.'), speak(sentences[0]!), speak('Short.', { wordsPerMinute: capabilities.wordsPerMinute.max }), speak(sentences[0]!), speak(sentences[0]!)])
    expect([others[1]!, others[3]!, others[4]!].map(equal)).toEqual([equal(first), equal(first), equal(first)])
    expect(first.sampleRate).toBe(capabilities.sampleRate)
    expect(first.samples.length).toBeGreaterThan(capabilities.sampleRate)
  })

  test.each([120, 155, 200])('at %i words a minute it speaks that many, to within 6 %%', async wordsPerMinute => {
    const text = longText(20)
    const spoken = await Promise.all(text.map(each => speak(each, { wordsPerMinute })))
    const minutes = spoken.reduce((sum, { samples }) => sum + samples.length, 0) / capabilities.sampleRate / 60
    expect(Math.abs(text.reduce((sum, each) => sum + countWords(each), 0) / minutes / wordsPerMinute - 1)).toBeLessThan(0.06)
  })

  test('its level is that of the others, to within 0.5 dB', async () => {
    const [reference] = engineKinds()
    const other = reference!.open({ programs, parallel: 2 })
    opened.push(other)
    const voices = (await engine.list()).voices.filter(voice => voice.language.toLowerCase().startsWith('en') && !voice.id.endsWith('_time'))
    const usual = { engine: reference!.capabilities.id, voice: 'en-gb', voiceRevision: '1', ...reference!.capabilities.defaults, gainDb: 0 }
    const level = async (by: Engine, change: Partial<Casting>, rate: number): Promise<number> => levelDb((await Promise.all(sentences.map(text => by.speak(written(plainContent(text), change)[0]!.request)))).map(({ samples }) => samples), rate)
    const wanted = await level(other, usual, reference!.capabilities.sampleRate)
    if (kind === reference) return
    for (const voice of voices) expect([voice.id, Math.abs(await level(engine, { voice: voice.id }, capabilities.sampleRate) - wanted) < 0.5]).toEqual([voice.id, true])
  })

  test('the time of a word behind a pause is where its sound begins, to within 20 ms', async () => {
    const text = 'In March; all the bees; every hive; open it.'
    const { request, words } = written(plainContent(text))[0]!
    const { samples, wordMarks } = await engine.speak(request)
    for (const word of ['all', 'every', 'open']) {
      const at = Array.from({ length: words.length / 3 }, (_, index) => index * 3).find(index => words[index + 1] === text.indexOf(word))!
      const mark = wordMarks[wordMarks.findIndex((place, index) => index % 2 === 0 && place === words[at]) + 1]!
      const offMs = Math.abs(onsetNear(samples, mark, capabilities.sampleRate) - mark) / capabilities.sampleRate * 1000
      expect([word, offMs < 20]).toEqual([word, true])
    }
  })

  test('a rest, a pronunciation and a change of pace are done, or said to be impossible, and every place keeps its mark', async () => {
    const text = 'The bees come home, and the hive is full.'
    const [bees, and] = [text.indexOf('bees'), text.indexOf('and')]
    const spoken = await Promise.all(([
      [{ id: 'd', kind: 'rest', ms: 700 }, and, and], [{ id: 'd', kind: 'phoneme', ph: 'bˈiːz' }, bees, bees + 4], [{ id: 'd', kind: 'prosody', rate: '60%' }, bees, and - 2], [{ id: 'd', kind: 'prosody', volume: '-6dB' }, bees, bees + 4],
    ] as const).map(async ([direction, start, end]) => {
      const [utterance] = written(withDirection(plainContent(text), direction, start, end))
      const { samples, wordMarks } = await engine.speak(utterance!.request)
      const places = wordMarks.filter((_, index) => index % 2 === 0)
      const times = wordMarks.filter((_, index) => index % 2 === 1)
      expect((utterance!.stretches ?? []).slice(1).filter(({ place }) => !places.includes(place))).toEqual([])
      expect(times).toEqual(times.toSorted((a, b) => a - b))
      return samples.length / capabilities.sampleRate
    }))
    const asItIs = (await speak(text)).samples.length / capabilities.sampleRate
    expect(spoken[2]!).toBeGreaterThan(asItIs * (capabilities.directions.prosody.how === 'unavailable' ? 0.9 : 1.15))
    // The rest itself is put where the track is assembled.
    expect(spoken[0]!).toBeLessThan(asItIs + 0.3)
  })

  test.each(hostile)('%s is spoken or refused as a problem, and the next sentence is spoken as ever', async (_name, text) => {
    const before = equal(await speak(sentences[2]!))
    const answer = await engine.speak(written(plainContent(text))[0]?.request ?? requestForText(casting, text)).catch((error: unknown) => error)
    if (!(answer instanceof ProblemError)) expect((answer as Spoken).sampleRate).toBe(capabilities.sampleRate)
    expect(equal(await speak(sentences[2]!))).toBe(before)
  })

  test('a voice that is not there is refused, not replaced', async () => {
    await expect(engine.speak({ ...requestForText(casting, 'Bees.'), voice: 'nobody' })).rejects.toMatchObject({ problem: { code: 'voice-unknown' } })
  })

  if (capabilities.isPaid !== true) test('a child that dies or hangs costs its own sentence at most', async () => {
    const hasty = kind.open({ programs, parallel: 1, timeoutMs: 300 })
    await hasty.list()
    await expect(hasty.speak(requestForText(casting, 'word '.repeat(60_000)))).rejects.toMatchObject({ problem: { code: 'engine-stopped' } })
    await hasty.close()
  })
})
