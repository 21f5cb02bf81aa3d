import type { EngineRequest } from '#core/score/request'
import { plainContent, type Content } from '#core/script/content'
import type { DirectionValue } from '#core/script/directions'
import { withDirection } from '#core/script/edit'
import { defaultHouseStyle } from '#core/style/house-style'
import { prepareRules, type Rule } from '#core/style/rule'
import { wordFinder } from '#core/words/find-words'
import type { Said } from '#core/words/wordbook'
import { ipaOf, sounds, type TestLanguage } from '../../support/own-phonemes'
import { casting, castPassage, markupOf, plainRequest } from '../../support/casting'

// The engine's own program says which sounds it makes of what is sent. They are those of the plain text: no mark is called by its
// name (“dot”, “punto”), no ending by its letter, whatever ends before it.

/** A word of each language; its sounds in IPA are the engine's own. */
const words: Readonly<Record<TestLanguage, { readonly word: string, readonly before: string, readonly after: string }>> = {
  'en-GB': { word: 'honey', before: 'They said', after: 'There was more' },
  'de': { word: 'Anton', before: 'Da kam', after: 'Dann war mehr' },
  'fr': { word: 'table', before: 'Voici donc', after: 'Puis là' },
  'es': { word: 'mesa', before: 'Vimos una', after: 'Luego nada' },
  'it': { word: 'mano', before: 'Ecco la', after: 'Poi niente' },
  'pl': { word: 'mama', before: 'To jest', after: 'Potem nic' },
  'pt': { word: 'casa', before: 'Vimos uma', after: 'Depois nada' },
  'nl': { word: 'tafel', before: 'Daar staat de', after: 'Dan niets' },
  'sv': { word: 'honung', before: 'Det var', after: 'Sedan kom' },
  'da': { word: 'honning', before: 'Det var', after: 'Så kom' },
  'cs': { word: 'máma', before: 'To je', after: 'Potom nic' },
  'ru': { word: 'дом', before: 'Вот мой', after: 'Потом нет' },
}
const languages = Object.keys(words) as TestLanguage[]
const marks = ['.', ',', ';', ':', '!', '?', '…', '”', ')', '.”', ').', '”.', '."', '!"', ',"', '.—', '!—', '’s', '’s.', '\'s,']
const positions = ['first', 'inner', 'last', 'alone'] as const

/** A sentence with a word at a place, a mark behind it. */
function sentence(language: TestLanguage, position: (typeof positions)[number], mark: string): { readonly text: string, readonly start: number, readonly end: number } {
  const { word, before, after } = words[language]
  const opening = mark.includes('”') ? '“' : mark.includes(')') ? '(' : ''
  const lower = after.toLowerCase()
  const lead = position === 'first' || position === 'alone' ? opening : `${before} ${opening}`
  const behind = position === 'last' || position === 'alone' ? '' : ` ${lower}.`
  return { text: `${lead}${word}${mark}${behind}`, start: lead.length, end: lead.length + word.length }
}

type Treatment = (own: { readonly language: TestLanguage, readonly word: string, readonly ipa: string }) => {
  readonly on?: DirectionValue
  readonly said?: Said
  readonly rule?: Rule
}

const treatments: Readonly<Record<string, Treatment>> = {
  'emphasis': () => ({ on: { kind: 'emphasis', level: 'strong' } }),
  'pace': () => ({ on: { kind: 'prosody', rate: '80%' } }),
  'pitch': () => ({ on: { kind: 'prosody', pitch: '+2st' } }),
  'volume': () => ({ on: { kind: 'prosody', volume: '-6dB' } }),
  'language': ({ language }) => ({ on: { kind: 'language', language: `${language.slice(0, 2)}-x-own` } }),
  'voice': () => ({ on: { kind: 'voice', attributes: { gender: 'female' } } }),
  'substitute': ({ word }) => ({ on: { kind: 'substitute', alias: word } }),
  'pronunciation': ({ ipa }) => ({ on: { kind: 'phoneme', ph: ipa } }),
  'an entry in IPA': ({ ipa }) => ({ said: { by: 'ipa', text: ipa } }),
  'an entry in other words': ({ word }) => ({ said: { by: 'alias', text: word } }),
  'a rule with emphasis': ({ word }) => ({ rule: { id: 'r', on: true, does: 'own', find: word, emphasis: 'moderate' } }),
  'a rule with a pace': ({ word }) => ({ rule: { id: 'r', on: true, does: 'own', find: word, ratePercent: 90 } }),
  'a rule with other words': ({ word }) => ({ rule: { id: 'r', on: true, does: 'own', find: word, say: word } }),
}

function requestsOf(text: string, start: number, end: number, language: TestLanguage, { on, said, rule }: ReturnType<Treatment>): EngineRequest[] {
  const content = on === undefined ? plainContent(text) : withDirection(plainContent(text), { id: 'd', ...on }, start, end)
  const context = {
    language, style: defaultHouseStyle, casting,
    ...(said === undefined ? {} : { findWords: wordFinder([{ version: 1, entries: [{ id: 'w', graphemes: [text.slice(start, end)], language: language.slice(0, 2), said: [said] }] }]) }),
    ...(rule === undefined ? {} : { rules: prepareRules([rule]) }),
  }
  return castPassage({ id: 'p', kind: 'paragraph', content }, context).map(({ request }) => request)
}

const spoken = (requests: readonly EngineRequest[], language: TestLanguage): string => sounds(requests.map(request => ipaOf(request, language)).join(''))

