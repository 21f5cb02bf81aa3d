import { unitInput } from '#core/score/compile'
import { spokenForm } from '#core/score/spoken'
import { plainContent, type Content } from '#core/script/content'
import { defaultHouseStyle } from '#core/style/house-style'
import { wordFinder } from '#core/words/find-words'
import { respell } from '#core/words/respelling'
import type { WordEntry, Wordbook } from '#core/words/wordbook'
import { castPassage, engines, markupOf, narrator } from '../../../support/casting'

const alias = (id: string, written: string, text: string, more: Partial<WordEntry> = {}): WordEntry => ({ id, graphemes: [written], language: 'en', said: [{ by: 'alias', text }], ...more })
const book = (...entries: WordEntry[]): Wordbook => ({ version: 1, entries })
const spoken = (text: string, ...books: Wordbook[]): string => spokenForm(plainContent(text), 'en-GB', { findWords: wordFinder(books) }).text

describe('an entry', () => {
  test.each([
    ['counts for whole words only, in any case', 'The Hive, the hives, a beehive.', book(alias('1', 'hive', 'box')), 'The box, the hives, a beehive.'],
    ['counts within words when it says so', 'A beehive.', book(alias('1', 'hive', 'box', { partOfWord: true })), 'A beebox.'],
    ['counts as it is written when it says so', 'US and us.', book(alias('1', 'US', 'America', { matchCase: true })), 'America and us.'],
    ['of several words counts before one of them', 'The queen cell and the queen.', book(alias('1', 'queen', 'Q'), alias('2', 'queen cell', 'royal box')), 'The royal box and the Q.'],
    ['with signs in it', 'Part no. 4, A/C and .NET.', book(alias('1', 'no.', 'number'), alias('2', 'A/C', 'account'), alias('3', '.NET', 'dot net')), 'Part number 4, account and dot net.'],
    ['with an apostrophe, straight or round', 'O’Hara’s bees', book(alias('1', 'O\'Hara', 'Oh Hara')), 'Oh Hara’s bees'],
    ['counts beside its neighbours only', 'They lead the way. A pipe of lead here.', book(alias('1', 'lead', 'led', { beside: { before: ['of'] } })), 'They lead the way. A pipe of led here.'],
    ['with a neighbour counts before one without', 'I read it. I have read it.', book(alias('1', 'read', 'reed'), alias('2', 'read', 'red', { beside: { before: ['have'] } })), 'I reed it. I have red it.'],
    ['of another language does not count', 'The Hut.', book(alias('1', 'Hut', 'x', { language: 'de' })), 'The Hut.'],
    ['after letters of another script and emoji', '🐝 Əhive hive', book(alias('1', 'hive', 'box')), '🐝 Əhive box'],
  ])('%s', (_, text, words, expected) => {
    expect(spoken(text, words)).toBe(expected)
  })

  test('of the nearer wordbook counts', () => {
    expect(spoken('A skep.', book(alias('1', 'skep', 'near')), book(alias('1', 'skep', 'far'), alias('2', 'A', 'One')))).toBe('One near.')
  })
})

describe('the role of a word', () => {
  const lexicon = (one: string, other: string): Wordbook => book(
    alias('1', 'bass', 'base', { kept: { attributes: { role: one } } }), alias('2', 'bass', 'bas', { kept: { attributes: { role: other } } }),
  )
  const withRole = (role: string): Content => ({ version: 2, runs: [{ text: 'A ', on: [] }, { text: 'bass', on: ['w'] }, { text: ' and a bass.', on: [] }], directions: [{ id: 'w', kind: 'kept', element: 'w', attributes: { role } }] })
  const saidWith = (role: string, words: Wordbook): string => spokenForm(withRole(role), 'en-GB', { findWords: wordFinder([words]) }).text
  test.each([
    ['my:fish', lexicon('x:music', 'x:fish'), 'A bas and a base.'],
    ['my:music', lexicon('x:music', 'x:fish'), 'A base and a base.'],
    ['other:x my:fish', lexicon('x:music', 'x:animal x:fish'), 'A bas and a base.'],
    ['my:voice', lexicon('x:music', 'x:fish'), 'A base and a base.'],
    ['claws:VVI', book(alias('1', 'bass', 'noun'), alias('2', 'bass', 'verb', { partsOfSpeech: ['verb'] })), 'A verb and a noun.'],
    ['noun', book(alias('1', 'bass', 'other'), alias('2', 'bass', 'verb', { partsOfSpeech: ['verb'] })), 'A other and a other.'],
  ])('%s chooses among the entries of a wordbook', (role, words, expected) => {
    expect(saidWith(role, words)).toBe(expected)
  })
})

