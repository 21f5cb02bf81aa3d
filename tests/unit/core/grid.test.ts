import fc from 'fast-check'
import { layTrack, type Track } from '#core/audio/track'
import { hash } from '#core/hash'
import { onGrid, type GridTrack } from '#core/runsheet/grid'
import { windowOf } from '#core/runsheet/window'
import type { CastUtterance } from '#core/score/request'
import { choose } from '#core/takes/choose'
import { takenUtterance } from '../../support/casting'
import { takeRecord } from '../../support/takes'

const grid = { frameSamples: 1152, sampleRate: 44_100, headMs: 500 }
const trackRate = 22_050

interface Said {
  readonly name: number
  readonly seconds: number
  readonly restMs: number
  readonly beginsPassage: boolean
  readonly isByHand?: boolean
}

/** A track of sentences without any sound of their own: only lengths and rests count. */
function trackOf(said: readonly Said[], sampleRate = trackRate, isToned = false): Track {
  let passage = 0
  const utterances = said.map(({ name, restMs, beginsPassage, isByHand }, index): CastUtterance => {
    if (beginsPassage) passage += 1
    return { ...takenUtterance(hash(name), index === 0 ? 0 : restMs), passageId: String(passage), ...(isByHand === true ? { restIsDirected: true } : {}) }
  })
  const takes = new Map(said.map(({ name, seconds }) => [hash(name), takeRecord(hash(name), { sampleRate, sampleCount: Math.round(seconds * sampleRate) })]))
  const score = { partId: 'p', utterances, ...(isToned ? { roomTone: { name: 'room', key: 'room', sampleRate, sampleCount: 4321 } } : {}) }
  return layTrack(score, choose(score, takes), sampleRate, { headMs: 500, tailMs: 1000 })
}

const sentence = fc.record({
  name: fc.nat(), seconds: fc.double({ min: 0.5, max: 12, noNaN: true }), restMs: fc.integer({ min: 0, max: 1500 }), beginsPassage: fc.boolean(),
})
const text = fc.uniqueArray(sentence, { minLength: 60, maxLength: 200, selector: each => each.name })

/** What is encoded, piece after piece. */
const windows = ({ track, stretches }: GridTrack): string[] => stretches.map(({ startSample, endSample }) => hash(windowOf(track, startSample - 6912, endSample + 1728, [startSample, endSample])))

test('every piece but the last is a whole number of frames, and they follow one another', () => {
  fc.assert(fc.property(text, said => {
    const { track, stretches } = onGrid(trackOf(said), grid)
    stretches.forEach(({ startSample, endSample, frames }, index) => {
      expect(startSample).toBe(index === 0 ? 0 : stretches[index - 1]!.endSample)
      if (index < stretches.length - 1) expect((endSample - startSample) * 2).toBe(frames * 1152)
    })
    expect(stretches.at(-1)!.endSample).toBe(track.sampleCount)
  }))
})

test('rests change by at most half a frame, only where it is cut, and nothing else moves against what is beside it', () => {
  fc.assert(fc.property(text, said => {
    const before = trackOf(said)
    const { track, stretches } = onGrid(before, grid)
    let changed = 0
    track.timeline.forEach((each, index) => {
      const old = before.timeline[index]!
      expect(each.endSample - each.startSample).toBe(old.endSample - old.startSample)
      const by = each.startSample - each.restSample - (old.startSample - old.restSample)
      expect(Math.abs(by)).toBeLessThanOrEqual(576 / 2)
      if (by !== 0) changed += 1
    })
    expect(changed).toBeLessThan(stretches.length)
    expect(track.lanes.speech.reduce((at, piece) => {
      expect(piece.startSample).toBe(at)
      return at + piece.sampleCount
    }, 0)).toBe(track.sampleCount)
  }))
})

test('a rest that was set by hand is exact to the sample, as long as others can be cut in', () => {
  fc.assert(fc.property(text, fc.array(fc.nat(), { maxLength: 10 }), (said, places) => {
    const byHand = new Set(places.map(place => 1 + place % (said.length - 1)))
    // With four in a row, of sentences of 12 s, there may be no other within reach.
    fc.pre(![...byHand].some(index => [1, 2, 3].every(more => byHand.has(index + more))))
    const before = trackOf(said.map((each, index) => ({ ...each, restMs: 600, isByHand: byHand.has(index) })))
    const { track } = onGrid(before, grid)
    for (const index of byHand) {
      const rest = ({ timeline }: Track): number => timeline[index]!.startSample - timeline[index]!.restSample
      expect(rest(track)).toBe(rest(before))
    }
  }))
})

test('a rest that was set by hand is exact also where it is the only one in the middle of what is a little too long for one piece', () => {
  const said = [9.5, 9, 11, 10.5, 9, 9].map((seconds, index) => ({ name: index, seconds, restMs: 600, beginsPassage: false, isByHand: index === 3 }))
  const before = trackOf(said)
  const { track, stretches } = onGrid(before, grid)
  expect(stretches.length).toBeGreaterThan(3)
  expect(track.timeline[3]!.startSample - track.timeline[3]!.restSample).toBe(before.timeline[3]!.startSample - before.timeline[3]!.restSample)
})

