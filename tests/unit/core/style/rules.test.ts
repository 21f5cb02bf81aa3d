import fc from 'fast-check'
import { spokenForm } from '#core/score/spoken'
import { plainContent, writtenText, type Content } from '#core/script/content'
import type { PassageKind } from '#core/script/script'
import { defaultHouseStyle } from '#core/style/house-style'
import { presetRules } from '#core/style/presets'
import { newRule, prepareRules, ruleNames, type HitOff, type Rule } from '#core/style/rule'
import type { RuleKindName } from '#core/style/rules'
import { wordFinder } from '#core/words/find-words'
import { castPart, markupOf, narrator } from '../../../support/casting'

const rule = (does: RuleKindName, options: object = {}): Rule => ({ ...newRule(does, does), ...options })
const form = (text: string, rules: readonly Rule[], { language = 'en-GB', kind = 'paragraph' as PassageKind, off = [] as readonly HitOff[] } = {}) =>
  spokenForm(plainContent(text), language, { rules: prepareRules(rules), subject: { kind }, off })
const spoken = (text: string, rules: readonly Rule[], more: Parameters<typeof form>[2] = {}): string => form(text, rules, more).text.replace(/\s+/gu, ' ').trim()
const book = presetRules('book')

// What is dropped and what stays: this product's own choice.
describe('cleaning', () => {
  test.each([
    ['emoji', {}, 'Happy 🐝🍯 bees ❤️.', 'Happy bees.'],
    ['emoji', { how: 'names' }, 'A 🐝 and a 👩🏽‍🌾.', 'A honeybee and a woman, sheaf of rice.'],
    ['emoji', {}, '© 2024, ™ and 3 stay.', '© 2024, ™ and 3 stay.'],
    ['addresses', { how: 'drop' }, 'See https://www.example.org/honey?x=1.', 'See .'],
    ['addresses', { how: 'domain' }, 'See https://www.example.org/honey?x=1. Write to bees@example.org, please.', 'See example dot org. Write to example dot org, please.'],
    ['addresses', { how: 'read' }, 'Write to queen-7@hive.example.org.', 'Write to queen dash seven at hive dot example dot org.'],
    ['citations', {}, 'Bees sleep [12], as found [3, 7–9].', 'Bees sleep, as found.'],
    ['footnoteMarks', {}, 'Bees¹ and wax.² A hive* of 3 m² and 5 km².', 'Bees and wax. A hive of 3 m² and 5 km².'],
    ['repeatedPunctuation', {}, 'What?! No!!! Wait..... so ---- there ***', 'What? No! Wait… so — there'],
    ['ligatures', {}, 'The ﬁrst eﬀort.', 'The first effort.'],
    ['quotes', {}, '“Yes,” she said. « Oui » and "no".', 'Yes, she said. Oui and no.'],
  ] as const)('%s %j: %s', (does, options, text, expected) => {
    expect(spoken(text, [rule(does, options)])).toBe(expected)
  })
})