describe('words of an alias', () => {
  const chain = (length: number): WordEntry[] => Array.from({ length }, (_, index) => alias(String(index), `w${index}`, `w${index + 1} and`))
  test.each([
    ['are looked up again', [alias('1', 'W3C', 'World Wide Web'), alias('2', 'Web', 'net')], 'See W3C.', 'See World Wide net.'],
    ['and theirs', [alias('1', 'a1', 'b1 b1'), alias('2', 'b1', 'c1'), alias('3', 'c1', 'end')], 'It is a1.', 'It is end end.'],
    ['but no entry speaks for its own', [alias('1', 'Web', 'World Web')], 'The Web.', 'The World Web.'],
    ['nor do two for each other', [alias('1', 'a1', 'b1'), alias('2', 'b1', 'a1')], 'It is a1 or b1.', 'It is a1 or b1.'],
    ['five deep at most', chain(9), 'It is w0.', 'It is w6 and and and and and and.'],
    ['by what stands beside them there', [alias('1', 'WX', 'pipe of lead'), alias('2', 'lead', 'led', { beside: { before: ['of'] } })], 'WX and lead.', 'pipe of led and lead.'],
  ] as const)('%s', (_, entries, text, expected) => {
    expect(spoken(text, book(...entries))).toBe(expected)
  })

  test('stay as they are where they would grow without end', () => {
    const entries = Array.from({ length: 8 }, (_, index) => alias(String(index), `w${index}`, `w${index + 1} `.repeat(60).trim()))
    const started = performance.now()
    expect(spoken('It is w0.', book(...entries)).length).toBeLessThan(4000)
    expect(performance.now() - started).toBeLessThan(2000)
  })

  test('are said by their sounds, each by itself, and all that made them is known', () => {
    const entries = [alias('1', 'XY', 'lead lead row'), { id: '2', graphemes: ['lead'], language: 'en', said: [{ by: 'ipa' as const, text: 'lɛd' }] }]
    const form = spokenForm(plainContent('An XY.'), 'en-GB', { findWords: wordFinder([book(...entries)]) })
    expect(form.spans.map(({ start, end }) => form.text.slice(start, end))).toEqual(['lead', 'lead'])
    expect(form.groups.map(({ written, by }) => [...written, ...(by ?? []).map(cause => 'word' in cause ? cause.word : '')])).toEqual([[0, 3], [3, 5, '1', '2'], [3, 5, '1'], [3, 5, '1', '2'], [3, 5, '1'], [5, 6]])
    expect(form.steps.map(({ from, to }) => `${from}→${to}`)).toEqual(['XY→lead lead row', 'lead→lead', 'lead→lead'])
  })

  test('change what is sent when an entry for one of them changes, also where a rule has made the word', () => {
    const context = (said: string) => ({ language: 'en-GB', style: defaultHouseStyle, casting: narrator, findWords: wordFinder([book(alias('1', 'XY', 'the lead'), alias('2', 'lead', said))]) })
    const passage = { id: 'p', kind: 'paragraph' as const, content: plainContent('An XY.') }
    const [one, other] = ['led', 'leed'].map(said => ({ input: unitInput(passage, { ...context(said), previousKind: null, engines }), sent: castPassage(passage, context(said))[0]!.key }))
    expect(one!.input).not.toBe(other!.input)
    expect(one!.sent).not.toBe(other!.sent)
  })
})

describe('a part of speech', () => {
  const lead = (id: string, text: string, partsOfSpeech: WordEntry['partsOfSpeech'], more: Partial<WordEntry> = {}): WordEntry => alias(id, 'lead', text, { ...(partsOfSpeech === undefined ? {} : { partsOfSpeech }), ...more })
  test.each([
    ['chooses', [lead('1', 'led', ['noun']), lead('2', 'leed', ['verb'])], 'They lead the way. A pipe of lead.', 'They leed the way. A pipe of led.'],
    ['counts before an entry without', [lead('1', 'leed', undefined), lead('2', 'led', ['noun'])], 'They lead the way. A pipe of lead.', 'They leed the way. A pipe of led.'],
    ['that is narrower counts first', [lead('1', 'leed', ['noun', 'verb']), lead('2', 'led', ['noun'])], 'They lead the way. A pipe of lead.', 'They leed the way. A pipe of led.'],
    ['leaves what is another to the voice', [lead('1', 'led', ['noun'])], 'They lead the way.', 'They lead the way.'],
    ['is none in another language', [lead('1', 'led', ['noun'], { language: 'de' })], 'A pipe of lead.', 'A pipe of lead.'],
  ] as const)('%s', (_, entries, text, expected) => {
    expect(spoken(text, book(...entries))).toBe(expected)
  })
})

