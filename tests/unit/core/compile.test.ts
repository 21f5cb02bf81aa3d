import type { Casting } from '#core/score/cast'
import { compilePart, compilePassage, unitInput, type Unit } from '#core/score/compile'
import { pieces } from '#core/score/pieces'
import { plainContent } from '#core/script/content'
import type { Part, PassageKind } from '#core/script/script'
import { defaultHouseStyle, patchHouseStyle, type HouseStyle } from '#core/style/house-style'
import { casting, castPart, engines, markupOf, plainRequest } from '../../support/casting'

const context = { language: 'en', style: defaultHouseStyle, casting, engines }

function part(...passages: [PassageKind, string][]): Part {
  return {
    id: 'p', kind: 'chapter', label: 'P', included: true,
    passages: passages.map(([kind, text], index) => ({ id: `p.${index}`, kind, content: plainContent(text) })),
  }
}

describe('the compiler', () => {
  const chapter = part(['title', 'Lime Flow'], ['paragraph', 'Do not run. It hangs.'], ['quotation', 'Count the days.'])

  test('makes an utterance of each sentence, with the rest before it', () => {
    const score = compilePart(chapter, context)
    expect(score.utterances.map(utterance => [utterance.text, utterance.restBeforeMs])).toEqual([
      ['Lime Flow', 0], ['Do not run.', 1000], ['It hangs.', 300], ['Count the days.', 600],
    ])
  })

  test('is deterministic', () => {
    expect(compilePart(chapter, context)).toEqual(compilePart(structuredClone(chapter), structuredClone(context)))
  })

  test.each([
    ['en', 'The word はちみつ means honey.', [['The word ', null], ['はちみつ', 'ja'], [' means honey.', null]]],
    ['de', 'Er las Война и мир, nachts.', [['Er las ', null], ['Война и мир,', 'ru'], [' nachts.', null]]],
    ['ru', 'Слово μέλισσα, а не bee.', [['Слово ', null], ['μέλισσα,', 'el'], [' а не bee.', null]]],
    ['ja', '蜂はbeeです。', [['蜂は', null], ['bee', 'en'], ['です。', null]]],
    ['ko', '벌은 蜂, bee입니다.', [['벌은 蜂, bee입니다.', null]]],
    ['en', 'The angle α and the letter Б.', [['The angle α and the letter Б.', null]]],
  ] as const)('words in another script are said in its language: %s, %s', (language, text, expected) => {
    const { utterances } = compilePart(part(['paragraph', text]), { ...context, language })
    expect(utterances.flatMap(({ segments }) => segments.map(segment => [segment.text, segment.tone.language]))).toEqual(expected)
  })

  test('what a wordbook or a direction says of a word in another script holds', () => {
    const findWords = (whole: string) => [{ entry: 'w', start: whole.indexOf('はちみつ'), end: whole.indexOf('はちみつ') + 4, said: { words: 'hachimitsu' } }]
    const { utterances } = compilePart(part(['paragraph', 'The word はちみつ means honey.']), { ...context, findWords })
    expect(utterances.flatMap(({ segments }) => segments.map(segment => [segment.text, segment.tone.language]))).toEqual([['The word hachimitsu means honey.', null]])
  })

  test('says where each utterance stands in the written text', () => {
    const [, first, second] = compilePart(chapter, context).utterances
    expect([first!.start, first!.end, second!.start, second!.end]).toEqual([0, 11, 12, 21])
  })

  test('gives the same key to the same words anywhere, and another for another voice, pace or pitch', () => {
    const key = (change: Partial<Casting>, text = 'Do not run.'): string =>
      castPart(part(['listItem', text]), { ...context, casting: { ...casting, ...change } }).utterances[0]!.key
    const keys = [key({}), key({ voice: 'de' }), key({ voiceRevision: 'r2' }), key({ wordsPerMinute: 150 }), key({ pitchSemitones: 1 }), key({}, 'Do not run!')]
    expect(new Set(keys).size).toBe(keys.length)
    expect(key({})).toBe(castPart(chapter, context).utterances[1]!.key)
  })

  test('keeps volume and rests out of the key: they are applied when a track is assembled', () => {
    const style = patchHouseStyle(defaultHouseStyle, { sentenceRestMs: 900 })
    const changed = castPart(chapter, { ...context, style, casting: { ...casting, gainDb: -9 } })
    expect(changed.utterances.map(utterance => utterance.key)).toEqual(castPart(chapter, context).utterances.map(utterance => utterance.key))
    expect(changed.utterances.map(utterance => utterance.gainDb)).toEqual([-9, -9, -9, -9])
    expect(changed.utterances[2]!.restBeforeMs).toBe(900)
  })

  test('passes over a passage that cannot be spoken, also for the rests', () => {
    const score = compilePart(part(['paragraph', 'One.'], ['quotation', '* * *'], ['paragraph', 'Two.']), context)
    expect(score.utterances.map(utterance => [utterance.text, utterance.restBeforeMs])).toEqual([['One.', 0], ['Two.', 600]])
  })

  test.each([['* * *'], ['❦'], ['']])('rests at a scene break (%j) without saying it, as long as the house style has it, and once where two follow each other', sign => {
    const scenes = part(['paragraph', 'One.'], ['sceneBreak', sign], ['sceneBreak', sign], ['paragraph', 'Two.'], ['paragraph', 'Three.'], ['sceneBreak', sign])
    const rests = (style: HouseStyle): unknown => compilePart(scenes, { ...context, style }).utterances.map(utterance => [utterance.text, utterance.restBeforeMs])
    expect(rests(defaultHouseStyle)).toEqual([['One.', 0], ['Two.', 1200], ['Three.', 600]])
    expect(rests(patchHouseStyle(defaultHouseStyle, { rests: { sceneBreak: { afterMs: 2000 } } }))).toEqual([['One.', 0], ['Two.', 2000], ['Three.', 600]])
    expect(rests(patchHouseStyle(defaultHouseStyle, { rests: { sceneBreak: { afterMs: 0 } } }))).toEqual([['One.', 0], ['Two.', 600], ['Three.', 600]])
  })

  test('says the words of a scene break that has some', () => {
    expect(compilePart(part(['paragraph', 'One.'], ['sceneBreak', 'Later that day'], ['paragraph', 'Two.']), context).utterances.map(utterance => [utterance.text, utterance.restBeforeMs]))
      .toEqual([['One.', 0], ['Later that day', 600], ['Two.', 1200]])
  })

  test('compiles a passage again only when something it reads has changed', () => {
    const cache = new Map<string, Unit>()
    compilePart(chapter, context, cache)
    expect(cache.size).toBe(3)
    compilePart(chapter, { ...context, style: patchHouseStyle(defaultHouseStyle, { rests: { heading: { afterMs: 5 } } }) }, cache)
    expect(cache.size).toBe(3)
    const edited = { ...chapter, passages: chapter.passages.map((passage, index) => index === 1 ? { ...passage, content: plainContent('Do not walk. It hangs.') } : passage) }
    compilePart(edited, context, cache)
    expect(cache.size).toBe(4)
  })

  test('a unit’s input depends on what an engine can take, not on who speaks', () => {
    const passage = chapter.passages[0]!
    const input = (change: Partial<Casting>, maximumCharacters = 1000): string => unitInput(passage, { ...context, previousKind: null, casting: { ...casting, ...change }, engines: { espeak: { ...engines['espeak']!, maximumCharacters } } })
    expect([input({ gainDb: -12 }), input({ voice: 'de' }), input({ wordsPerMinute: 200 })]).toEqual([input({}), input({}), input({})])
    expect(input({}, 500)).not.toBe(input({}))
  })

  test('an engine that is not there is named, with what to do', () => {
    expect(() => compilePart(chapter, { ...context, casting: { ...casting, engine: 'gone' } })).toThrow('There is no speech engine “gone” here. Choose another voice')
  })

  test('cuts a sentence too long for the engine, without a rest between its pieces', () => {
    const limit = engines['espeak']!.maximumCharacters
    const long = Array.from({ length: 300 }, (_, index) => `word${index}`).join(' ') + '.'
    const { utterances } = compilePassage({ id: 'x', kind: 'paragraph', content: plainContent(long) }, { ...context, previousKind: 'title' })
    expect(utterances.length).toBeGreaterThan(1)
    expect(Math.max(...utterances.map(utterance => utterance.text.length))).toBeLessThanOrEqual(limit)
    expect(utterances.map(utterance => utterance.restBeforeMs)).toEqual([1000, ...utterances.slice(1).map(() => 0)])
    expect(utterances.map(utterance => utterance.text).join(' ')).toBe(long)
    expect(utterances.map(utterance => utterance.beginsSentence)).toEqual([true, ...utterances.slice(1).map(() => false)])
  })
})

describe('pieces', () => {
  const cut = (text: string, limit: number): string[] => pieces(text, { start: 0, end: text.length }, limit).map(({ start, end }) => text.slice(start, end))

  test('prefers the last clause mark before the limit', () => {
    expect(cut('when it rains, they stay in the hive all day', 20)).toEqual(['when it rains,', 'they stay in the', 'hive all day'])
  })

  test('cuts a word longer than the limit, never inside a character', () => {
    expect(cut('🐝🐝🐝🐝🐝', 5).join('')).toBe('🐝🐝🐝🐝🐝')
    expect(cut('🐝🐝🐝🐝🐝', 5).every(piece => !/[\ud800-\udbff]$/u.test(piece))).toBe(true)
  })
})

test('the markup escapes what XML reserves and collapses white space', () => {
  expect(markupOf(plainRequest('Salt & <wax>,\n 5 – 6'))).toBe('<speak>Salt &amp; &lt;wax&gt;, 5 – 6</speak>')
})