// Readings are common practice where no other source is named; the words of numbers, ordinals, years and units are checked in the files beside this one.
describe('expansion', () => {
  test.each([
    ['en-GB', 'Dr. Marrow paid £4.50 for 3 kg at 7:30 on 14 March 1987, i.e. 12% more.', 'Doctor Marrow paid four pounds and fifty pence for three kilograms at seven thirty on the fourteenth of March nineteen eighty-seven, that is twelve per cent more.'],
    // Voices read *a m* as an article and a letter, AM as two letters.
    ['en-GB', 'From 7:30 a.m. to 4 pm.', 'From seven thirty AM to four PM.'],
    ['en-GB', 'It costs £3.5 million, or $5bn.', 'It costs three point five million pounds, or five billion dollars.'],
    ['en-GB', 'In the 1990s, 10–15 bees (No. 7), 1/2, 2½ and 3/4.', 'In the nineteen nineties, ten to fifteen bees (number seven), one half, two and a half and three quarters.'],
    ['en-GB', 'Call +44 20 7946 0958 or 01632 960 123.', 'Call plus four four, two zero, seven nine four six, zero nine five eight or zero one six three two, nine six zero, one two three.'],
    ['en-GB', 'Henry VIII met Louis XIV in World War II.', 'Henry the eighth met Louis the fourteenth in World War two.'],
    ['en-GB', 'Temperatures of 30–35 °C, 1,234.5 m and 007.', 'Temperatures of thirty to thirty-five degrees Celsius, one thousand two hundred and thirty-four point five metres and zero zero seven.'],
    ['en-GB', 'St. Ann lives in Mill St. near No. 10. The 1st, 2nd and 103rd.', 'Saint Ann lives in Mill Street near number ten. The first, second and one hundred and third.'],
    ['en-GB', 'The B12 form, part AB-210, v1.2.3.', 'The B twelve form, part AB two ten, version one point two point three.'],
    ['en-GB', 'A & B, x = 2, §4, 5 > 3.', 'A and B, x equals two, section four, five greater than three.'],
    ['en-US', 'On 12/05/2024.', 'On December fifth, twenty twenty-four.'],
    ['en-GB', 'On 12/05/2024, on the 3rd of May, and scores of 3-2.', 'On the twelfth of May twenty twenty-four, on the third of May, and scores of three two.'],
    ['de', 'Am 3. Mai 2024 kamen 1 Tonne und 21 kg für 5 € an, z. B. um 7:30 Uhr.', 'Am dritten Mai zweitausendvierundzwanzig kamen eine Tonne und einundzwanzig Kilogramm für fünf Euro an, zum Beispiel um sieben Uhr dreißig.'],
    ['de', 'Heinrich VIII. lebte im 16. Jahrhundert.', 'Heinrich der Achte lebte im sechzehnten Jahrhundert.'],
    ['de', 'Der 14. März 1987 war kalt: -5 °C, 1,5 Mio. € und 3/4 Liter.', 'Der vierzehnte März neunzehnhundertsiebenundachtzig war kalt: minus fünf Grad Celsius, eins Komma fünf Millionen Euro und drei Viertel Liter.'],
    ['fr', 'Louis XIV au XVIIe siècle, le 1er mars 2024 à 7h30, 21 tonnes, 3,5 millions €.', 'Louis quatorze au dix-septième siècle, le premier mars deux mille vingt-quatre à sept heures trente, vingt et une tonnes, trois virgule cinq millions d’euros.'],
    ['fr', 'M. Dupré et Mme Vial, 1/3, n° 5, 1 t.', 'Monsieur Dupré et Madame Vial, un tiers, numéro cinq, une tonne.'],
    ['es', 'Felipe II, siglo XIX, el 14 de marzo de 1987, 21 kg y 31 toneladas, 1/12.', 'Felipe segundo, siglo diecinueve, el catorce de marzo de mil novecientos ochenta y siete, veintiún kilogramos y treinta y una toneladas, un doceavo.'],
    ['es', 'El Sr. Paz pagó 5 € p. ej. 16 veces, a la 1:30.', 'El señor Paz pagó cinco euros por ejemplo dieciséis veces, a la una treinta.'],
    ['it', 'Ci sono 21 api.', 'Ci sono ventuno api.'],
  ])('%s: %s', (language, text, expected) => {
    expect(spoken(text, book, { language })).toBe(expected)
  })

  test('Roman numerals of headings are numbers, also alone', () => {
    expect(spoken('IV. The Swarm', book, { kind: 'heading' })).toBe('four. The Swarm')
    expect(spoken('Chapter XII', book, { kind: 'title' })).toBe('Chapter twelve')
    expect(spoken('I am here. MIX it.', book)).toBe('I am here. MIX it.')
    expect(spoken('The board of hive IV and Henry V. Vitamin C.', book)).toBe('The board of hive four and Henry the fifth. Vitamin C.')
  })

  test.each([
    ['en-GB', 'Appendix D, class C, section L and vitamin C; Chapter L and Appendix II.', 'Appendix D, class C, section L and vitamin C; Chapter fifty and Appendix two.'],
    ['en-GB', 'It was −5 °C, fell to -10 and (–3), or -5% and -£5, COVID-19, 3 -2.', 'It was minus five degrees Celsius, fell to minus ten and (minus three), or minus five per cent and minus five pounds, COVID nineteen, three -two.'],
    ['fr', 'Le roi Louis XIV, ce XXe siècle. De plus, Me voici avec Me Dupont. Ce fut là. Il fait −5 °C, puis -10.', 'Le roi Louis quatorze, ce vingtième siècle. De plus, Me voici avec Maître Dupont. Ce fut là. Il fait moins cinq degrés Celsius, puis moins dix.'],
    ['de', 'Anhang D und Klasse C: −5 °C, dann -10.', 'Anhang D und Klasse C: minus fünf Grad Celsius, dann minus zehn.'],
    ['es', 'Anexo D y clase C: −5 °C, baja a -10.', 'Anexo D y clase C: menos cinco grados Celsius, baja a menos diez.'],
    ['it', 'Era −5, scende a -10.', 'Era meno cinque, scende a meno dieci.'],
    ['pl', 'Było −5.', 'Było minus pięć.'],
    ['en-GB', 'In 2½ or 2 1/2 hours; the season 2008/09.', 'In two and a half or two and a half hours; the season two thousand and eight to nine.'],
  ])('a letter is no number, and a sign is heard: %s: %s', (language, text, expected) => {
    expect(spoken(text, book, { language })).toBe(expected)
  })

  test('a heading that is counted with a letter keeps it', () => {
    expect([spoken('C. Methods', book, { kind: 'heading' }), spoken('V. Methods', book, { kind: 'heading' })]).toEqual(['C. Methods', 'five. Methods'])
  })

  test('figures one by one, when a rule says so', () => {
    expect(spoken('Hive 210', [rule('numbers', { how: 'digits' })])).toBe('Hive two one zero')
    expect(spoken('Part AB210', [rule('codes', { how: 'numbers' })])).toBe('Part AB two hundred and ten')
  })

  const piece = fc.oneof(fc.constantFrom('1', '0', '12', '1987', '3,5', '1.5', '1.234', '£', '€', '%', '°C', ' kg', 'h', 'Uhr', ':', '/', '-', '–', '.', ' ', '½', 'st', 'er', 'º', 'a.m.', 'März', 'May', 'de', 'B', 'IV', '(', ')', '+', 'No.', 'S.', 'x', '#', '&'), fc.string({ maxLength: 3 }))
  test('leaves no figure, and its map covers all that is spoken and all that is written', () => {
    fc.assert(fc.property(fc.array(piece, { maxLength: 12 }), fc.constantFrom('en-GB', 'en-US', 'de', 'fr', 'es'), (pieces, language) => {
      // Controls are never spoken, with rules or without.
      const text = pieces.join('').replace(/[\p{C}]/gu, ' ')
      const { text: said, groups } = form(text, book, { language })
      expect(said).not.toMatch(/\d/u)
      expect(groups.flatMap(({ spoken: [start, end] }) => [...Array(end - start).keys()].map(at => start + at))).toEqual([...Array(said.length).keys()])
      const covered = new Set(groups.flatMap(({ written: [start, end] }) => [...Array(end - start).keys()].map(at => start + at)))
      expect([...Array(text.length).keys()].filter(at => !covered.has(at))).toEqual([])
    }), { numRuns: 3000, seed: 7 })
  })
})

