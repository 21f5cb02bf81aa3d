import { execFileSync } from 'node:child_process'
import { numberWords } from '#core/language/numbers'
import { yearWords } from '#core/language/say-as'

// Reference: the rule-based number formats of Unicode CLDR, spelt out by the ICU library (Debian's python3-icu).

const whole = [...Array(31).keys(), 40, 41, 50, 61, 70, 71, 77, 80, 81, 91, 99, 100, 101, 111, 116, 121, 180, 199, 200, 201, 500, 700, 900, 999, 1000, 1001, 1100, 1234, 1999, 2000, 2016, 10_000, 21_000, 31_000, 80_000, 100_000, 101_000, 121_000, 200_000, 999_999, 1_000_000, 1_000_001, 2_000_000, 21_000_000, 1_000_000_000]
const counted = whole.filter(number => number > 0 && number <= 1000)
const years = [1100, 1101, 1109, 1110, 1215, 1300, 1492, 1605, 1666, 1700, 1789, 1800, 1815, 1848, 1871, 1900, 1901, 1905, 1914, 1919, 1945, 1969, 1987, 1999, 2000, 2001, 2009, 2010, 2019, 2024, 2050, 2099]

type Rows = Readonly<Record<string, readonly string[]>>
const sets = {
  en: ['spellout-cardinal-verbose', 'spellout-ordinal-verbose'], de: ['spellout-numbering', 'spellout-ordinal'], fr: ['spellout-numbering', 'spellout-ordinal-masculine'], es: ['spellout-numbering', 'spellout-ordinal-masculine'],
} as const
const reference = JSON.parse(execFileSync('/usr/bin/python3', ['tests/support/spell-out.py'], {
  input: JSON.stringify(Object.fromEntries(Object.entries(sets).map(([language, [cardinal, ordinal]]) => [language, { [cardinal]: [...whole, ...years], [ordinal]: counted, 'spellout-numbering-year': years }]))),
  encoding: 'utf8',
})) as Readonly<Record<string, Rows>>

/** Without what is heard alike: commas, and the hyphens of the French spelling of 1990. */
const heard = (words: string): string => words.replace(/[,-]/gu, ' ').replace(/\s+/gu, ' ')

/** Rows in which the reference is another usage, or wrong, each with the reason. */
const otherwise: Readonly<Record<string, string>> = {
  'fr ordinal 81': 'quatre vingt unième', // No *et* in 81 and 91 in either spelling (common practice).
  'fr ordinal 91': 'quatre vingt onzième',
  'fr ordinal 101': 'cent unième',
  'fr ordinal 111': 'cent onzième',
  'fr ordinal 201': 'deux cent unième',
}

describe.each(Object.keys(sets) as (keyof typeof sets)[])('%s', language => {
  const words = numberWords(language === 'en' ? 'en-GB' : language)!
  const [cardinal, ordinal] = sets[language]
  const expected = (kind: string, number: number, row: string): string => otherwise[`${language} ${kind} ${number}`] ?? heard(row)

  test.each(whole.map((number, index) => [number, reference[language]![cardinal]![index]!] as const))('cardinal %i is %s', (number, row) => {
    expect(heard(words.cardinal(String(number)))).toBe(expected('cardinal', number, row))
  })

  test.each(counted.map((number, index) => [number, reference[language]![ordinal]![index]!] as const))('ordinal %i is %s', (number, row) => {
    expect(heard(words.ordinal(String(number)))).toBe(expected('ordinal', number, row))
  })

  // French years are said as numbers as well as by hundreds, which the reference does: both are in use (common practice), here it is the number.
  const yearRows = language === 'fr' ? reference[language]![cardinal]!.slice(whole.length) : reference[language]!['spellout-numbering-year']!
  test.each(years.map((year, index) => [year, yearRows[index]!] as const))('year %i is %s', (year, row) => {
    // British English says *and* after a thousand; the reference gives American years.
    expect(heard(yearWords(String(year), { language, numbers: words })).replace(/thousand and /u, 'thousand ')).toBe(heard(row))
  })
})
