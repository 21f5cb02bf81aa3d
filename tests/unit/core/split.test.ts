import fc from 'fast-check'
import { layTrack, type Track } from '#core/audio/track'
import { defaultProfile } from '#core/delivery/profiles'
import { joinSpans } from '#core/runsheet/join'
import { runSheet, heardFile } from '#core/runsheet/run-sheet'
import { defaultSplit, type FileSplitBy } from '#core/delivery/file-split'
import { splitFiles, type DividedPart, type FileMark, type SheetPlaces, type SplitLengths } from '#core/runsheet/split'
import type { CastScore } from '#core/score/request'
import type { PartKind, PassageKind } from '#core/script/script'
import type { SoundPlay } from '#core/score/sounds'
import { choose, withKnown } from '#core/takes/choose'
import { takenUtterance } from '../../support/casting'
import { heardPart } from '../../support/sheet'
import { takeRecord } from '../../support/takes'

interface Written {
  readonly announces?: 'opening' | 'part' | 'closing'
  readonly isOwnFile?: boolean
  readonly kind?: PassageKind
  readonly level?: number
  /** Lengths of its sentences, s. */
  readonly sentences: readonly number[]
}

function part(number: number, passages: readonly Written[], kind: PartKind = 'chapter'): DividedPart {
  let from = 0
  return {
    id: `p${number}`, number, label: `Part ${number}`, kind,
    passages: passages.map(({ kind: of = 'paragraph', level = null, announces, isOwnFile = false }, index) => {
      const title = announces ?? `Passage ${number}.${index}`
      return { id: `${number}.${index}`, kind: of, level, title, ...(announces === undefined ? {} : { announcement: { of: announces, isOwnFile, title } }) }
    }),
    units: passages.flatMap(({ sentences }, passage) => sentences.map(seconds => ({ from: from++, count: 1, takes: 1, missing: 0, passage, role: null, entryMs: 0, samples: seconds * 1000, sound: '' }))),
    end: { soundSamples: 0, restMs: 0, sound: '' }, sampleRate: 1000,
  }
}

const minutes = (...lengths: number[]): Written[] => lengths.map(length => ({ sentences: Array<number>(length).fill(60) }))
const anyLength: SplitLengths = { aboutMs: null, longestMs: Infinity, partRestMs: 0 }
const minute = 60_000

/** What files are called, with how many minutes they have. */
const files = (parts: readonly DividedPart[], where: FileSplitBy, lengths: Partial<SplitLengths> = {}, places?: SheetPlaces): string[] =>
  splitFiles(parts, where, { ...anyLength, ...lengths }, places).map(({ group, piece, title, durationMs }) => `${group}${piece === null ? '' : 'abcdefgh'[piece - 1]} ${title} ${durationMs / minute}`)

const heading = (level: number): Written => ({ kind: 'heading', level, sentences: [60] })