describe('a direction', () => {
  const words = wordFinder([book(alias('1', 'WWW', 'web'))])
  const content = (direction: Content['directions'][number]): Content => ({ version: 2, runs: [{ text: 'The ', on: [] }, { text: 'WWW', on: ['d'] }, { text: ' here.', on: [] }], directions: [direction] })
  test.each([
    ['a substitute', { id: 'd', kind: 'substitute', alias: 'World Wide Web' }, 'The World Wide Web here.'],
    ['letters', { id: 'd', kind: 'sayAs', interpretAs: 'characters' }, 'The WWW here.'],
    ['phonemes', { id: 'd', kind: 'phoneme', ph: 'a' }, 'The WWW here.'],
    ['left out', { id: 'd', kind: 'leftOut' }, 'The  here.'],
    ['emphasis says nothing about the words', { id: 'd', kind: 'emphasis', level: 'strong' }, 'The web here.'],
    ['another language', { id: 'd', kind: 'language', language: 'de' }, 'The WWW here.'],
  ] as const)('counts before the wordbook: %s', (_, direction, expected) => {
    expect(spokenForm(content(direction), 'en', { findWords: words }).text).toBe(expected)
  })
})

describe('what the voice is given', () => {
  const context = (...entries: WordEntry[]) => ({ language: 'en-GB', style: defaultHouseStyle, casting: narrator, findWords: wordFinder([book(...entries)]) })
  const sent = (text: string, ...entries: WordEntry[]): string => markupOf(castPassage({ id: 'p', kind: 'paragraph', content: plainContent(text) }, context(...entries))[0]!.request)

  test('is IPA, letters or other words, with the place in the written text', () => {
    expect(sent('A varroa mite.', { id: '1', graphemes: ['varroa'], language: 'en', said: [{ by: 'respelling', text: 'vuh-ROH-uh' }] })).toBe('<speak>A <phoneme ph="vəˈɹəʊə">varroa</phoneme> mite.</speak>')
    expect(sent('The XQZ says.', { id: '1', graphemes: ['XQZ'], language: 'en', said: [{ by: 'letters' }] })).toBe('<speak>The <say-as interpret-as="characters">XQZ</say-as> says.</speak>')
    const { groups } = spokenForm(plainContent('Part no. 4.'), 'en', { findWords: wordFinder([book(alias('7', 'no.', 'number'))]) })
    expect(groups).toEqual([{ written: [0, 5], spoken: [0, 5] }, { written: [5, 8], spoken: [5, 11], replaced: true, by: [{ word: '7' }] }, { written: [8, 11], spoken: [11, 14] }])
  })

  test('changes for the sentence that has the word, and for no other', () => {
    const text = 'A skep stands there. It is empty.'
    const keys = (...entries: WordEntry[]): string[] => castPassage({ id: 'p', kind: 'paragraph', content: plainContent(text) }, context(...entries)).map(utterance => utterance.key)
    const [before, after] = [keys(), keys(alias('1', 'skep', 'basket'))]
    expect([before[0] === after[0], before[1] === after[1]]).toEqual([false, true])
  })
})

describe('respelling', () => {
  // The readings are common knowledge of English; the spellings are this product's own.
  test.each([
    ['var-ROH-ah', 'vɑːˈɹəʊɑː'], ['KWEEN', 'ˈkwiːn'], ['BEE-hyv', { at: 4 }], ['HUN-ee', 'ˈhʌniː'], ['SKEP', 'ˈskɛp'], ['ay-pis mel-IF-er-uh', 'eɪpɪs mɛlˈɪfɜːə'],
    ['', { at: 0 }], ['var--oh', { at: 4 }], ['vär-oh', { at: 1 }], ['BOT-l', 'ˈbɒtl'],
  ])('%s', (text, expected) => {
    const found = respell(text)
    expect(typeof expected === 'string' ? found : { at: 'at' in found ? found.at : null }).toEqual(typeof expected === 'string' ? { ipa: expected } : expected)
  })

  test('in American English its vowels are American', () => {
    expect(respell('HAHR-ber', 'en-US')).toEqual({ ipa: 'ˈhɑːɹbɜːɹ' })
    expect(respell('OH-pen', 'en-US')).toEqual({ ipa: 'ˈoʊpɛn' })
  })
})
