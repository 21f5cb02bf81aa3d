import { plainContent } from '#core/script/content'
import type { ScriptChange } from '#core/script/changes'
import { subjectOf } from '#core/script/subject'

// What an edit was about, as it is named where it can be undone.

const said = [{ by: 'respelling' as const, text: 'var-ROH-ah' }]
const word = (id: string, grapheme: string): ScriptChange => ({ of: 'word', id, before: null, after: { wordbookId: 'book', entry: { graphemes: [grapheme], language: 'en', said } } })

test.each<[what: string, changes: readonly ScriptChange[], subject: string | null]>([
  ['an entry of the wordbook', [word('a', 'Varroa')], 'Varroa'],
  ['several entries', [word('a', 'Varroa'), word('b', 'propolis'), word('c', 'skep')], 'Varroa and 2 more'],
  ['an entry that is taken away', [{ of: 'word', id: 'a', before: { entry: { graphemes: ['skep'], language: 'en', said } }, after: null }], 'skep'],
  ['a rest', [{ of: 'style', id: 's', before: { heading: { beforeMs: 100, afterMs: 250 } }, after: { heading: { beforeMs: 100, afterMs: 900 } } }], 'rest after headings'],
  ['rests and the one between sentences', [{ of: 'style', id: 's', before: { title: { beforeMs: 0, afterMs: 1 }, sentenceRestMs: 3 }, after: { title: { beforeMs: 5, afterMs: 2 }, sentenceRestMs: 4 } }], 'rests around titles and 1 more'],
  ['a rule', [{ of: 'style', id: 's', before: { 'rule m': { id: 'm', on: true, does: 'romanNumerals' }, 'ruleOrder': ['m'] }, after: { 'rule m': null, 'ruleOrder': [] } } as ScriptChange], 'rule roman numerals'],
  ['a text', [{ of: 'passage', id: 'p', before: { content: plainContent('') }, after: { content: plainContent('  The hive\nstands on blocks behind the seed store.') } }], '“The hive stands on blocks behind…”'],
  ['a text that is now empty', [{ of: 'passage', id: 'p', before: { content: plainContent('Bees') }, after: { content: plainContent(' ') } }], null],
  ['a part, with the passages that move to it', [{ of: 'passage', id: 'p', before: { partId: '1' }, after: { partId: '2' } }, { of: 'part', id: '2', before: { label: 'Autumn' }, after: null }], '“Autumn”'],
  ['a decision', [{ of: 'decision', id: 'd', before: null, after: { editionId: 'e', decision: { about: 'census', reason: 'acronym', key: 'EU' } } }], '“EU”'],
  ['nothing', [], null],
])('%s', (_, changes, subject) => {
  expect(subjectOf(changes)).toBe(subject)
})

test('a change that tells no name takes that of now', () => {
  const leftOut: ScriptChange = { of: 'part', id: 'p', before: { included: true }, after: { included: false } }
  expect(subjectOf([leftOut], 'Words Used')).toBe('“Words Used”')
})
