import { openingWords } from '../../../language/abbreviations'
import { cardinal, counted, inPairs, quantity } from '../../../language/counted'
import type { NoOptions, RuleKind } from '../rule-kind'
import type { Names } from '../../../language/words'
import { isAttribute, screenLines } from './english'
import { begins, expansion, gap, oneOf, sign, type Form, type Found, type Grammar } from './form'
import { inPlural, perWord, word } from './say'
import { unitNames } from '../../../language/unit-names'

export interface MeasureOptions {
  /** How a height in feet and inches is said: five foot ten, or five feet ten inches. */
  readonly how?: 'short' | 'full'
}

/** Behind the sign of a unit: no letter, figure or part of a compound sign; an abbreviation may have its full stop. */
const unitEnds = '(?![\\p{L}\\p{N}²³]|/\\p{L})'
const dotted = new Set(['min', 'mins', 'hr', 'hrs', 'sec', 'secs', 'oz', 'lb', 'lbs', 'ft', 'yd', 'yds', 'mi', 'tsp', 'tbsp', 'Tbsp', 'qt', 'gal', 'yr', 'yrs', 'wk', 'wks', 'mo', 'mos', 'fl oz', 'fl. oz', 'sq ft', 'sq in', 'sq mi', 'cu ft', 'km', 'cm', 'mm', 'kg', 'Min', 'Std', 'Sek', 'Mon', 'St', 'Stk', 'Pfd', 'Ztr', 'tsps', 'tbsps', 'qts', 'pts', 'gals', 'cda', 'cdas', 'cdta', 'cdtas'])

/** Signs of units as alternatives; of abbreviations with the full stop that is theirs, where a sentence goes on. */
const signsOf = ({ units, primary, language }: Grammar): string =>
  `(?:${oneOf(units.filter(unit => dotted.has(unit)))})\\.(?=[ \\u00a0](?:[\\p{Ll}\\d(&]|x)|[,;:)])|${primary === 'de' ? `(?:Min|Std|Sek|Stk)\\.(?=[ \\u00a0](?!(?:${oneOf(openingWords(language))})(?!\\p{L}))\\p{Lu})|` : ''}${oneOf(units)}`

/** A number with the name of what it counts; in English an attribute stays singular. */
const quantitySaid = (figures: string, names: Names, { grammar, ...found }: Pick<Found, 'before' | 'after' | 'grammar'>): string | null =>
  quantity(figures, names, grammar, grammar.primary === 'en' && isAttribute(found))

/** The same for what is always several but for one: parts of hours and of degrees. */
function partSaid(figures: string, names: Names, grammar: Grammar): string {
  const name = names[Number(figures) === 1 ? 0 : 1]
  return `${/^\d+$/u.test(figures) ? counted(String(Number(figures)), name, grammar) : cardinal(figures, grammar)} ${name}`
}

/** Of a compound: kilowatt hours per square metre. */
function perOther(names: Names | null, { group, grammar }: Found): Names | null {
  const other = group('per') === '' ? null : unitNames(group('per'), grammar)
  if (names === null || group('per') === '') return names
  return other === null ? null : [`${names[0]} ${perWord(grammar)} ${other[0]}`, `${names[1]} ${perWord(grammar)} ${other[0]}`]
}

/** Words before a length of time, in English. */
const takesTime = /(?:^|[^\p{L}])(?:after|every|within|takes?|took|lasts?|lasted|wait|waited)\s$/iu

const single = (signs: (grammar: Grammar) => string, namesOf: (sign: string, grammar: Grammar) => Names | null): Form => ({
  pattern: grammar => `${begins}(?<sum>${sign}${grammar.number})${gap}(?<unit>${signs(grammar)})(?:/(?<per>${signs(grammar)}))?${unitEnds}`,
  say: found => {
    const names = perOther(namesOf(found.group('unit'), found.grammar), found)
    if (names === null) return null
    // 1990s are years, and 50K is fifty thousand; seconds are written so behind a point, and where a time is named: it took 45s.
    const isTouching = found.whole === `${found.group('sum')}${found.group('unit')}`
    if (isTouching && (found.group('unit') === 'K' || found.group('unit') === 's' && !/\d\.\d/u.test(found.group('sum')) && !(/[1-9]$/u.test(found.group('sum')) && takesTime.test(found.before)))) return null
    return quantitySaid(found.group('sum'), names, found)
  },
})

