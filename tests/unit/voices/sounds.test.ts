import { wordTimes } from '#core/audio/track'
import { soundNamesIn } from '#core/score/compile'
import { rmsDb } from '../../support/audio'
import { openVoices, perform, sampleRate, type Performance } from '../../support/performance'
import { heardPart, heardSheet } from '../../support/sheet'

const engines = openVoices()
afterAll(() => engines.close())

/** A tone of 250 ms that no voice makes: samples are compared one by one. */
const bell = Int16Array.from({ length: 5_512 }, (_, at) => 9000 * Math.sin(at * 0.9) + at % 7)
const say = (ssml: string): Promise<Performance> => perform(engines, ssml, {}, {}, { 'bell.wav': bell })
const play = '<audio src="bell.wav"/>'

/** Lengths in ms of the silences of a track, and where the bell is among them. */
function order({ track }: Performance): (string | number)[] {
  return track.lanes.speech.map(piece => piece.take === null ? Math.round(piece.sampleCount / sampleRate * 1000) : piece.take === 'bell.wav' ? 'bell' : 'speech')
}

test('in mid-sentence it stands between the words sample for sample, and the speech around it is as with a rest there', async () => {
  const [sound, rest] = [await say(`The bees came in low ${play}over the field.`), await say('The bees came in low <break time="250ms"/>over the field.')]
  expect(order(sound)).toEqual(['speech', 'bell', 'speech'])
  const at = sound.track.lanes.speech[1]!.startSample
  expect(sound.samples.slice(at, at + bell.length)).toEqual(bell)
  expect(sound.score.utterances[0]!.key).toBe(rest.score.utterances[0]!.key)
  expect(sound.samples.slice(0, at)).toEqual(rest.samples.slice(0, at))
  expect(sound.samples.slice(at + bell.length)).toEqual(rest.samples.slice(at + Math.round(0.25 * sampleRate)))
})

test.each([
  ['right behind a sentence, before the rest of the house style', `<p>One.${play} Two.</p>`, ['speech', 'bell', 300, 'speech']],
  ['before a sentence, behind that rest', `<p>One. ${play}Two.</p>`, ['speech', 300, 'bell', 'speech']],
  ['among rests in the order in which they stand', `<p>One.<break time="200ms"/>${play}<break time="100ms"/> Two.</p>`, ['speech', 200, 'bell', 100, 'speech']],
  ['at the beginning and the end of a passage', `<p>${play}One.${play}</p><p>Two.</p>`, ['bell', 'speech', 'bell', 600, 'speech']],
  ['in a passage of its own', `<p>One.</p><p>${play}</p><p>Two.</p>`, ['speech', 600, 'bell', 'speech']],
  ['behind the last word', `<p>One.<break time="50ms"/>${play}<break time="70ms"/></p>`, ['speech', 50, 'bell', 70]],
  ['twice', `<p>One ${play}${play}two.</p>`, ['speech', 'bell', 'bell', 'speech']],
])('%s', async (_, ssml, expected) => {
  expect(order(await say(ssml))).toEqual(expected)
})

test('its level and its clip are followed', async () => {
  const quiet = await say('One <audio src="bell.wav" soundLevel="-6dB" clipBegin="50ms" clipEnd="150ms"/>two.')
  const { startSample, sampleCount } = quiet.track.lanes.speech[1]!
  const [from, to] = [Math.round(0.05 * sampleRate), Math.round(0.15 * sampleRate)]
  expect(sampleCount).toBe(to - from)
  const heard = rmsDb(quiet.samples.subarray(startSample, startSample + sampleCount))
  expect(Math.abs(heard - rmsDb(bell.subarray(from, to)) + 6)).toBeLessThan(0.05)
})

test('the words behind it are later by its length', async () => {
  const [sound, rest] = [await say(`The bees ${play}came home.`), await say('The bees <break time="1ms"/>came home.')]
  const times = ({ track, references }: Performance): number[] => wordTimes(track, track.timeline[0]!, references[0]!).map(word => word.sample)
  const [withSound, withRest] = [times(sound), times(rest)]
  expect(withSound).toHaveLength(4)
  expect(withSound.map((sample, index) => sample - withRest[index]!)).toEqual([0, 0, bell.length - 22, bell.length - 22])
})

test('a sound that the library has not is not played, and another sound makes another file of the same takes', async () => {
  const none = await say('One <audio src="gong.wav"/>two.')
  expect(order(none)).toEqual(['speech'])
  const longer = await perform(engines, `One ${play}two.`, {}, {}, { 'bell.wav': new Int16Array(9000) })
  const usual = await say(`One ${play}two.`)
  expect(longer.score.utterances[0]!.key).toBe(usual.score.utterances[0]!.key)
  expect([...soundNamesIn(usual.score)]).toEqual([['bell.wav', 'bell.wav']])
  const print = ({ score, references }: Performance): string => heardSheet([heardPart(score, 'T', 1, references)])[0]!.sound
  expect(print(longer)).not.toBe(print(usual))
})
