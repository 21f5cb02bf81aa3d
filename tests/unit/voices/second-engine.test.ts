import { hash } from '#core/hash'
import type { Casting, EngineCapabilities } from '#core/score/cast'
import { supportOf } from '#core/score/support'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { makeTakes } from '../../../reading/make-takes'
import { FileTakeIndex } from '../../../takes/file-index'
import { castingFor } from '../../../voices/choose'
import { openEngines } from '../../../voices/engines'
import type { EngineKind } from '../../../voices/port'
import { engineCapabilities, registerEngine } from '../../../voices/registry'
import { castPart, castPassage } from '../../support/casting'
import { programs, temporaryFolder } from '../../support/paths'
import { packsIn } from '../../support/takes'

// One more engine, as small as one can be: it hums a tone for each letter. Nothing else is told about it.

const cannot = { how: 'unavailable', note: 'Hummers do not do that.' } as const
const capabilities: EngineCapabilities = {
  id: 'hummer', name: 'Hummer', sampleRate: 16_000, maximumCharacters: 40,
  wordsPerMinute: { min: 50, max: 100 }, pitchSemitones: { min: 0, max: 0 }, gainDb: { min: -10, max: 0 },
  work: { eachMs: 1, perSpokenSecondMs: 1 }, defaults: { wordsPerMinute: 80, pitchSemitones: 0, gainDb: 0 }, colourings: [],
  directions: { emphasis: cannot, sayAs: [], phoneme: cannot, prosody: cannot, pitchOrVolume: cannot, contour: cannot, duration: cannot, language: cannot, voice: cannot },
}
const hummer: EngineKind = {
  capabilities,
  write: ({ engine, voice, voiceRevision, wordsPerMinute }, segments) => {
    const text = segments.map(segment => segment.text).join('')
    const request = { engine, voice, voiceRevision, wordsPerMinute, pitchSemitones: 0, body: text }
    return { request, key: hash(request), words: [], stretches: [{ place: 0, restMs: 0, gainDb: 0 }], length: text.length }
  },
  excerpt: ({ body }, from, to) => String(body).slice(from, to),
  languageOf: () => 'en',
  open: () => ({
    parallel: 1,
    list: () => Promise.resolve({ voices: [{ engine: 'hummer', id: 'low', name: 'Low', language: 'en', gender: 'unknown', revision: '1' }], variants: [] }),
    about: () => Promise.resolve({ found: 'one voice', remedy: null }),
    speak: ({ body }) => Promise.resolve({ samples: new Int16Array(String(body).length * 100).fill(1000), sampleRate: capabilities.sampleRate, wordMarks: [] }),
    close: () => Promise.resolve(),
  }),
}
registerEngine(hummer)

const folder = temporaryFolder()
const engines = openEngines({ programs, parallel: 1 })
afterAll(() => engines.close())
const part = { id: 'p', kind: 'chapter', label: 'P', included: true, passages: [{ id: '1', kind: 'paragraph', content: plainContent('They hum. The bees that came home in the evening were humming all the night.') }] } as const
const casting: Casting = { engine: 'hummer', voice: 'low', voiceRevision: '1', ...capabilities.defaults }
const context = { language: 'en', style: defaultHouseStyle, casting }

test('its voices are among the others, and its ranges and defaults hold for them', async () => {
  const list = await engines.list()
  expect(new Set(list.voices.map(voice => voice.engine))).toEqual(new Set(['espeak', 'flite', 'hummer']))
  expect(castingFor(list, 'en', { voice: 'low' })).toEqual(casting)
  expect(() => castingFor(list, 'en', { engine: 'hummer', wordsPerMinute: 155 })).toThrow('Pace goes from 50 to 100')
  expect(castingFor(list, 'en', {}).engine).toBe('espeak')
})

test('sentences are cut to what it can take, and sent as it wants them', () => {
  const { utterances } = castPart(part, context)
  expect(utterances.map(({ request }) => request.body)).toEqual(['They hum.', 'The bees that came home in the evening', 'were humming all the night.'])
})

test('what it cannot do is said in its words', () => {
  const around = { casting, engine: engineCapabilities()['hummer']!, language: 'en' }
  expect(supportOf({ id: 'd', kind: 'emphasis', level: 'strong' }, around)).toEqual(cannot)
  expect(supportOf({ id: 'd', kind: 'rest', ms: 5 }, around).how).toBe('emulated')
})

test('a cast of two engines is read by both, each at what is its own', async () => {
  const reader: Casting = { ...casting, engine: 'espeak', voice: 'en-gb', wordsPerMinute: 155 }
  const passage = { id: '1', kind: 'paragraph', content: plainContent('They hum.') } as const
  const utterances = [
    ...castPassage(passage, { ...context, casting: reader, castings: { Bees: casting } }), ...castPassage({ ...passage, role: 'Bees' }, { ...context, casting: reader, castings: { Bees: casting } }),
  ]
  const library = { index: await FileTakeIndex.open(`${folder()}/takes.jsonl`), packs: packsIn(folder()) }
  const made = await makeTakes(utterances, library, engines)
  await library.packs.close()
  const rates = new Map(made.map(take => [take.key, take.sampleRate]))
  expect(utterances.map(({ key }) => rates.get(key))).toEqual([22_050, 16_000])
})