/** What an engine uses on its way: 5 l/100 km. */
const consumption: Form = {
  needs: /\/100/u,
  pattern: ({ number }) => `${begins}(?<sum>${number})${gap}(?<unit>l|L|kWh|kg)[ \\u00a0]?/[ \\u00a0]?100[ \\u00a0]?km(?!\\p{L})`,
  say: found => {
    const amount = quantitySaid(found.group('sum'), unitNames(found.group('unit'), found.grammar)!, { ...found, after: '' })
    return amount === null ? null : `${amount} ${{ en: 'per hundred kilometres', de: 'auf einhundert Kilometer', fr: 'aux cent kilomètres', es: 'cada cien kilómetros' }[found.grammar.primary]!}`
  },
}

/** Joined by hyphens, as an attribute: 5-kg bag, 5-kg-Sack. */
const hyphened: Form = {
  needs: /\d-/u,
  pattern: grammar => `${begins}(?<sum>${grammar.number})-(?<unit>${signsOf(grammar)})(?=[ \\u00a0-]\\p{L})`,
  say: ({ group, grammar }) => {
    const [number, names] = [cardinal(group('sum'), grammar), unitNames(group('unit'), grammar)]
    return number === null || names === null ? null : `${number}-${names[0]}`
  },
}

/** Hours, minutes and seconds in a row: 3h 20m, 1 hr 20 min., 5m 30s, 3 d 4 h, 1h30. */
const duration: Form = {
  pattern: () => `${begins}(?:(?<h>\\d{1,3})${gap}(?:h|hrs?|hours?|Std|St)\\.?[ \\u00a0]?(?<m>[0-5]?\\d)${gap}(?:m|mins?|minutes?|Min|mn)\\.?(?:[ \\u00a0]?(?<s>[0-5]?\\d)${gap}(?:s|secs?|Sek)\\.?)?|(?<m2>\\d{1,3})${gap}(?:m|mins?|Min)\\.?[ \\u00a0]?(?<s2>[0-5]?\\d)${gap}(?:s|secs?|Sek)\\.?|(?<d>\\d{1,3})${gap}[dj]\\.?[ \\u00a0](?<h2>[0-2]?\\d)${gap}h|(?<h3>\\d{1,2})h(?<m3>[0-5]\\d))(?![\\p{L}\\p{N}])`,
  say: ({ group, grammar }) => {
    const said = [[group('d'), 'd'], [group('h') || group('h2') || group('h3'), 'h'], [group('m') || group('m2'), 'min'], [group('s') || group('s2'), 's']] as const
    const minutes = group('m3') === '' ? '' : ` ${word(group('m3'), grammar)}`
    return `${said.flatMap(([figures, unit]) => figures === '' ? [] : [partSaid(figures, unitNames(unit, grammar)!, grammar)]).join(' ')}${minutes}`
  },
}

/** Feet and inches (NIST Handbook 44 writes ft and in; primes are common practice): 5'10", 6′ 2″. */
const height: Form<MeasureOptions> = {
  needs: /['’′]/u,
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<feet>\\d{1,3})['’′][ \\u00a0-]?(?<inches>1[01]|\\d)(?<half>½)?(?:["”″]|''|(?![\\p{L}\\p{N}]))(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }, { how }) => {
    const [feet, inches] = [word(group('feet'), grammar), word(group('inches'), grammar)]
    const half = group('half') === '' ? '' : ' and a half'
    if (group('inches') === '0' && half === '') return `${feet} feet`
    return how === 'full' ? `${feet} ${group('feet') === '1' ? 'foot' : 'feet'} ${inches}${half} ${group('inches') === '1' && half === '' ? 'inch' : 'inches'}` : `${feet} foot ${inches}${half}`
  },
}

