import { countWords } from '#core/manuscript/manuscript'
import type { Casting } from '#core/score/cast'
import { plainContent, type Content } from '#core/script/content'
import { withDirection } from '#core/script/edit'
import { defaultHouseStyle } from '#core/style/house-style'
import { espeak } from '../../../voices/espeak/index'
import { piecesOf } from '../../../voices/espeak/program'
import type { Engine, Spoken } from '../../../voices/port'
import { digest } from '../../support/audio'
import { castPassage } from '../../support/casting'
import { programs } from '../../support/paths'

// The engine's command-line program speaks where its library cannot be loaded.

const { capabilities } = espeak
const usual = espeak.open({ programs, parallel: 1 })
let byProgram: Engine
const setting = 'QUILL_ESPEAK_LIBRARY'

beforeAll(async () => {
  process.env[setting] = 'libnowhere.so.1'
  byProgram = espeak.open({ programs, parallel: 1 })
  await byProgram.list()
  Reflect.deleteProperty(process.env, setting)
})
afterAll(() => Promise.all([usual.close(), byProgram.close()]))

const text = 'In March the bees come home, and the hive is full.'
const casting: Casting = { engine: 'espeak', voice: 'en-gb', voiceRevision: '1', ...capabilities.defaults, gainDb: 0 }
const written = (content: Content) => castPassage({ id: 'p', kind: 'paragraph', content }, { language: 'en', style: defaultHouseStyle, casting })[0]!
const both = (content: Content): Promise<readonly [Spoken, Spoken]> => Promise.all([usual.speak(written(content).request), byProgram.speak(written(content).request)])

test('it has the same voices and variants, under another revision', async () => {
  const [own, other] = [await usual.list(), await byProgram.list()]
  const facts = (list: readonly { readonly name: string, readonly revision?: string }[]) => list.map(({ revision: _, ...voice }) => ({ ...voice, name: voice.name.replace(/_/gu, ' ') }))
  expect(facts(other.voices)).toEqual(facts(own.voices))
  expect(facts(other.variants)).toEqual(facts(own.variants))
  expect(other.voices[0]!.revision).not.toBe(own.voices[0]!.revision)
})

test('Health says so, with what to do', async () => {
  expect(await byProgram.about()).toEqual({ found: expect.stringMatching(/by its command-line program.*times of words are estimated/u) as string, remedy: expect.stringContaining('espeak-ng') as string })
  expect(await usual.about()).toMatchObject({ remedy: null })
})

test.each([
  ['plain text', plainContent(text)], ['a pronunciation', withDirection(plainContent(text), { id: 'd', kind: 'phoneme', ph: 'hˈoʊm' }, 23, 27)], ['another pace', withDirection(plainContent(text), { id: 'd', kind: 'prosody', rate: '80%' }, 9, 17)],
])('%s has the samples of the library, and no times', async (_, content) => {
  const [own, other] = await both(content)
  expect(other).toMatchObject({ sampleRate: own.sampleRate, wordMarks: [] })
  expect(digest(other.samples)).toBe(digest(own.samples))
})

test('where a rest is put it speaks in pieces, and tells where the second begins', async () => {
  const content = withDirection(plainContent(text), { id: 'd', kind: 'rest', ms: 700 }, 29, 29)
  const [, other] = await both(content)
  const place = written(content).stretches![1]!.place
  expect(other.wordMarks).toEqual([place, expect.any(Number)])
  const [, sample] = other.wordMarks
  const wordsBefore = countWords(text.slice(0, 29)) / countWords(text)
  expect(Math.abs(sample! / other.samples.length - wordsBefore)).toBeLessThan(0.15)
})

test('it reads in IPA, and says beforehand what it has not', async () => {
  const texts = ['honey', 'bee; hive', 'queen']
  expect(await byProgram.inIpa!('en-gb', texts)).toEqual(await usual.inIpa!('en-gb', texts))
  const requests = [written(plainContent(text)).request, written(withDirection(plainContent(text), { id: 'd', kind: 'phoneme', ph: 'ʘaʘ' }, 3, 8)).request]
  expect(await byProgram.examine!(requests)).toEqual(await usual.examine!(requests))
})

test('markup is parted with its elements closed and opened again', () => {
  expect(piecesOf('<speak>One <prosody rate="80%">two <mark name="r"/>three</prosody> &lt; four<mark name="g"/>.</speak>')).toEqual([
    '<speak>One <prosody rate="80%">two </prosody></speak>', '<speak><prosody rate="80%">three</prosody> &lt; four</speak>', '<speak>.</speak>',
  ])
})
