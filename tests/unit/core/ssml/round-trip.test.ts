import fc from 'fast-check'
import { canonicalContent, directionSpans, numberedContent, writtenText, type Content } from '#core/script/content'
import { checkSsml } from '#core/script/ssml/check'
import { readSsml, spacedLikeSsml, type SsmlPassage } from '#core/script/ssml/read'
import { writeSsml } from '#core/script/ssml/write'
import { content, passage } from '../../../support/scripts'

function throughSsml(passages: readonly Omit<SsmlPassage, 'part'>[]): { readonly ssml: string, readonly passages: readonly SsmlPassage[] } {
  const ssml = writeSsml({ language: 'en', parts: [{ kind: 'chapter', label: 'A part', passages: passages.map((each, index) => ({ id: String(index), ...each })) }] }, { isPart: true })
  const { root, problems, source } = checkSsml(ssml)
  expect(problems.filter(problem => problem.code === 'ssml-syntax')).toEqual([])
  return { ssml, passages: readSsml(root!, source).passages }
}

const settled = (value: Content): Content => numberedContent(spacedLikeSsml(value))

test('2,000 random scripts come back from SSML as they were', () => {
  fc.assert(fc.property(fc.array(passage, { minLength: 1, maxLength: 4 }), passages => {
    const back = throughSsml(passages)
    expect(back.passages.map(each => ({ ...each, content: numberedContent(each.content) }))).toEqual(passages.map(each => ({ ...each, content: settled(each.content) })))
    // Written again it is the same text: the form is canonical.
    const again = throughSsml(back.passages)
    expect(throughSsml(again.passages).ssml).toBe(again.ssml)
  }), { numRuns: 2000, seed: 5 })
}, 120_000)

test('what is asked for where no voice speaks a language holds for all that is inside, and comes back', () => {
  const document = '<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en" onlangfailure="ignoretext"><p>a <lang xml:lang="de">b</lang></p><p xml:lang="fr" onlangfailure="ignorelang">c</p><p><lang xml:lang="de" onlangfailure="changevoice">d <s xml:lang="es">e</s></lang></p><p xml:lang="it">f</p><p xml:lang="en">g</p></speak>'
  const { root, source } = checkSsml(document)
  const { passages, lost } = readSsml(root!, source)
  expect(lost).toEqual([])
  const asked = (each: SsmlPassage): string[] => each.content.directions.flatMap(direction => direction.kind === 'language' ? [`${direction.language} ${direction.onlangfailure ?? ''}`] : [])
  expect(passages.map(asked)).toEqual([['de ignoretext'], ['fr ignorelang'], ['de changevoice', 'es changevoice'], ['it ignoretext'], []])
  expect(throughSsml(passages).passages.map(asked)).toEqual(passages.map(asked))
})

test('the canonical form is its own canonical form, nests, and keeps every letter', () => {
  fc.assert(fc.property(content, value => {
    expect(canonicalContent(value)).toEqual(value)
    const spans = directionSpans(value)
    for (const a of spans) {
      for (const b of spans) if (a.start < b.start && b.start < a.end && a.start < a.end) expect(b.end).toBeLessThanOrEqual(a.end)
    }
  }), { numRuns: 2000, seed: 7 })
}, 120_000)

test('equal contents have equal text whatever crosses in them', () => {
  const crossing: Content = {
    version: 2, runs: [{ text: 'a', on: ['x'] }, { text: 'b', on: ['x', 'y'] }, { text: 'c', on: ['y'] }],
    directions: [{ id: 'x', kind: 'emphasis', level: 'strong' }, { id: 'y', kind: 'prosody', rate: '80%' }],
  }
  const { runs, directions } = canonicalContent(crossing)
  expect(writtenText(canonicalContent(crossing))).toBe('abc')
  expect(runs).toEqual([{ text: 'a', on: ['x'] }, { text: 'b', on: ['x', 'y'] }, { text: 'c', on: ['y~2'] }])
  expect(directions).toEqual([...crossing.directions, { id: 'y~2', kind: 'prosody', rate: '80%' }])
})
