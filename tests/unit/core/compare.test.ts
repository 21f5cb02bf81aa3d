import fc from 'fast-check'
import { compareDeliveries, type DeliveredBefore } from '#core/delivery/compare'
import { inCommon } from '#core/delivery/in-common'

/** A file whose sentences last so many seconds each. */
function file(number: number, said: readonly (readonly [string, number])[], change: Partial<DeliveredBefore> = {}): DeliveredBefore {
  let at = 0
  const sentences = said.map(([text, seconds]) => ({ text, startMs: at, endMs: at += seconds * 1000 }))
  return { name: `${number}.mp3`, title: `Chapter ${number}`, key: `part${number}.0`, sha256: JSON.stringify(said), durationMs: at, gainDb: 2, sentences, ...change }
}

const winter = [['It is cold.', 1], ['Bees keep warm.', 2], ['Wait.', 1]] as const

test('files with the same bytes are counted, and nothing is told of them', () => {
  expect(compareDeliveries([file(1, winter)], [file(1, winter)])).toEqual({ files: [], same: 1 })
})

test('files are new, gone, or have another name', () => {
  const { files, same } = compareDeliveries([file(1, winter), file(2, [['Gone.', 1]])], [file(1, winter, { name: 'x.mp3' }), file(3, [['New.', 1]])])
  expect(same).toBe(0)
  expect(files).toMatchObject([{ kind: 'renamed', name: 'x.mp3', nameBefore: '1.mp3' }, { kind: 'new', name: '3.mp3' }, { kind: 'gone', name: '2.mp3' }])
})

test('of a changed file it is told which sentences are new, gone, written or said otherwise, and where they are heard', () => {
  const { files: [changed] } = compareDeliveries([file(1, winter)], [file(1, [['It is cold.', 1], ['Bees keep warm.', 2.5], ['Do not wait.', 1.5], ['Go on.', 1]])])
  expect(changed).toMatchObject({
    kind: 'changed', longerMs: 2000, sentenceCount: 3, louderDb: null,
    sentences: [{ before: 'Bees keep warm.', after: 'Bees keep warm.', atMs: 1000 }, { before: 'Wait.', after: 'Do not wait.', atMs: 3500 }, { before: null, after: 'Go on.', atMs: 5000 }],
  })
  const { files: [shorter] } = compareDeliveries([file(1, winter)], [file(1, winter.slice(0, 2))])
  expect(shorter).toMatchObject({ longerMs: -1000, sentences: [{ before: 'Wait.', after: null, atMs: null }] })
})

test('a file in which only the level or the tags have changed says so', () => {
  const changed = (gainDb: number): unknown => compareDeliveries([file(1, winter)], [file(1, winter, { sha256: 'other', gainDb })]).files[0]
  expect(changed(3.5)).toMatchObject({ sentenceCount: 0, louderDb: 1.5 })
  expect(changed(2)).toMatchObject({ sentenceCount: 0, louderDb: 0 })
})

test('a file that begins elsewhere now is found by its name', () => {
  const { files } = compareDeliveries([file(1, winter, { key: null })], [file(1, winter.slice(1), { name: '1.mp3' })])
  expect(files).toMatchObject([{ kind: 'changed', sentenceCount: 1 }])
})

test('ten thousand sentences that are all others are compared in time', () => {
  const many = (word: string): DeliveredBefore => file(1, Array.from({ length: 10_000 }, (_, index) => [`${word} ${index}`, 1] as const))
  const [first] = compareDeliveries([many('a')], [many('b')]).files
  expect(first!.sentenceCount).toBe(10_000)
})

test('what two lists have in common is in order, and what is not in both is left out', () => {
  fc.assert(fc.property(fc.array(fc.constantFrom(...'abcdefgh'), { maxLength: 30 }), fc.array(fc.constantFrom(...'abcdefgh'), { maxLength: 30 }), (before, after) => {
    const pairs = inCommon(before, after)
    pairs.forEach(([old, now], index) => {
      expect(before[old]).toBe(after[now])
      if (index > 0) expect(old > pairs[index - 1]![0] && now > pairs[index - 1]![1]).toBe(true)
    })
    expect(inCommon(before, before)).toHaveLength(before.length)
  }))
  expect(inCommon(['a', 'b', 'a', 'c'], ['a', 'x', 'a', 'c'])).toEqual([[0, 0], [2, 2], [3, 3]])
  expect(inCommon(['1', '2', '3', '4', '5'], ['4', '5', '1', '2', '3'])).toHaveLength(3)
})
