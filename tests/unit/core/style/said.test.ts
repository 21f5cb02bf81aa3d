import { spokenForm } from '#core/score/spoken'
import { plainContent } from '#core/script/content'
import { presetRules } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import { saidTable, type SaidRow } from '../../../support/said-table'

// How what is written in figures and short forms is said. Each table names its sources beside its rows.

const rules = { book: prepareRules(presetRules('book')), course: prepareRules(presetRules('course')) }

function said({ written, language, preset }: SaidRow): string {
  return spokenForm(plainContent(written), language, { rules: rules[preset], subject: { kind: 'paragraph' } }).text.replace(/\s+/gu, ' ').trim()
}

const tables: readonly (readonly [name: string, language: string, least: number])[] = [
  ['en', 'en-GB', 690], ['cldr-en', 'en-GB', 800], ['de', 'de', 200], ['cldr-de', 'de', 150], ['fr', 'fr', 170], ['cldr-fr', 'fr', 150], ['es', 'es', 170], ['cldr-es', 'es', 150],
]

describe.each(tables)('%s', (name, language, least) => {
  const rows = saidTable(name, language)

  test.each([...new Set(rows.map(row => row.family))])('%s', family => {
    const wrong = rows.filter(row => row.family === family).flatMap(row => said(row) === row.said ? [] : [`${row.written} → ${said(row)}, not ${row.said}`])
    expect(wrong).toEqual([])
  })

  test(`has ${least} rows at least, none twice`, () => {
    expect(rows.length).toBeGreaterThanOrEqual(least)
    expect(rows.map(row => `${row.language} ${row.preset} ${row.written}`).filter((row, index, all) => all.indexOf(row) !== index)).toEqual([])
  })
})