describe('one file for each', () => {
  const book = [part(1, [...minutes(2), heading(2), ...minutes(1), heading(3), ...minutes(1)]), part(2, minutes(1, 1))]

  test.each<[FileSplitBy, string[]]>([
    [{ by: 'part' }, ['1 Part 1 6', '2 Part 2 2']],
    [{ by: 'heading', level: 2 }, ['1 Part 1 2', '2 Passage 1.1 4', '3 Part 2 2']],
    [{ by: 'heading', level: 3 }, ['1 Part 1 2', '2 Passage 1.1 2', '3 Passage 1.3 2', '4 Part 2 2']],
    [{ by: 'passage' }, ['1 Passage 1.0 2', '2 Passage 1.1 1', '3 Passage 1.2 1', '4 Passage 1.3 1', '5 Passage 1.4 1', '6 Passage 2.0 1', '7 Passage 2.1 1']],
    [{ by: 'whole' }, ['1 Part 1 8']],
  ])('%j', (where, expected) => {
    expect(files(book, where)).toEqual(expected)
  })

  test('sentence', () => {
    expect(files(book, { by: 'sentence' })).toHaveLength(8)
  })

  test('slide, with the hints that belong to it, or without', () => {
    const deck = [part(1, minutes(1), 'slide'), part(2, minutes(1), 'hint'), part(3, minutes(1), 'hint'), part(4, minutes(1), 'slide')]
    expect(files(deck, { by: 'slide' })).toEqual(['1 Part 1 3', '2 Part 4 1'])
    expect(files(deck, { by: 'part' })).toHaveLength(4)
  })

  test('place where lines are empty in the source', () => {
    const text = [part(1, minutes(1, 1, 1, 1))]
    expect(files(text, { by: 'emptyLines', lines: 3 }, {}, { emptyLines: new Map([['1.1', 2], ['1.2', 3], ['1.3', 4]]) })).toEqual(['1 Part 1 2', '2 Passage 1.2 1', '3 Passage 1.3 1'])
  })

  test('part that is spoken: one without anything to say makes no file', () => {
    expect(files([part(1, []), part(2, minutes(1))], { by: 'part' })).toEqual(['1 Part 2 1'])
    expect(files([], { by: 'whole' })).toEqual([])
  })
})

describe('marks', () => {
  const marked = (passage: string, mark: 'begins' | 'goesOn'): SheetPlaces => ({ marks: new Map([[passage, mark]]) })
  const book = [part(1, minutes(1, 1, 1)), part(2, minutes(1))]

  test('begin a file anywhere, and join what a rule would part', () => {
    expect(files(book, { by: 'part' }, {}, marked('1.1', 'begins'))).toEqual(['1 Part 1 1', '2 Part 1 2', '3 Part 2 1'])
    expect(files(book, { by: 'part' }, {}, marked('2.0', 'goesOn'))).toEqual(['1 Part 1 4'])
    expect(files(book, { by: 'whole' }, {}, marked('1.2', 'begins'))).toEqual(['1 Part 1 2', '2 Part 1 2'])
  })

  test('at the very beginning change nothing', () => {
    expect(files(book, { by: 'whole' }, {}, marked('1.0', 'goesOn'))).toEqual(['1 Part 1 4'])
  })
})

describe('announcements', () => {
  const said = (announces: 'opening' | 'part' | 'closing', isOwnFile: boolean): Written => ({ announces, isOwnFile, kind: 'title', sentences: [60] })
  const book = (isOwnFile: boolean, ofParts = isOwnFile): DividedPart[] => [
    part(1, [said('opening', isOwnFile), said('part', ofParts), heading(1), ...minutes(1)]), part(2, [said('part', ofParts), ...minutes(1, 1), said('closing', isOwnFile)]),
  ]

  test.each<[FileSplitBy, string[]]>([
    [{ by: 'part' }, ['1 Part 1 4', '2 Part 2 4']],
    [{ by: 'heading', level: 1 }, ['1 Part 1 4', '2 Part 2 4']],
    [{ by: 'whole' }, ['1 Part 1 8']],
    [{ by: 'passage' }, ['1 Part 1 3', '2 Passage 1.3 1', '3 Part 2 2', '4 Passage 2.2 2']],
  ])('are in the file of what they announce: %j', (where, expected) => {
    expect(files(book(false), where)).toEqual(expected)
  })

  test('have files of their own, all of them or the credits alone', () => {
    expect(files(book(true), { by: 'part' })).toEqual(['1 opening 1', '2 part 1', '3 Part 1 2', '4 part 1', '5 Part 2 2', '6 closing 1'])
    expect(files(book(true, false), { by: 'part' })).toEqual(['1 opening 1', '2 Part 1 3', '3 Part 2 3', '4 closing 1'])
    expect(files(book(true, false), { by: 'whole' })).toEqual(['1 opening 1', '2 Part 1 6', '3 closing 1'])
  })

  test('a mark is that of what is announced; beside a file of its own none counts', () => {
    const mark = (id: string, what: FileMark): SheetPlaces => ({ marks: new Map([[id, what]]) })
    expect(files(book(false), { by: 'part' }, {}, mark('2.1', 'goesOn'))).toEqual(['1 Part 1 8'])
    expect(files(book(false), { by: 'whole' }, {}, mark('2.1', 'begins'))).toEqual(['1 Part 1 4', '2 Part 2 4'])
    expect(files(book(true, false), { by: 'part' }, {}, mark('1.2', 'goesOn'))).toEqual(files(book(true, false), { by: 'part' }))
    expect(splitFiles(book(true, false), { by: 'part' }, anyLength).map(({ canGoOn, announces }) => [canGoOn, announces])).toEqual([[false, 'opening'], [false, null], [true, null], [false, 'closing']])
  })

  test('a file keeps what it is known by when credits come to the one before', () => {
    const keys = (parts: readonly DividedPart[]): string[] => runSheet(parts, defaultProfile).map(({ key, name }) => `${key} ${name}`)
    expect(keys(book(true, false))).toEqual(['p1.opening 01-opening.mp3', 'p1.0 02-part-1.mp3', 'p2.0 03-part-2.mp3', 'p2.closing 04-closing.mp3'])
    expect(keys(book(false))).toEqual(['p1.0 01-part-1.mp3', 'p2.0 02-part-2.mp3'])
  })
})

