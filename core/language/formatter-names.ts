import { lookup } from '../lookup'

// Names of units and currencies, as the platform's formatters have them (Unicode CLDR).

/** Signs of units, in lower case, with their names for formatters. */
export const units: Readonly<Record<string, string>> = {
  'mm': 'millimeter', 'cm': 'centimeter', 'm': 'meter', 'km': 'kilometer', 'in': 'inch', 'ft': 'foot', 'yd': 'yard', 'mi': 'mile',
  'g': 'gram', 'kg': 'kilogram', 'oz': 'ounce', 'lb': 'pound', 'ml': 'milliliter', 'l': 'liter', 'ha': 'hectare', 'ac': 'acre',
  's': 'second', 'min': 'minute', 'h': 'hour', 'd': 'day', '%': 'percent', '°': 'degree', '°c': 'celsius', '°f': 'fahrenheit',
  'km/h': 'kilometer-per-hour', 'mph': 'mile-per-hour', 'm/s': 'meter-per-second', 'kb': 'kilobyte', 'mb': 'megabyte', 'gb': 'gigabyte',
}

/** One and several of the unit with a sign, as a formatter has them; null for a sign that is not known. */
export function unitNamesOf(sign: string, language: string): readonly [one: string, many: string] | null {
  const id = lookup(units, sign.toLowerCase())
  if (id === undefined) return null
  const format = formatOf(language, { style: 'unit', unit: id, unitDisplay: 'long' })
  return [nameIn(format, 1, 'unit'), nameIn(format, 5, 'unit')]
}

/** One and several of a currency (ISO 4217); null for a code that is none. */
export function currencyNamesOf(code: string, language: string): readonly [one: string, many: string] | null {
  if (!/^[A-Za-z]{3}$/u.test(code)) return null
  const format = formatOf(language, { style: 'currency', currency: code, currencyDisplay: 'name', maximumFractionDigits: 0 })
  return [nameIn(format, 1, 'currency'), nameIn(format, 5, 'currency')]
}

const formats = new Map<string, Intl.NumberFormat>()

/** A formatter is dear to make: each is made once. */
function formatOf(language: string, options: Intl.NumberFormatOptions): Intl.NumberFormat {
  const key = `${language} ${options.currency ?? options.unit}`
  let format = formats.get(key)
  if (format === undefined) {
    format = new Intl.NumberFormat(language, options)
    formats.set(key, format)
  }
  return format
}

/** The name that a formatter puts beside a number, in the form that goes with the number. */
function nameIn(format: Intl.NumberFormat, value: number, type: 'currency' | 'unit'): string {
  return format.formatToParts(value).filter(part => part.type === type || part.type === 'percentSign').map(part => part.value).join(' ').trim()
}
