import { isReadable } from '#core/score/readable'
import { unreadIn, warningsOf } from '#core/score/warnings'
import { plainContent } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { readsLetters } from '../../../voices/registry'
import { casting, castPart } from '../../support/casting'

describe('letters that a voice reads', () => {
  test.each([
    ['The bees came home.', 'en-gb', true],
    ['Bienen fliegen über Bäche.', 'de', true],
    ['שלום עולם.', 'en-gb', false],
    ['مرحبا بالعالم.', 'en-gb', false],
    ['你好，世界。', 'en-gb', false],
    ['你好，世界。', 'cmn', true],
    ['日本語の文です。', 'ja', true],
    ['한국어 문장.', 'ko', true],
    ['Добрый день.', 'ru', true],
    ['Καλημέρα.', 'ru', false],
    ['He said “שלום” and went on with his work.', 'en-gb', true],
    ['1, 2, 3 …', 'en-gb', true],
    ['🐝🐝', 'en-gb', true],
    ['Any words in a Latin alphabet', 'ru', true],
    ['שלום', 'no-such-language-at-all', true],
  ])('%s by %s: %s', (text, language, readable) => {
    expect(isReadable(text, language)).toBe(readable)
  })

  test('the others are counted, with the first of them and its part', () => {
    const part = { id: '1', kind: 'chapter' as const, label: 'Greetings', included: true, passages: [{ id: '1.1', kind: 'paragraph' as const, content: plainContent('Hello. שלום עולם. Hello. 你好。') }] }
    const score = castPart(part, { language: 'en', style: defaultHouseStyle, casting: { ...casting, voice: 'en-gb+f3' } })
    expect(warningsOf([{ label: 'Greetings', unread: unreadIn(score, readsLetters) }])).toEqual([
      { code: 'script-unread', place: 'Greetings', message: expect.stringMatching(/^2 sentences are written in letters that the voice “en-gb\+f3” does not read; the first is “שלום עולם\.”\. Choose/u) },
    ])
    expect(warningsOf([{ label: 'None', unread: unreadIn({ ...score, utterances: score.utterances.slice(0, 1) }, readsLetters) }])).toEqual([])
  })
})