test('files that begin in one part are numbered in it', () => {
  const profile = { ...defaultProfile, split: { ...defaultSplit, where: { by: 'passage' as const } }, namePattern: '{number}-{part}-{within}' }
  expect(runSheet([part(1, minutes(1, 1)), part(2, minutes(1))], profile).map(({ name }) => name)).toEqual(['01-part-1-01.mp3', '02-part-1-02.mp3', '03-part-2-01.mp3'])
})

describe('lengths', () => {
  test('at most: a chapter that is longer becomes even pieces, cut between passages', () => {
    const book = [part(1, minutes(10, 10, 10, 10, 10, 10, 10)), part(2, minutes(20))]
    expect(files(book, { by: 'part' }, { longestMs: 60 * minute })).toEqual(['1a Part 1 30', '1b Part 1 40', '2 Part 2 20'])
  })

  test('about: cut at the passage that is nearest, before or behind; a short rest stays with the last', () => {
    expect(files([part(1, minutes(8, 9, 8, 9, 4))], { by: 'whole' }, { aboutMs: 10 * minute })).toEqual(['1 Part 1 8', '2 Part 1 9', '3 Part 1 8', '4 Part 1 13'])
  })

  test('within a passage it is cut at the end of a sentence', () => {
    expect(files([part(1, minutes(25))], { by: 'whole' }, { longestMs: 10 * minute })).toEqual(['1 Part 1 8', '2 Part 1 8', '3 Part 1 9'])
  })

  test('what a mark joins stays one file where no limit forbids it', () => {
    const text = [part(1, minutes(10, 10, 10, 10))]
    const joins: SheetPlaces = { marks: new Map([['1.2', 'goesOn']]) }
    expect(files(text, { by: 'whole' }, { aboutMs: 10 * minute }, joins)).toEqual(['1 Part 1 10', '2 Part 1 20', '3 Part 1 10'])
    expect(files(text, { by: 'whole' }, { aboutMs: 10 * minute, longestMs: 15 * minute }, joins)).toHaveLength(4)
  })

  test('a sentence that is longer than a file may be stays whole', () => {
    expect(files([part(1, [{ sentences: [30, 200, 30] }])], { by: 'whole' }, { longestMs: minute }).map(file => file.split(' ').at(-1))).toEqual(['0.5', String(200 / 60), '0.5'])
  })
})

const someParts = fc.array(fc.array(fc.array(fc.integer({ min: 1, max: 90 }), { minLength: 1, maxLength: 6 }), { maxLength: 8 }), { maxLength: 6 })
  .chain(parts => fc.tuple(fc.constant(parts), fc.boolean(), fc.boolean()))
  .map(([parts, isAnnounced, isOwnFile]) => parts.map((passages, index) => part(index + 1, [
    ...(isAnnounced && passages.length > 0 ? [{ announces: 'part' as const, isOwnFile, sentences: [3, 4] }] : []), ...passages.map(sentences => ({ sentences })),
  ])))