describe('a rule', () => {
  test('sees what the rules before it have made; every change is in the map, with all that made it', () => {
    const rules = [rule('abbreviations'), rule('own', { id: 'mine', find: 'Doctor', say: 'Surgeon' })]
    const { text, groups, steps } = form('Dr. Marrow', rules)
    expect(text).toBe('Surgeon Marrow')
    expect(groups[0]).toEqual({ written: [0, 3], spoken: [0, 7], replaced: true, by: [{ rule: 'abbreviations', weak: true }, { rule: 'mine' }] })
    expect(steps.map(({ from, to }) => [from, to])).toEqual([['Dr.', 'Doctor'], ['Doctor', 'Surgeon']])
    expect(spoken('Dr. Marrow', rules.toReversed())).toBe('Doctor Marrow')
  })

  test('counts in its scope only', () => {
    const scoped = (scope: Rule['scope']): Rule => rule('numbers', { scope })
    expect(spoken('7 bees', [scoped({ kinds: ['heading'] })])).toBe('7 bees')
    expect(spoken('7 bees', [scoped({ kinds: ['heading'] })], { kind: 'heading' })).toBe('seven bees')
    expect(spoken('7 bees', [scoped({ languages: ['de'] })])).toBe('7 bees')
    expect(spoken('7 bees', [scoped({ languages: ['en'] })])).toBe('seven bees')
    const inPart = (partLabel: string): string => spokenForm(plainContent('7 bees'), 'en', { rules: prepareRules([scoped({ partLabel: 'spring' })]), subject: { kind: 'paragraph', partLabel } }).text
    expect([inPart('In Spring'), inPart('Autumn')]).toEqual(['seven bees', '7 bees'])
  })

  test('is switched off at one place', () => {
    expect(spoken('7 bees and 7 hives', [rule('numbers')], { off: [{ rule: 'numbers', start: 0, end: 1 }] })).toBe('7 bees and seven hives')
  })

  test('leaves alone what a direction or the wordbook has decided; words that it makes are looked up', () => {
    const content: Content = { version: 2, runs: [{ text: 'Hive ', on: [] }, { text: '210', on: ['d'] }, { text: ', 5 kg', on: [] }], directions: [{ id: 'd', kind: 'substitute', alias: 'two ten' }] }
    const findWords = wordFinder([{ version: 1, entries: [{ id: 'k', graphemes: ['kilograms'], language: 'en', said: [{ by: 'alias', text: 'kilos' }] }, { id: 'f', graphemes: ['5'], language: 'en', said: [{ by: 'alias', text: 'about five' }] }] }])
    expect(spokenForm(content, 'en-GB', { rules: prepareRules(book), findWords: wordFinder([{ version: 1, entries: [{ id: 'k', graphemes: ['kilograms'], language: 'en', said: [{ by: 'alias', text: 'kilos' }] }] }]) }).text).toBe('Hive two ten, five kilos')
    expect(spokenForm(content, 'en-GB', { rules: prepareRules([rule('numbers')]), findWords }).text).toBe('Hive two ten, about five kg')
  })

  test('of one’s own: text or pattern, with groups, rests and emphasis', () => {
    expect(spoken('hive no 7', [rule('own', { find: 'hive no (?P<n>\\d)', isPattern: true, say: 'box $<n> of $1, $$$$' })])).toBe('box 7 of 7, $$')
    expect(spoken('Cat cats CAT', [rule('own', { find: 'cat', say: 'dog', wholeWord: true, matchCase: true })])).toBe('Cat cats CAT')
    expect(spoken('Cat cats CAT', [rule('own', { find: 'cat', say: 'dog', wholeWord: true })])).toBe('dog cats dog')
    const { points, spans } = form('Stop. Now go.', [rule('own', { find: 'now', say: undefined, restBeforeMs: 700, emphasis: 'strong' })])
    expect(points.map(({ at, direction }) => [at, direction.kind === 'rest' && 'ms' in direction ? direction.ms : null])).toEqual([[6, 700]])
    expect(spans.map(({ start, end, direction }) => [start, end, direction.kind])).toEqual([[6, 9, 'emphasis']])
  })

  test('of one’s own that would take another engine for ever takes no time; one that is no pattern is named', () => {
    // A backtracking engine needs two to the 50,000 steps: this test would never end.
    expect(spoken(`${'a'.repeat(50_000)}!`, [rule('own', { find: '(a+)+$', isPattern: true, say: '' })])).toHaveLength(50_001)
    expect(() => prepareRules([rule('own', { find: '(a', isPattern: true })])).toThrow(/not a pattern/u)
  })

  test.each(ruleNames)('%s keeps a text without anything for it as it is', does => {
    expect(spoken('Bees make wax and honey', [rule(does, does === 'own' ? { find: 'queen', say: 'king' } : {})])).toBe('Bees make wax and honey')
  })
})