/** The sounds of a text without marks of its own, each stretch between them by itself. */
function plainSounds(text: string, language: TestLanguage): string {
  const bare = text.replace(/[.,;:!?…“”"()—]+/gu, ',').replace(/^,|,$/gu, '')
  return spoken([plainRequest(bare)], language)
}

describe.each(languages)('in %s', language => {
  const { word } = words[language]
  test.each(Object.entries(treatments))('%s adds no sound, whatever follows', (kind, treat) => {
    const ipa = (ipaOf(plainRequest(word), language)).trim()
    // In French a word with an English ending is read as English: there its sounds in IPA are others. Portuguese and Russian know no such ending.
    const own = language === 'fr' && /pronunciation|IPA/u.test(kind) || language === 'pt' || language === 'ru' ? marks.filter(mark => !/s/u.test(mark)) : marks
    const cases = positions.flatMap(position => own.map(mark => sentence(language, position, mark)))
    const wrong = cases.flatMap(({ text, start, end }) => {
      const [sent, plain] = [spoken(requestsOf(text, start, end, language, treat({ language, word, ipa })), language), plainSounds(text, language)]
      return sent === plain ? [] : [`${text}: /${sent}/, written /${plain}/`]
    })
    expect(wrong).toEqual([])
  })
})

test.each(languages)('in %s, what stands alone behind a rest, or behind what is left out, stays silent', language => {
  const { word, before, after } = words[language]
  for (const mark of marks.filter(each => !/s/u.test(each))) {
    for (const behind of ['', ` ${after.toLowerCase()}.`]) {
      const text = `${before} ${word}${mark}${behind}`
      const at = before.length + 1 + word.length
      const rested = withDirection(plainContent(text), { id: 'd', kind: 'rest', ms: 300 }, at, at)
      const sent = (content: Content): string => spoken(castPassage({ id: 'p', kind: 'paragraph', content }, { language, style: defaultHouseStyle, casting }).map(({ request }) => request), language)
      expect([text, 'rest', sent(rested)]).toEqual([text, 'rest', plainSounds(text, language)])
      const left = withDirection(plainContent(text), { id: 'd', kind: 'leftOut' }, before.length + 1, at)
      expect([text, 'left out', sent(left)]).toEqual([text, 'left out', plainSounds(`${before},${behind}`, language)])
    }
  }
})

test.each([
  ['en-GB', 'the BBC', 'BBC', ['.', ',', '!', ').', '’s news', '’s.']], ['de', 'im ZDF', 'ZDF', ['.', ',', '!', ').']], ['fr', 'la SNCF', 'SNCF', ['.', ',', '!', ').']], ['es', 'el FMI', 'FMI', ['.', ',', '!', ').']],
] as const)('in %s, letters said one by one keep what follows them silent', (language, before, word, after) => {
  const alone = spoken(requestsOf(before, before.length - word.length, before.length, language, { on: { kind: 'sayAs', interpretAs: 'characters' } }), language)
  for (const mark of after) {
    const sent = spoken(requestsOf(`${before}${mark}`, before.length - word.length, before.length, language, { on: { kind: 'sayAs', interpretAs: 'characters' } }), language)
    expect([mark, sent]).toEqual([mark, `${alone}${mark.startsWith('’s') ? 'z' : ''}${mark.endsWith('news') ? sounds('njˈuːz') : ''}`])
  }
})

test.each([
  // The possessive of English: voiced, voiceless, after a sibilant (*common practice*).
  ['Varroa', 'vəɹˈəʊə', '’s mites', 'z'], ['Ralph', 'ɹˈalf', '’s hive', 's'], ['Alice', 'ˈalɪs', '’s hive', 'ɪz'], ['bees', 'bˈiːz', '’ hive', ''],
])('%s with a pronunciation and an ending', (word, ph, ending, sound) => {
  const [sent] = requestsOf(`The ${word}${ending}.`, 4, 4 + word.length, 'en-GB', { on: { kind: 'phoneme', ph } })
  expect(markupOf(sent!)).toContain(`<phoneme ph="${ph}${sound}">`)
})

test.each([['fr', 'C’est l’', 'abeille', '.'], ['fr', 'Il dit « ', 'oui', ' ».'], ['fr', 'Que c’est ', 'grand', ' !'], ['it', 'Vedo dell’', 'acqua', '.'], ['es', 'Digo ¡', 'mira', '!'], ['de', 'Das ist „', 'gut', '“.'], ['en-GB', 'It is well-', 'known', '.'], ['en-GB', 'It came—', 'late', '—home.']] as const)('%s: %s%s%s sounds as it is written, with emphasis on the middle', (language, before, word, after) => {
  const text = `${before}${word}${after}`
  const sent = spoken(requestsOf(text, before.length, before.length + word.length, language, { on: { kind: 'emphasis', level: 'strong' } }), language)
  expect(sent).toBe(spoken([plainRequest(text.replace(/[.“”„«»¡!]/gu, ' ').trim())], language))
})

test.each(['It is (big).', 'It is “big”.', 'It is ‘big’.', 'About 5 %.', 'Is it—or not’.', 'It is (big). ', 'He said “big”. and so on', '"It is big."', '"It is big." So it is.', 'It is big." —Other', 'It is big.—So it is.', 'See src/big.', 'It is 2 °C.', 'Wait ... and see'])('the plain text “%s” is said without the name of its stop', text => {
  expect(spoken([plainRequest(text)], 'en-GB')).not.toMatch(/dɒt/u)
})
