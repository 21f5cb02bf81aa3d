import { plainContent, writtenText, type Content } from '#core/script/content'
import { asTurn, labelsIn, speakerLabels } from '#core/script/dialogue'
import { finder, replaceIn, type FindQuery } from '#core/script/find'
import { valueText } from '#core/script/direction-text'
import { contentsOf } from '../../support/performance'

const query = (what: string, change: Partial<FindQuery> = {}): FindQuery => ({ what, place: 'text', matchCase: false, wholeWord: false, isPattern: false, ...change })
const found = (content: Content, asked: FindQuery): string[] => finder(asked)(content, 'en').map(hit => `${hit.before}[${hit.found}]${hit.after}`)
const values = (content: Content): string[] => content.directions.map(valueText)
const marked = (ssml: string): Content => contentsOf(ssml)[0]!

describe('finding', () => {
  test.each<[string, FindQuery, string[]]>([
    ['in any case', query('BEES'), ['The [bees] and the beeswax: [Bees]!', 'The bees and the beeswax: [Bees]!']],
    ['in the case it is written in', query('bees', { matchCase: true, wholeWord: true }), ['The [bees] and the beeswax: Bees!']],
    ['whole words', query('bees', { wholeWord: true }), ['The [bees] and the beeswax: Bees!', 'The bees and the beeswax: [Bees]!']],
    ['signs of patterns as they are', query('!'), ['The bees and the beeswax: Bees[!]']],
    ['by a pattern', query('b\\w+x', { isPattern: true }), ['The bees and the [beeswax]: Bees!']],
  ])('%s', (_, asked, expected) => {
    const hits = finder(asked)(plainContent('The bees and the beeswax: Bees!'), 'en')
    expect(hits.map(hit => `${hit.before}[${hit.found}]${hit.after}`)).toEqual(asked.what === 'BEES'
      ? ['The [bees] and the beeswax: Bees!', 'The bees and the [bees]wax: Bees!', 'The bees and the beeswax: [Bees]!'] : expected)
  })

  test('a pattern that would take for ever elsewhere ends', () => {
    expect(found(plainContent('a'.repeat(50_000)), query('(a+)+$b', { isPattern: true }))).toEqual([])
  })

  test('a pattern that is none says what is wrong with it', () => {
    expect(() => finder(query('(', { isPattern: true }))).toThrow('not a pattern')
  })

  const content = marked('In <say-as interpret-as="date" format="y">1987</say-as> the <sub alias="World Wide Web">WWW</sub>, a <phoneme ph="hˈaɪv">hive</phoneme>, <break time="400ms"/>and <emphasis level="strong">more</emphasis>.')
  test('in what is spoken instead: substitutes, pronunciations, the words of say-as', () => {
    expect(found(content, query('web', { place: 'spoken' }))).toEqual(['World Wide [Web]'])
    expect(found(content, query('nineteen', { place: 'spoken' }))).toEqual(['[nineteen] eighty-seven'])
    expect(found(content, query('aɪv', { place: 'spoken' }))).toEqual(['hˈ[aɪv]'])
  })

  test('in directions, by their words', () => {
    expect(found(content, query('rest 400', { place: 'directions' }))).toEqual(['[Rest 400] ms'])
    expect(found(content, query('strong', { place: 'directions' }))).toEqual(['Emphasis [strong]'])
  })

  test('values of directions are replaced, and what is no value is refused', () => {
    expect(values(replaceIn(content, query('400', { place: 'directions' }), '650', 'en').content)).toContain('650 ms')
    expect(values(replaceIn(content, query('strong', { place: 'directions' }), 'reduced', 'en').content)).toContain('reduced')
    expect(replaceIn(content, query('strong', { place: 'directions' }), 'very much', 'en')).toMatchObject({ count: 0, refused: 1 })
    expect(values(replaceIn(content, query('Wide', { place: 'spoken' }), 'Weird', 'en').content)).toContain('World Weird Web')
  })

  test('text is replaced, one hit or all, and directions stay on what stays', () => {
    const [all, one] = [replaceIn(content, query('e'), 'E', 'en'), replaceIn(content, query('e'), 'E', 'en', { start: writtenText(content).lastIndexOf('e') })]
    expect([all.count, writtenText(all.content)]).toEqual([3, 'In 1987 thE WWW, a hivE, and morE.'])
    expect([one.count, writtenText(one.content)]).toEqual([1, 'In 1987 the WWW, a hive, and morE.'])
    expect(values(all.content)).toEqual(values(content))
    expect(writtenText(replaceIn(content, query('(\\d\\d)(\\d\\d)', { isPattern: true }), '$2$1', 'en').content)).toContain('8719')
  })
})

describe('dialogue', () => {
  const script = (...texts: string[]) => texts.map(text => ({ content: plainContent(text) }))
  const speakersOf = (passages: ReturnType<typeof script>) => speakerLabels(labelsIn(passages))

  test.each<[string, string[], [string, string, number][]]>([
    ['labels in capitals', ['MENTOR: Look there.', 'APPRENTICE: Where?', 'MENTOR: There.', 'She looked.'], [['MENTOR', 'Mentor', 2], ['APPRENTICE', 'Apprentice', 1]]],
    ['names', ['Tamsin: Look.', 'Oswin: Where?', 'Tamsin: There.', 'Oswin: Ah.'], [['Tamsin', 'Tamsin', 2], ['Oswin', 'Oswin', 2]]],
    ['what somebody does between two turns', ['Tamsin: Look.', 'Oswin came nearer.', 'Oswin: Where?', 'Tamsin: There.'], [['Tamsin', 'Tamsin', 2], ['Oswin', 'Oswin', 1]]],
    ['and counts turns that lie apart', ['Tamsin: Look.', 'Oswin: Where?', 'Tamsin: There.', 'One.', 'Two.', 'Tamsin: Gone.'], [['Tamsin', 'Tamsin', 3], ['Oswin', 'Oswin', 1]]],
    ['no dialogue in two labels that do not alternate', ['MENTOR: Look there.', 'APPRENTICE: Where?'], []],
    ['no dialogue in turns that lie far apart', ['Tamsin: Look.', 'One.', 'Two.', 'Oswin: Where?', 'Three.', 'Four.', 'Tamsin: There.'], []],
    ['no dialogue in lists that count', ['First: light it.', 'Secondly: open it.', 'First: close it.', 'Secondly: go.'], []],
    ['no dialogue in headwords', [...Array.from({ length: 9 }, (_, index) => `WORD${'ABCDEFGHI'[index]}: it means something.`), 'WORDA: again.'], []],
    ['no dialogue in notes', ['Warning: it stings.', 'Note: it heals.', 'Remember: three things.'], []],
    ['no dialogue in sentences with colons', ['Three things go wrong: one, two, three.', 'At 7:30: tea.'], []],
  ])('%s', (_, texts, expected) => {
    expect(speakersOf(script(...texts)).map(({ label, role, count }) => [label, role, count])).toEqual(expected)
  })

  test('a label becomes a role, and is left out of what is spoken; once done it is no label any more', () => {
    const turn = asTurn(plainContent('MENTOR: Look there.'), new Map([['MENTOR', 'Mentor']]), 'x')!
    expect([turn.role, writtenText(turn.content), turn.content.runs[0]]).toEqual(['Mentor', 'MENTOR: Look there.', { text: 'MENTOR: ', on: ['x'] }])
    expect(speakersOf([turn, turn])).toEqual([])
    expect(asTurn(plainContent('OTHER: no.'), new Map([['MENTOR', 'Mentor']]), 'x')).toBeNull()
  })
})