const angles: Readonly<Record<string, { readonly degree: Names, readonly minute: Names, readonly second: Names, readonly quarters: Readonly<Record<string, string>> }>> = {
  en: { degree: ['degree', 'degrees'], minute: ['minute', 'minutes'], second: ['second', 'seconds'], quarters: { N: 'north', S: 'south', E: 'east', W: 'west' } },
  de: { degree: ['Grad', 'Grad'], minute: ['Minute', 'Minuten'], second: ['Sekunde', 'Sekunden'], quarters: { N: 'Nord', S: 'Süd', O: 'Ost', E: 'Ost', W: 'West' } },
  fr: { degree: ['degré', 'degrés'], minute: ['minute', 'minutes'], second: ['seconde', 'secondes'], quarters: { N: 'nord', S: 'sud', E: 'est', O: 'ouest', W: 'ouest' } },
  es: { degree: ['grado', 'grados'], minute: ['minuto', 'minutos'], second: ['segundo', 'segundos'], quarters: { N: 'norte', S: 'sur', E: 'este', O: 'oeste', W: 'oeste' } },
}

/** Degrees, minutes and seconds of arc (ISO 6709): 40° 26′ 46″ N. Degrees alone, without a quarter of the sky, are temperatures. */
const angle: Form = {
  needs: /°/u,
  pattern: ({ number }) => `${begins}(?<d>${sign}${number})[ \\u00a0\\u202f]?°(?:[ \\u00a0]?(?<m>[0-5]?\\d(?:[.,]\\d+)?)['’′](?:[ \\u00a0]?(?<s>[0-5]?\\d(?:[.,]\\d+)?)(?:["”″]|''))?)?(?:[ \\u00a0]?(?<quarter>[NSEWO])(?![\\p{L}\\p{N}]))?(?![\\p{L}\\p{N}])`,
  say: ({ group, grammar }) => {
    if (group('m') === '' && group('quarter') === '') return null
    const { degree, minute, second, quarters } = angles[grammar.primary]!
    const parts = [[group('d'), degree], [group('m'), minute], [group('s'), second]] as const
    return [...parts.flatMap(([figures, names]) => figures === '' ? [] : [partSaid(figures, names, grammar)]), ...quarters[group('quarter')] === undefined ? [] : [quarters[group('quarter')]]].join(' ')
  },
}

/** Feet and inches in letters: 6 ft 2 in. */
const feetAndInches: Form = {
  needs: /ft/u,
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<feet>\\d{1,3})${gap}ft\\.?[ \\u00a0](?<inches>\\d{1,2})${gap}in(?:\\.|(?![\\p{L}\\p{N}]))` : null,
  say: found => `${quantitySaid(found.group('feet'), unitNames('ft', found.grammar)!, { ...found, after: '' })!} ${quantitySaid(found.group('inches'), unitNames('in', found.grammar)!, found)!}`,
}

/** Minutes and seconds by primes: 5'30". More than eleven are no inches. */
const primes: Form = {
  needs: /['’′]/u,
  pattern: () => `${begins}(?<m>\\d{1,3})['’′][ \\u00a0]?(?<s>1[2-9]|[2-5]\\d)(?:["”″]|'')(?![\\p{L}\\p{N}])`,
  say: ({ group, grammar }) => {
    const { minute, second } = angles[grammar.primary]!
    return `${partSaid(group('m'), minute, grammar)} ${partSaid(group('s'), second, grammar)}`
  },
}

