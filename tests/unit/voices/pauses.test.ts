import { presetStyle, type HouseStyle } from '#core/style/house-style'
import type { Rule } from '#core/style/rule'
import { quietMs, rmsDb } from '../../support/audio'
import { openVoices, perform, sampleRate } from '../../support/performance'

// Pauses within a sentence are those of the house style, to the sample, whatever the voice does by itself at its marks.

const engines = openVoices()
afterAll(() => engines.close())

/** Below this it is quiet, dB of full scale. */
const quietDb = -55
/** Nothing in running speech is quiet for so long: the closure of a consonant is shorter. */
const longestClosureMs = 110
/** What is quiet at the edges of the speech around a rest comes to it. */
const edgesMs = 40

interface Heard {
  /** The rests within the sentences, ms. */
  readonly rests: readonly number[]
  /** Stretches of quiet in the speech itself, ms. */
  readonly ownMs: readonly number[]
}

async function hear(ssml: string, { style = presetStyle('book'), language = 'en-GB', voice = 'en-gb' } = {}): Promise<Heard> {
  const { track, samples } = await perform(engines, ssml, { voice }, {}, {}, { style, language })
  const rests = track.lanes.speech.filter(piece => piece.take === null).map(({ startSample, sampleCount }) => {
    const ms = Math.round(sampleCount * 1000 / sampleRate)
    const heard = quietMs(samples, startSample + (sampleCount >> 1), sampleRate, quietDb)
    expect(Math.abs(heard - ms)).toBeLessThan(edgesMs)
    return ms
  })
  return { rests, ownMs: track.lanes.speech.filter(piece => piece.take !== null).flatMap(({ startSample, sampleCount }) => quietIn(samples.subarray(startSample, startSample + sampleCount))) }
}

function quietIn(samples: Int16Array): number[] {
  const window = Math.round(sampleRate / 200)
  const found: number[] = []
  let run = 0
  for (let at = 0; at + window <= samples.length; at += window) {
    const isQuiet = rmsDb(samples.subarray(at, at + window)) < quietDb
    if (isQuiet) run += 1
    if (!isQuiet || at + 2 * window > samples.length) {
      if (run * 5 > longestClosureMs) found.push(run * 5)
      run = 0
    }
  }
  return found
}

const withRest = (style: HouseStyle, does: Rule['does'], restMs: number): HouseStyle => ({ ...style, rules: style.rules.map(rule => rule.does === does ? { ...rule, restMs } as Rule : rule) })

test.each([
  ['a comma', 'When it rains, they stay in.', [180]],
  ['a semicolon', 'It rained; they stayed in.', [300]],
  ['a colon', 'There was one thing: rain.', [350]],
  ['a dash', 'The hive — all of it — was wet.', [250, 250]],
  ['a dash without spaces', 'The hive was wet—all of it.', [250]],
  ['an ellipsis', 'It rained … all day.', [500]],
  ['a quotation with an exclamation mark', '“Stop!” she said.', [250]],
  ['a quotation with a question mark', '“Is it wet?” he asked.', [250]],
  ['a quotation with a comma', '“It is wet,” he said.', [250]],
  ['a quotation that goes on', '“It is wet,” he said, “and cold.”', [250, 250]],
  ['straight quotation marks', '"Stop!" she said.', [250]],
  ['a row', 'Wax, honey, pollen.', [180, 180]],
] as const)('at %s: %s', async (_, text, rests) => {
  expect(await hear(text.replaceAll('"', '&quot;'))).toEqual({ rests, ownMs: [] })
})

test.each([
  ['de', 'de', '„Halt!“ sagte er.', [250]],
  ['de', 'de', '»Es regnet«, sagte er, »und wie.«', [250, 250]],
  ['fr', 'fr-fr', '« Il pleut, dit-il, et fort. »', [180, 180]],
  ['fr', 'fr-fr', '« Halte ! » dit-il.', [250]],
  ['es', 'es', 'Cuando llueve, se quedan.', [180]],
] as const)('in %s (%s): %s', async (language, voice, text, rests) => {
  expect(await hear(text, { language, voice })).toEqual({ rests, ownMs: [] })
})

test.each([
  ['en-GB', 'en-gb', 'We saw the U.S. Army there.'], ['en-GB', 'en-gb', 'We stood near Mt. Everest.'], ['en-GB', 'en-gb', 'He met Prof. Wren with Gen. Moor.'], ['en-GB', 'en-gb', '1. Remove the lid.'],
  ['en-GB', 'en-gb', '12. Remove the lid.'], ['en-GB', 'en-gb', 'a. Remove the lid.'], ['de', 'de', 'Am 5. Mai kam er an.'], ['de', 'de', '1. Nimm den Deckel ab.'], ['de', 'de', 'Die Fa. Braun kam an.'], ['fr', 'fr-fr', 'M. Braun est là.'], ['es', 'es', 'El Sr. Ruiz vino.'],
])('no mark within a sentence is taken for its end (%s, %s): %s', async (language, voice, text) => {
  for (const style of [presetStyle('book'), presetStyle('course')]) expect(await hear(text, { language, voice, style })).toEqual({ rests: [], ownMs: [] })
  if (!/\d.*M/u.test(text)) expect(await hear(text, { language, voice, style: presetStyle('plain') })).toEqual({ rests: [], ownMs: [] })
})

test.each([0, 20, 60, 900])('the house style says how long they are: %i ms', async restMs => {
  const rests = restMs === 0 ? [] : [restMs]
  expect(await hear('When it rains, they stay in.', { style: withRest(presetStyle('book'), 'comma', restMs) })).toEqual({ rests, ownMs: [] })
  expect(await hear('“Stop!” she said.', { style: withRest(presetStyle('book'), 'quotation', restMs) })).toEqual({ rests, ownMs: [] })
})

test.each(['plain', 'book'] as const)('a rest that is asked for counts, shorter than the voice’s own pause and none at all (%s)', async preset => {
  const style = presetStyle(preset)
  for (const [rest, rests] of [['<break time="40ms"/>', [40]], ['<break time="0ms"/>', []], ['<break strength="none"/>', []]] as const) {
    expect(await hear(`When it rains, ${rest}they stay in.`, { style })).toEqual({ rests, ownMs: [] })
    expect(await hear(`“Stop!” ${rest}she said.`, { style })).toEqual({ rests, ownMs: [] })
    expect(await hear(`It rained.${rest} They stayed in.`, { style })).toEqual({ rests, ownMs: [] })
    expect(await hear(`<p>It rained.</p><p>${rest}They stayed in.</p>`, { style })).toEqual({ rests, ownMs: [] })
  }
})

test('a rest of no length between words that are spoken as one changes nothing', async () => {
  const { samples } = await perform(engines, 'They came in <break strength="none"/>the meadow.')
  expect(samples).toEqual((await perform(engines, 'They came in the meadow.')).samples)
})