const someSplit = fc.record({
  where: fc.constantFrom<FileSplitBy>({ by: 'part' }, { by: 'whole' }, { by: 'passage' }, { by: 'sentence' }),
  aboutMs: fc.option(fc.integer({ min: 10_000, max: 600_000 })), longestMs: fc.option(fc.integer({ min: 10_000, max: 600_000 }), { nil: Infinity }), partRestMs: fc.constant(0),
})

test('whatever the rule, every sentence is in one file, in order, and only one that is a single sentence is too long', () => {
  fc.assert(fc.property(someParts, someSplit, (parts, { where, ...lengths }) => {
    const made = splitFiles(parts, where, lengths)
    const names = (units: readonly { readonly from: number }[], id: string): string[] => units.map(unit => `${id} ${unit.from}`)
    expect(made.flatMap(file => file.spans.flatMap(span => names(span.units, span.part.id)))).toEqual(parts.flatMap(each => names(each.units, each.id)))
    for (const { spans, durationMs } of made) {
      const units = spans.flatMap(span => span.units)
      expect(durationMs).toBe(units.reduce((sum, unit) => sum + unit.samples, 0))
      if (units.length > 1) expect(durationMs).toBeLessThanOrEqual(lengths.longestMs)
    }
  }))
})

describe('stretches of scores as one', () => {
  const rate = 1000
  const score = (id: string, ...rests: number[]): CastScore => ({ partId: id, utterances: rests.map((rest, index) => takenUtterance(`${id}${index}`, rest)) })
  const takes = new Map(['a', 'b'].flatMap(id => [0, 1, 2, 3].map(index => [`${id}${index}`, takeRecord(`${id}${index}`, { sampleRate: rate, sampleCount: 100 })] as const)))
  const spanOf = (whole: CastScore, from = 0, to = whole.utterances.length) => ({ score: whole, references: choose(whole, takes), from, to })
  const laid = (spans: readonly ReturnType<typeof spanOf>[], restMs = 0): Track => {
    const { score: joined, references } = joinSpans(spans, restMs)
    return layTrack(joined, references, rate)
  }

  test('a whole one is laid as by itself', () => {
    const a = { ...score('a', 10, 20, 30), restAfterMs: 40 }
    expect(laid([spanOf(a)])).toEqual(layTrack(a, choose(a, takes), rate))
  })

  test('the rest at a cut is left out, and that between parts is the longest that is asked for', () => {
    const [a, b] = [{ ...score('a', 0, 20, 30), restAfterMs: 70 }, score('b', 50, 60)]
    expect(laid([spanOf(a, 1, 3)]).timeline.map(each => each.startSample)).toEqual([0, 130])
    expect(laid([spanOf(a, 2, 3), spanOf(b)]).timeline.map(each => each.startSample)).toEqual([0, 170, 330])
    expect(laid([spanOf(a, 2, 3), spanOf(b)], 500).timeline.map(each => each.startSample)).toEqual([0, 600, 760])
    expect(laid([spanOf(a, 0, 1), spanOf(b)]).timeline.map(each => each.startSample)).toEqual([0, 150, 310])
  })

  test('sounds at the end of a part come before what follows; beds end where their utterances do', () => {
    const sound = { key: 'b3', name: 'bell', restBeforeMs: 5, sampleRate: rate, fromSample: 0, sampleCount: 100, gainDb: 0 }
    const a = { ...score('a', 0, 0), soundsAfter: [sound], beds: [{ key: 'b2', name: 'hum', sampleRate: rate, sampleCount: 100, from: 0, to: 1, gainDb: 0, fadeMs: 0 }] }
    const { score: joined } = joinSpans([spanOf(a, 1, 2), spanOf(score('b', 0))], 0)
    expect(joined.utterances[1]!.soundsBefore).toEqual([sound])
    expect(joined.soundsAfter).toBeUndefined()
    expect(joined.beds).toMatchObject([{ from: 0, to: 0 }])
    expect(joinSpans([spanOf(a, 0, 1)], 0).score.soundsAfter).toBeUndefined()
  })

  test('are as long as the run sheet says, and not too long, whatever is in them and wherever they are cut', () => {
    const sound = fc.record({ key: fc.constant('b3'), name: fc.constant('bell'), restBeforeMs: fc.nat(50), sampleRate: fc.constant(rate), fromSample: fc.constant(0), sampleCount: fc.constant(100), gainDb: fc.constant(0) })
    const sounds = fc.oneof({ weight: 3, arbitrary: fc.constant<SoundPlay[]>([]) }, fc.array(sound, { maxLength: 2 }))
    const someScore = fc.record({ utterances: fc.array(fc.record({ rest: fc.nat(900), sounds }), { minLength: 1, maxLength: 4 }), after: sounds, restAfterMs: fc.nat(900) })
    const someWhere = fc.constantFrom<FileSplitBy>({ by: 'part' }, { by: 'whole' }, { by: 'sentence' })
    fc.assert(fc.property(fc.array(someScore, { minLength: 1, maxLength: 3 }), someWhere, fc.integer({ min: 400, max: 5000 }), (scores, where, longestMs) => {
      const parts = scores.map(({ utterances, after, restAfterMs }, place) => {
        const id = 'ab'[place % 2]!
        const whole: CastScore = {
          partId: id, soundsAfter: after, restAfterMs,
          utterances: utterances.map((each, index) => ({ ...takenUtterance(`${id}${index}`, each.rest), ...(each.sounds.length === 0 ? {} : { soundsBefore: each.sounds }) })),
        }
        return heardPart(whole, `Part ${place}`, place + 1, choose(whole, takes), rate)
      })
      const profile = { ...defaultProfile, split: { ...defaultSplit, where, longestMs: longestMs + defaultProfile.headMs + defaultProfile.tailMs } }
      for (const file of runSheet(parts, profile)) {
        const { score: joined, references } = heardFile(file, profile)
        expect(layTrack(joined, withKnown(references, takes), rate, profile).sampleCount).toBe(file.sampleCount)
        if (file.spans.flatMap(span => span.units).length > 1) expect(file.sampleCount).toBeLessThanOrEqual(profile.split.longestMs)
      }
    }))
  })
})

