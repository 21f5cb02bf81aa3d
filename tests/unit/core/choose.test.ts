import { layTrack } from '#core/audio/track'
import { anchorAt } from '#core/script/anchor'
import { plainContent } from '#core/script/content'
import type { Passage } from '#core/script/script'
import { defaultHouseStyle } from '#core/style/house-style'
import { placeChoices, type Choice } from '#core/takes/choice'
import { choose, takesOf } from '#core/takes/choose'
import { textHash } from '#core/takes/take'
import { casting, castPart } from '../../support/casting'
import { takeRecord } from '../../support/takes'

const rate = 22_050
const texts = ['The bees came home.', 'It was noon. Nobody saw them. They slept.', 'The end.']

function passagesOf(...of: string[]): Passage[] {
  return of.map((text, index) => ({ id: `p${index}`, kind: 'paragraph', content: plainContent(text) }))
}

const scoreOf = (passages: readonly Passage[]) => castPart({ id: 'part', kind: 'chapter', label: 'P', included: true, passages }, { language: 'en', style: defaultHouseStyle, casting })
const passages = passagesOf(...texts)
const score = scoreOf(passages)
const engineTakes = new Map(score.utterances.map(({ key }, index) => [key, takeRecord(key, { sampleCount: 10_000 + index })]))

/** A recording of all of the second passage, at a rate of its own. */
const recorded = takeRecord('a'.repeat(64), { origin: 'recorded', sampleRate: 44_100, sampleCount: 88_200, textHash: textHash(texts[1]!) })
const choiceOf = (take = recorded, [start, end] = [0, texts[1]!.length]): Choice => ({
  at: anchorAt('p1', texts[1]!, start, end), take: take.variant === 0 ? take.key : `${take.key}.${take.variant}`, origin: take.origin, textHash: take.textHash,
})
const withTake = (take: typeof recorded) => new Map([...engineTakes, [take.variant === 0 ? take.key : `${take.key}.${take.variant}`, take]])

test('without choices each utterance is heard in the take that its engine makes', () => {
  expect(choose(score, engineTakes).map(({ from, count, take, isOwn }) => [from, count, take, isOwn])).toEqual(score.utterances.map(({ key }, index) => [index, 1, key, true]))
})

describe('a recording of a passage', () => {
  const references = choose(score, withTake(recorded), placeChoices([choiceOf()], passages))
  const track = layTrack(score, references, rate)

  test('is heard in place of all its sentences, and of no other', () => {
    const [first, , , , last] = score.utterances
    expect(takesOf(references)).toEqual([first!.key, recorded.key, last!.key])
    expect(references.map(({ from, count }) => [from, count])).toEqual([[0, 1], [1, 3], [4, 1]])
  })

  test('has the rests of the score before and behind it, none within, and its length at the rate of the track', () => {
    expect(track.lanes.speech.map(({ take, sampleCount }) => [take === null, sampleCount])).toEqual([
      [false, 10_000], [true, Math.round(0.6 * rate)], [false, 44_100], [true, Math.round(0.6 * rate)], [false, 10_004],
    ])
  })

  test('gives each of its sentences a time within it, in order', () => {
    const own = track.timeline.slice(1, 4)
    expect(own[0]!.startSample).toBe(10_000 + Math.round(0.6 * rate))
    expect(own[2]!.endSample - own[0]!.startSample).toBe(44_100)
    expect(own.every((timed, index) => index === 0 || timed.startSample === own[index - 1]!.endSample && timed.endSample > timed.startSample)).toBe(true)
  })

  test('stays when its text is changed, and says that it is another text now', () => {
    const edited = passagesOf(texts[0]!, texts[1]!.replace('Nobody', 'Somebody'), texts[2]!)
    const [, heard] = choose(scoreOf(edited), withTake(recorded), placeChoices([choiceOf()], edited))
    expect([heard!.take, heard!.isStale]).toEqual([recorded.key, true])
    expect(references[1]!.isStale).toBe(false)
  })

  test('that is lost is missing: nothing else is heard for it', () => {
    const [, heard] = choose(score, engineTakes, placeChoices([choiceOf()], passages))
    expect([heard!.take, heard!.known, heard!.isOwn]).toEqual([recorded.key, null, false])
  })

  test('goes with its passage, wherever that is', () => {
    const moved = [passages[1]!, passages[0]!]
    expect(choose(scoreOf(moved), withTake(recorded), placeChoices([choiceOf()], moved)).map(({ take }) => take)).toEqual([recorded.key, score.utterances[0]!.key])
    expect(placeChoices([choiceOf()], [passages[0]!])).toEqual([])
  })
})

describe('a choice of one sentence', () => {
  const start = texts[1]!.indexOf('Nobody')
  const place: [number, number] = [start, start + 'Nobody saw them.'.length]

  test('is heard for that sentence alone', () => {
    const take = { ...recorded, textHash: textHash('Nobody saw them.') }
    const references = choose(score, withTake(take), placeChoices([choiceOf(take, place)], passages))
    expect(references.map(({ take: id }) => id === take.key)).toEqual([false, false, true, false, false])
  })

  test('of another take by the same engine keeps its rests and levels, and counts as long as the engine is asked the same', () => {
    const variant = takeRecord(score.utterances[2]!.key, { variant: 1, sampleCount: 9_000 })
    const choice = choiceOf(variant, place)
    const [, , heard] = choose(score, withTake(variant), placeChoices([choice], passages))
    expect([heard!.take, heard!.isOwn]).toEqual([`${variant.key}.1`, true])
    const edited = passagesOf(texts[0]!, texts[1]!.replace('Nobody', 'Somebody'), texts[2]!)
    const after = choose(scoreOf(edited), withTake(variant), placeChoices([choice], edited))
    expect(after.some(({ take }) => take === `${variant.key}.1`)).toBe(false)
  })
})

describe('a bed of sound', () => {
  const bed = { key: 'hum', name: 'hum.wav', sampleRate: 11_025, sampleCount: 5_000, from: 1, to: 3, gainDb: -12, fadeMs: 100 }

  test('lies under the sentences it is given for, at the rate of the track', () => {
    const { lanes: { beds }, timeline } = layTrack({ ...score, beds: [bed] }, choose(score, engineTakes), rate)
    expect(beds).toEqual([{ take: 'hum', length: 10_000, startSample: timeline[1]!.leadSample, sampleCount: timeline[3]!.endSample - timeline[1]!.leadSample, gainDb: -12, fadeSamples: 2205 }])
  })
})
