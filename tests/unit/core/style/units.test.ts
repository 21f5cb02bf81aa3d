import { execFileSync } from 'node:child_process'
import { ruleWords } from '#core/language/words'

// Reference: the long forms of units of Unicode CLDR as the ICU library has them (Debian's python3-icu).

const identifiers: Readonly<Record<string, string>> = {
  'mg': 'milligram', 'µg': 'microgram', 't': 'tonne', 'W': 'watt', 'kW': 'kilowatt', 'kWh': 'kilowatt-hour', 'V': 'volt', 'Hz': 'hertz', 'kHz': 'kilohertz', 'MHz': 'megahertz', 'GHz': 'gigahertz', 'hPa': 'hectopascal', 'kPa': 'kilopascal',
  'bar': 'bar', 'kJ': 'kilojoule', 'kcal': 'kilocalorie', 'mm²': 'square-millimeter', 'cm²': 'square-centimeter', 'm²': 'square-meter', 'km²': 'square-kilometer', 'cm³': 'cubic-centimeter', 'm³': 'cubic-meter', 'dl': 'deciliter', 'cl': 'centiliter',
  'hl': 'hectoliter', 'µm': 'micrometer', 'nm': 'nanometer', 'ms': 'millisecond',
}
const languages = ['en-GB', 'de', 'fr', 'es']
const reference = JSON.parse(execFileSync('/usr/bin/python3', ['tests/support/unit-names.py'], {
  input: JSON.stringify(Object.fromEntries(languages.map(language => [language, Object.values(identifiers)]))), encoding: 'utf8',
})) as Readonly<Record<string, Readonly<Record<string, readonly [string, string]>>>>

/** Without hyphens and accents: the reference writes *kilowatt-heure* and *milimetro*. */
const heard = (name: string): string => name.replace(/-/gu, ' ').replace(/kilowatt ?heure/u, 'kilowattheure').replace('milimetro', 'milímetro')

describe.each(languages)('%s', language => {
  test.each(Object.entries(identifiers))('%s is a %s', (sign, unit) => {
    expect(ruleWords(language)!.units[sign]!.map(heard)).toEqual(reference[language]![unit]!.map(heard))
  })
})