describe('pauses and pace', () => {
  const context = (rules: readonly Rule[]) => ({ language: 'en-GB', style: defaultHouseStyle, casting: narrator, rules: prepareRules(rules) })
  const compiled = (content: Content | string, rules: readonly Rule[]) => castPart({ id: 'p', kind: 'chapter', label: '', included: true, passages: [{ id: '1', kind: 'paragraph', content: typeof content === 'string' ? plainContent(content) : content }] }, context(rules)).utterances

  test('a rest stands at its place within a sentence', () => {
    const [only] = compiled('Bees — all of them — swarm; then: rest (a little) here.', [rule('dash', { restMs: 250 }), rule('semicolon', { restMs: 300 }), rule('colon', { restMs: 350 }), rule('parenthesis', { restMs: 200 })])
    expect(only!.stretches!.map(({ restMs }) => restMs)).toEqual([0, 250, 250, 300, 350, 200, 200])
  })

  test('at one place a direction wins, otherwise the longest rest', () => {
    const stop = (restAfterMs: number): Rule => rule('own', { find: 'so.', say: undefined, restAfterMs })
    expect(compiled('So. Then.', [stop(900)])[1]!.restBeforeMs).toBe(900)
    expect(compiled('So. Then.', [stop(100)])[1]!.restBeforeMs).toBe(defaultHouseStyle.sentenceRestMs)
    const directed: Content = { version: 2, runs: [{ text: 'Bees ', on: [] }, { text: '', on: [], point: 'r' }, { text: '— all.', on: [] }], directions: [{ id: 'r', kind: 'rest', ms: 50 }] }
    expect(compiled(directed, [rule('dash', { restMs: 800 })])[0]!.stretches!.map(({ restMs }) => restMs)).toEqual([0, 50])
    const two = compiled('Bees; — all.', [rule('semicolon', { restMs: 300 }), rule('dash', { restMs: 800 })])
    expect(two[0]!.stretches!.map(({ restMs }) => restMs)).toEqual([0, 800])
  })

  test('lines that end without punctuation rest', () => {
    expect(compiled('Wax\nHoney.', [rule('unendedLine', { restMs: 400 })])[1]!.restBeforeMs).toBe(400)
    expect(compiled('Wax,\nhoney.', [rule('unendedLine', { restMs: 400 })])[1]!.restBeforeMs).toBe(defaultHouseStyle.sentenceRestMs)
  })

  test('headings, numbers and quotations are said slower', () => {
    expect(compiled('Bees fly.', [rule('pace', { ratePercent: 80, of: 'passage' })])[0]!.request.wordsPerMinute).toBe(Math.round(narrator.wordsPerMinute * 0.8))
    expect(markupOf(compiled('Hive 210 stands.', [rule('pace', { ratePercent: 80, of: 'numbers' }), rule('numbers')])[0]!.request)).toContain('<prosody rate="80%">two hundred and ten</prosody>')
    expect(markupOf(compiled('She said “go” then.', [rule('pace', { ratePercent: 80, of: 'quotations' })])[0]!.request)).toContain('<prosody rate="80%">“go”</prosody>')
  })

  test('only what a rule touches gets another key', () => {
    const text = 'Bees fly. They sell 5 kg.'
    const [before, after] = [compiled(text, []), compiled(text, book)]
    expect(after.map((utterance, index) => utterance.key === before[index]!.key)).toEqual([true, false])
    expect(after.map(({ start, end }) => text.slice(start, end))).toEqual(['Bees fly.', 'They sell 5 kg.'])
  })

  test('a wordbook that speaks for words that a rule made is followed when units are cached', () => {
    const units = new Map<string, never>()
    const cache = { get: (input: string) => units.get(input), set: (input: string, unit: unknown) => void units.set(input, unit as never) }
    const part = { id: 'p', kind: 'chapter', label: '', included: true, passages: [{ id: '1', kind: 'paragraph', content: plainContent('Sell 5 kg.') }] } as const
    const with_ = (text: string) => castPart(part, { ...context(book), findWords: wordFinder([{ version: 1, entries: [{ id: 'k', graphemes: ['kilograms'], language: 'en', said: [{ by: 'alias', text }] }] }]) }, cache).utterances[0]!.text
    expect([with_('kilos'), with_('kay gees'), with_('kilos')]).toEqual(['Sell five kilos.', 'Sell five kay gees.', 'Sell five kilos.'])
    expect(writtenText(part.passages[0].content)).toBe('Sell 5 kg.')
  })
})
