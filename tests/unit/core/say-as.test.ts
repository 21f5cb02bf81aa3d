import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { sayAsKinds, sayAsWords, type SayAsKind } from '#core/language/say-as'
import { root } from '../../support/paths'

interface Row {
  readonly language: string
  readonly kind: string
  readonly format: string | undefined
  readonly text: string
  readonly expected: string
}

const rows = readFileSync(join(root, 'tests/data/said/say-as.txt'), 'utf8').split('\n').filter(line => line.startsWith('[')).map((line): Row => {
  const { language, kind, format, text, expected } = /^\[(?<language>\S+) (?<kind>\w+)(?: (?<format>\w+))?\] (?<text>.+?) → (?<expected>.+)$/u.exec(line)!.groups as Record<string, string>
  return { language: language!, kind: kind!, format, text: text!, expected: expected! }
})

test.each(rows)('$language $kind $format: “$text” is $expected', ({ language, kind, format, text, expected }) => {
  const said = sayAsWords(text, kind, format, language)
  if (expected !== 'refused') return expect(said).toEqual({ words: expected })
  // The reason names the text and says what to do.
  expect(said).toEqual({ reason: expect.stringMatching(/^“.+” is not .+\. Correct the text, or use Substitute\.$/u) as string })
})

/** A right and a wrong text of each kind, in figures, which all languages read alike. */
const texts: Readonly<Record<Exclude<SayAsKind, 'characters'>, { readonly right: string, readonly wrong: string, readonly format?: string }>> = {
  cardinal: { right: '21', wrong: '2-1' }, ordinal: { right: '3', wrong: '0' }, digits: { right: '210', wrong: '—' }, telephone: { right: '030 123', wrong: '030 abc' }, date: { right: '12.05.2024', wrong: '12.13.2024', format: 'dmy' },
  time: { right: '7:30', wrong: '7:75' }, currency: { right: '5 EUR', wrong: '5' }, unit: { right: '5 km', wrong: '5 ??' },
}
const languages = ['cs', 'da', 'de', 'en-GB', 'en-US', 'es', 'fr', 'it', 'nl', 'pl', 'pt', 'ru']

describe.each(languages)('%s', language => {
  test.each(Object.entries(texts))('as %s: a right text has words without figures, a wrong one is refused with the reason', (kind, { right, wrong, format }) => {
    expect(sayAsWords(right, kind, format, language)).toEqual({ words: expect.stringMatching(/^[^\d]+$/u) as string })
    expect(sayAsWords(wrong, kind, format, language)).toEqual({ reason: expect.stringContaining(`“${wrong}” is not `) as string })
  })
})

test('a language without number words, and a kind that is none, are refused with the remedy', () => {
  for (const kind of sayAsKinds) expect(sayAsWords('5', kind, undefined, 'ja')).toEqual({ reason: expect.stringContaining('Write the words with Substitute') as string })
  expect(sayAsWords('5', 'constructor', undefined, 'en')).toEqual({ reason: expect.stringContaining('Choose one of characters, cardinal') as string })
})