test('pieces are 20 to 60 s long where the rests allow it', () => {
  fc.assert(fc.property(text, said => {
    const { stretches } = onGrid(trackOf(said.map(each => ({ ...each, restMs: 600 }))), grid)
    const spoken = stretches.map(({ startSample, endSample }) => (endSample - startSample) / trackRate).filter(length => length > 0.7)
    // What is before the first cut, after the last one, and before the tail can be shorter.
    for (const length of spoken) expect(length).toBeLessThan(60.1)
    for (const length of spoken.slice(1, -2)) expect(length).toBeGreaterThan(19.5)
  }))
})

test('a sentence that is put in moves only the pieces near it, also with the tone of a room under all', () => {
  fc.assert(fc.property(text, sentence, fc.nat(), fc.boolean(), (said, added, place, isToned) => {
    const at = 1 + place % (said.length - 1)
    const before = windows(onGrid(trackOf(said, trackRate, isToned), grid))
    const after = windows(onGrid(trackOf([...said.slice(0, at), { ...added, name: -1 }, ...said.slice(at)], trackRate, isToned), grid))
    const kept = new Set(before)
    // Cuts find back to where they were within a few pieces, however long the text is.
    expect(after.filter(each => !kept.has(each)).length).toBeLessThanOrEqual(8)
  }), { numRuns: 200 })
})

test('what is said between long rests is in the same pieces wherever it is: chapters by themselves, or in one file', () => {
  fc.assert(fc.property(text, fc.integer({ min: 1, max: 58 }), fc.integer({ min: 1500, max: 5000 }), (said, at, restMs) => {
    const quick = said.map(each => ({ ...each, restMs: Math.min(each.restMs, 1000) }))
    const [first, [opening, ...others]] = [quick.slice(0, at), quick.slice(at)] as [Said[], [Said, ...Said[]]]
    const joined = new Set(windows(onGrid(trackOf([...first, { ...opening, restMs, beginsPassage: true }, ...others]), grid)))
    for (const chapter of [first, [opening, ...others]]) {
      const own = onGrid(trackOf(chapter), grid)
      for (const window of windows(own).slice(1, -1)) expect(joined).toContain(window)
    }
  }))
})

test('a file that ends or begins at any passage has the pieces of the whole, but for the one that is cut there', () => {
  fc.assert(fc.property(text, fc.integer({ min: 1, max: 58 }), (said, at) => {
    const even = said.map(each => ({ ...each, restMs: 600 + each.restMs % 400, beginsPassage: true }))
    const whole = new Set(windows(onGrid(trackOf(even), grid)))
    const newSeconds = [even.slice(0, at), even.slice(at)].map(half => {
      const own = onGrid(trackOf(half), grid)
      // What is encoded for head and tail alone is a second or two.
      const made = windows(own).map((window, index) => whole.has(window) ? 0 : (own.stretches[index]!.endSample - own.stretches[index]!.startSample) / trackRate)
      return made.reduce((sum, seconds) => sum + seconds, 0)
    })
    // What is no longer than a piece is not cut at all.
    for (const seconds of newSeconds) expect(seconds).toBeLessThan(2 * 60 + 5)
  }), { numRuns: 200 })
})

test('head and tail are exact to the sample', () => {
  fc.assert(fc.property(text, said => {
    const { track } = onGrid(trackOf(said), grid)
    expect(track.timeline[0]!.startSample).toBe(11_025)
    expect(track.sampleCount - track.timeline.at(-1)!.endSample).toBe(22_050)
  }))
})

test('at rates that do not go evenly into a frame pieces are as near to whole frames as samples allow', () => {
  const said = Array.from({ length: 80 }, (_, name): Said => ({ name, seconds: 2.3 + name % 7, restMs: 700, beginsPassage: name % 4 === 0 }))
  const { stretches } = onGrid(trackOf(said, 24_000), grid)
  expect(stretches.length).toBeGreaterThan(3)
  for (const { startSample, endSample, frames } of stretches.slice(0, -1)) expect(Math.abs((endSample - startSample) * 44_100 / 24_000 - frames * 1152)).toBeLessThan(1)
})

test('before a track begins and after it is over there is silence', () => {
  const track = trackOf([{ name: 1, seconds: 1, restMs: 0, beginsPassage: true }])
  const window = windowOf(track, -100, track.sampleCount + 100)
  expect(window.sampleCount).toBe(track.sampleCount + 200)
  expect(window.lanes.speech.map(({ take, startSample, sampleCount }) => [take === null, startSample, sampleCount])).toEqual([
    [true, 0, 11_125], [false, 11_125, 22_050], [true, 33_175, 22_150],
  ])
})