/** Behind a figure a straight quotation mark is inches where none is open: a 12" pipe. */
const straightInches: Form = {
  needs: /"/u,
  pattern: ({ primary, number }) => primary === 'en' ? `${begins}(?<sum>${number})"(?![\\p{L}\\p{N}])` : null,
  say: found => (found.text.text.slice(0, found.index).match(/(?<![\d½¼¾⅓⅔⅛])"/gu) ?? []).length % 2 === 1 ? null : quantitySaid(found.group('sum'), unitNames('in', found.grammar)!, found),
  isWeak: () => true,
}

/** Amperes, in English: A is an article and a letter as well. */
const amperes: Form = {
  needs: /\dA| A/u,
  pattern: ({ primary, number }) => primary === 'en' ? `${begins}(?<sum>${number})${gap}A(?= (?:fuse|plug|socket|circuit|breaker|supply|cable|charger|current|load)s?\\b)|(?<=(?:draws|carries|supplies|at|to|of) )(?<sum2>\\d+(?:\\.\\d+)?) A(?=[.,;:)]|$)` : null,
  say: found => quantitySaid(found.group('sum') || found.group('sum2'), ['amp', 'amps'], found),
}

/** German adjectives made with a number: 5mal, 3-fach, 8-jährig, 10%ig. */
const germanAdjective: Form = {
  needs: /\d(?:[ \u00a0]?%i|-?[mfjst])/u,
  pattern: ({ primary, number }) => primary === 'de' ? `${begins}(?:(?<low>\\d{1,2})[–-])?(?<sum>${number})(?:-?(?<rest>mal|fach\\p{Ll}{0,2}|jährig\\p{Ll}{0,2}|stündig\\p{Ll}{0,2}|tägig\\p{Ll}{0,2}|stellig\\p{Ll}{0,2})|[ \\u00a0]?%(?<percent>ig\\p{Ll}{0,2}))(?!\\p{L})` : null,
  say: ({ group, grammar }) => {
    const number = cardinal(group('sum'), grammar)
    const low = group('low') === '' ? '' : `${word(group('low'), grammar).replace(/^eins$/u, 'ein')}- bis `
    return number === null ? null : `${low}${number.replace(/^eins$/u, 'ein')}${group('percent') === '' ? group('rest') : `prozent${group('percent')}`}`
  },
}

/** German nouns made of a number: 2er-Zimmer, ein 4er, 100er. Longer ones are decades. */
const germanNumeral: Form = {
  needs: /\der/u,
  pattern: ({ primary }) => primary === 'de' ? `${begins}(?<sum>[1-9]|[1-9]00|1000)er(?<ending>[ns]?)(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => `${group('sum') === '1' ? 'eins' : word(group('sum'), grammar)}er${group('ending')}`,
}

/** Lines of a screen: 1080p. */
const lines: Form = {
  needs: /\d[pi]/u,
  pattern: ({ primary }) => primary === 'en' ? `${begins}(?<sum>${screenLines})(?<mark>[pi])(?![\\p{L}\\p{N}])` : null,
  say: ({ group, grammar }) => `${inPairs(group('sum'), grammar)} ${group('mark')}`,
}

/** One prime by itself: feet and inches in English, minutes and seconds elsewhere. Quotation marks in their place only where figures stand on both sides of a *by*. */
const prime: Form = {
  needs: /['"′″]/u,
  pattern: ({ number }) => `${begins}(?<sum>${number})(?<mark>[′″]|['"](?=[ \\u00a0]?(?:x|×|by|wide|tall|high|long|deep)\\b|[ \\u00a0]?×)|(?<=(?:x|×|by)[ \\u00a0]?\\d{1,3}(?:\\.\\d{1,3})?)['"]|(?<=(?<!\\p{L})(?:an?|the) \\d{1,3})'(?= \\p{Ll}))(?![\\p{L}\\p{N}])`,
  say: found => {
    const { group, grammar } = found
    const isLarge = /['′]/u.test(group('mark'))
    const own = angles[grammar.primary]!
    const names = grammar.primary === 'en' ? unitNames(isLarge ? 'ft' : 'in', grammar)! : isLarge ? own.minute : own.second
    return quantitySaid(group('sum'), names, found)
  },
}

/** Inches, in English: with the full stop, right behind the figures, or between sides; *in* is a word as well. */
const inches: Form = {
  pattern: ({ primary, number }) => primary === 'en' ? `${begins}(?<sum>${number})(?:[ \\u00a0]?in\\.(?=\\s|$|[,;:)])|in(?![\\p{L}\\p{N}])|[ \\u00a0-]in(?= (?:x|×|by|wide|tall|high|long|deep|of rain|diameter)\\b))` : null,
  say: found => quantitySaid(found.group('sum'), unitNames('in', found.grammar)!, found),
}

/** Primes and quotation marks for feet and inches between sides: 8' x 10'. */
const sidesMark: Readonly<Record<string, string>> = { '\'': 'ft', '′': 'ft', '"': 'in', '″': 'in' }

/** The sides of something: 10×15, 4 x 4, 2 × 3 × 4 m, 8' x 10'; 2x4s are several. What is followed by an equals sign is a product. */
const sides: Form = {
  needs: /[x×]/u,
  pattern: grammar => `${begins}(?!0x)(?<first>${grammar.number})(?:${gap}(?<mark>['"′″]|${signsOf(grammar)}))?[ \\u00a0]?[x×][ \\u00a0]?(?<second>${grammar.number})(?:[ \\u00a0]?[x×][ \\u00a0]?(?<third>${grammar.number}))?(?:(?<plural>s)(?![\\p{L}\\p{N}])|${gap}(?<unit>${signsOf(grammar)}|in\\.?|['"′″])${unitEnds})?(?![\\p{L}\\p{N}⁻¹²³⁴-⁹^]|[ \\u00a0]?[=x×]|[.,]\\d)`,
  say: found => {
    const { group, grammar } = found
    const numbers = [group('first'), group('second'), group('third')].filter(each => each !== '')
    const [unit, isScreen] = [sidesMark[group('unit')] ?? group('unit').replace(/^in\.$/u, 'in'), grammar.primary === 'en' && /^\d{3,4}[ \u00a0]?[x×][ \u00a0]?\d{3,4}$/u.test(found.whole)]
    const said = numbers.map(each => isScreen ? inPairs(each, grammar) : cardinal(each, grammar))
    const names = unit === '' ? null : unitNames(unit, grammar)
    if (said.includes(null) || unit !== '' && names === null || /[=≈] ?$/u.test(found.before)) return null
    // A product is written with spaces, and has neither a unit nor a noun behind it.
    if (unit === '' && !isScreen && / × /u.test(found.whole) && !/^[ \u00a0-]\p{L}/u.test(found.after) && /^(?:en|fr)$/u.test(grammar.primary)) return null
    if (group('plural') !== '') return grammar.primary === 'en' ? `${said.slice(0, -1).join(' by ')} by ${inPlural(said.at(-1)!)}` : null
    const lead = group('mark') === '' ? said.slice(0, -1) : [quantitySaid(numbers[0]!, unitNames(sidesMark[group('mark')] ?? group('mark'), grammar)!, { ...found, after: '' }), ...said.slice(1, -1)]
    const last = names === null ? said.at(-1)! : quantitySaid(numbers.at(-1)!, names, found)
    return last === null ? null : [...lead, last].join(` ${grammar.words.by} `)
  },
}

/** So many times: 10x, 3×; 2 x täglich. */
const times: Form = {
  needs: /[x×]/u,
  pattern: ({ number }) => `${begins}(?<sum>${number})(?:[x×](?![\\p{L}\\p{N}]|[ \\u00a0]?[\\d+−=*/^-])(?<![=+−*/][ \\u00a0]?[\\d.,]{1,12}x)|[ \\u00a0][x×](?=[ \\u00a0](?:täglich|wöchentlich|jährlich|pro|am Tag|par|al|a la|daily|weekly|an?|per)(?!\\p{L})))`,
  say: ({ group, grammar }) => {
    const number = cardinal(group('sum'), grammar)
    return number === null ? null : { en: `${number} times`, de: `${number.replace(/^eins$/u, 'ein')}mal`, fr: `${number} fois`, es: `${number} veces` }[grammar.primary]!
  },
}

export const measures = expansion<MeasureOptions>([height, primes, angle, duration, feetAndInches, germanAdjective, germanNumeral, lines, sides, times, consumption, hyphened, single(signsOf, unitNames), inches, prime, straightInches, amperes], {
  options: { how: { enum: ['short', 'full'] } }, required: [], defaults: { how: 'short' }, needs: /[\d½¼¾]/u,
})

const temperatureSigns = ['°C', '°F', '° C', '° F', '°', '℃', '℉', 'ºC', '°c']

function degreeNames(unit: string, { primary }: Grammar): Names {
  const [one, many] = angles[primary]!.degree
  const scale = /[Cc℃]/u.test(unit) ? ' Celsius' : /[F℉]/u.test(unit) ? ' Fahrenheit' : ''
  return [`${one}${scale}`, `${many}${scale}`]
}

const kind = (signs: readonly string[], namesOf: (sign: string, grammar: Grammar) => Names | null, more: readonly Form[] = []): RuleKind<NoOptions> =>
  expansion([...more, single(() => oneOf(signs), namesOf)])

export const temperatures = kind(temperatureSigns, degreeNames, [angle])

export const percentages = kind(['%'], (_, { words }) => [words.symbols['%']!, words.symbols['%']!], [germanAdjective])