describe('chapters in a file', () => {
  const chapters = (parts: readonly DividedPart[], where: FileSplitBy, title?: string) =>
    runSheet(parts, { ...defaultProfile, split: { ...defaultSplit, where } }, title === undefined ? {} : { work: { production: title, author: '', language: 'en', voice: 'en-gb', role: 'Narrator', date: '2031-05-04' } }).map(file => [file.title, ...file.chapters.map(chapter => `${chapter.title} ${chapter.from}`)])
  const book = [part(1, [...minutes(2), heading(2), ...minutes(1)]), part(2, minutes(1, 1))]

  test('are the parts that it holds, and the only file is called as the work is', () => {
    expect(chapters(book, { by: 'whole' }, 'The book')).toEqual([['The book', 'Part 1 0', 'Part 2 4']])
    expect(chapters(book, { by: 'whole' })).toEqual([['Part 1', 'Part 1 0', 'Part 2 4']])
  })

  test('are the headings where it holds one part, which may begin without', () => {
    expect(chapters(book, { by: 'part' }, 'The book')).toEqual([['Part 1', 'Part 1 0', 'Passage 1.1 2'], ['Part 2']])
    expect(chapters([part(1, [heading(1), ...minutes(1), heading(2), ...minutes(1)])], { by: 'part' })).toEqual([['Part 1', 'Passage 1.0 0', 'Passage 1.2 2']])
  })
})
