import { isFeminineInFrench, isFeminineInSpanish } from '../../../language/gender'
import { counted } from '../../../language/counted'
import type { Names } from '../../../language/words'
import { expansion, gap, oneOf, type Form, type Found, type Grammar } from './form'
import { capitalized, ordinal, word } from './say'
import { unitNames } from '../../../language/unit-names'

const vulgar: Readonly<Record<string, readonly [number, number]>> = {
  '½': [1, 2], '⅓': [1, 3], '⅔': [2, 3], '¼': [1, 4], '¾': [3, 4], '⅕': [1, 5], '⅖': [2, 5], '⅗': [3, 5], '⅘': [4, 5], '⅙': [1, 6], '⅚': [5, 6], '⅐': [1, 7], '⅛': [1, 8], '⅜': [3, 8], '⅝': [5, 8], '⅞': [7, 8], '⅑': [1, 9], '⅒': [1, 10],
}
const signs = Object.keys(vulgar).join('')

/** Texts without have no fraction. */
const part = /[/⁄½⅓-⅞¼¾⅐⅑⅒]/u

/** One over another, perhaps with the ending of an ordinal: 2/3rds. */
const written = `(?:(?<vulgar>[${signs}])|(?<top>\\d{1,2})[/⁄](?<bottom>[1-9]\\d{0,2})(?:(?:rd|th|nd)s?(?!\\p{L}))?)`
const alone = '(?<![\\p{L}\\p{N}]|\\d[.,/:]|/|\\d[\'’′][ \\u00a0]?)'
const ends = '(?![\\p{L}\\p{N}]|[/⁄.,]\\d)'

/** The whole number before a part: 2½, 2 1/2, 9-1/2. */
const whole = `(?<whole>\\d{1,6})(?:[ \\u00a0-](?=\\d{1,2}[/⁄])|[ \\u00a0]?(?=[${signs}]))`

/** Top and bottom; null for what is no fraction, or as likely a day. */
function parts({ group, before }: Found): readonly [top: number, bottom: number] | null {
  if (group('vulgar') !== '') return vulgar[group('vulgar')]!
  const [top, bottom] = [Number(group('top')), Number(group('bottom'))]
  // More than a whole only of few parts: 4/3, 3/2.
  if (top < 1 || bottom < 2 || bottom > 100 || top === bottom || top > bottom && (bottom > 5 || top > 9)) return null
  // 5/11 is a day as likely as a fraction: where words before it point to a day it is left to the voice.
  const isRare = ![2, 3, 4, 5, 6, 8, 10, 12, 16, 20, 25, 32, 50, 64, 100].includes(bottom)
  return isRare && top <= 12 && bottom <= 31 && /(?:^|[^\p{L}])(?:on|by|since|until|till|before|after|from|am|vom|bis|le|du|au|el|del|al)\s$/iu.test(before) ? null : [top, bottom]
}

function fractionSaid(top: number, bottom: number, grammar: Grammar): string {
  const [count, nth] = [word(top, grammar), ordinal(bottom, grammar)]
  switch (grammar.primary) {
    case 'en': return `${count} ${bottom === 2 ? top === 1 ? 'half' : 'halves' : bottom === 4 ? top === 1 ? 'quarter' : 'quarters' : `${nth}${top === 1 ? '' : 's'}`}`
    case 'de': return bottom === 2 ? `${top === 1 ? 'ein' : count} halb${top === 1 ? '' : 'e'}` : `${top === 1 ? 'ein' : count} ${capitalized(nth.replace(/e$/u, 'el'))}`
    case 'fr': return bottom === 2 ? top === 1 ? 'un demi' : `${count} demis` : `${count} ${({ 3: 'tiers', 4: `quart${top === 1 ? '' : 's'}` } as Record<number, string>)[bottom] ?? `${nth}${top === 1 ? '' : 's'}`}`
    default: {
      const one = top === 1 ? 'un' : count
      if (bottom === 2) return top === 1 ? 'medio' : `${count} medios`
      const part = ({ 3: 'tercio', 4: 'cuarto' } as Record<number, string>)[bottom] ?? (bottom === 100 ? 'centésimo' : bottom <= 10 ? nth : `${word(bottom, grammar).replace(/ y /u, 'i').replace(/(?<=un)o$|a$/u, '')}avo`)
      return `${one} ${part}${top === 1 ? '' : 's'}`
    }
  }
}

function mixedSaid(count: string, [top, bottom]: readonly [number, number], grammar: Grammar): string {
  const [number, fraction] = [grammar.numbers.cardinal(count), fractionSaid(top, bottom, grammar)]
  // In one word, as Duden has it: eineinhalb, eindreiviertel.
  if (grammar.primary === 'de') return `${Number(count) === 1 ? 'ein' : number}${fraction.replace(/ /gu, '').toLowerCase()}`
  if (bottom === 2) return `${number} ${grammar.words.and} ${{ en: 'a half', fr: 'demi', es: 'medio' }[grammar.primary]}`
  return `${number} ${grammar.words.and} ${fraction}`
}

/** The names of a unit; inches are written with a full stop or a mark as well. */
const namesOf = (unit: string, grammar: Grammar): Names | null => unitNames(/^(?:in\.|["″])$/u.test(unit) ? 'in' : unit, grammar)

/** A whole number and a half or another part, with what it measures: 2½ km, 2½ heures. In French and Spanish the part stands behind the name. */
const mixedOf: Form = {
  needs: part,
  pattern: grammar => `${alone}${whole}${written}${gap}(?:(?<unit>(?:${oneOf(grammar.units)})(?:\\.(?=[ \\u00a0]\\p{Ll}))?${grammar.primary === 'en' ? '|in\\.|["″]' : ''})|(?<noun>${grammar.primary === 'fr' || grammar.primary === 'es' ? '(?!(?:de|du|et|en|le|la|au|ou|un|par|pour|sur|y|o|al|el|del|por|con)(?!\\p{L}))\\p{Ll}{2,}' : '(?!)'}))(?![\\p{L}\\p{N}/²³])`,
  say: found => {
    const { group, grammar } = found
    const [fraction, names] = [parts(found), group('unit') === '' ? null : namesOf(group('unit'), grammar)]
    if (fraction === null || group('unit') !== '' && names === null) return null
    const [count, isHalf] = [group('whole'), fraction[1] === 2]
    const name = names === null ? Number(count) === 1 ? group('noun').replace(/s$/u, '') : group('noun') : names[Number(count) === 1 && grammar.primary === 'fr' ? 0 : 1]
    if (grammar.primary === 'en' || grammar.primary === 'de') return names === null ? null : `${mixedSaid(count, fraction, grammar)} ${name}`
    const isFeminine = grammar.primary === 'fr' ? isFeminineInFrench(name.split(' ')[0]!) : isFeminineInSpanish(name.split(' ')[0]!)
    if (!isHalf) return `${counted(count, name, grammar)} ${name} ${grammar.words.and} ${fractionSaid(...fraction, grammar)}`
    const half = grammar.primary === 'fr' ? isFeminine ? 'demie' : 'demi' : isFeminine ? 'media' : 'medio'
    return `${counted(count, name, grammar)} ${name} ${grammar.words.and} ${half}`
  },
}

/** The first side of something: 8½ × 11 in. */
const side: Form = {
  needs: part,
  pattern: () => `${alone}${whole}${written}[ \\u00a0]?[x×](?=[ \\u00a0]?\\d)`,
  say: found => {
    const fraction = parts(found)
    return fraction === null ? null : `${mixedSaid(found.group('whole'), fraction, found.grammar)} ${found.grammar.words.by} `
  },
}

const mixed: Form = {
  needs: part,
  pattern: () => `${alone}${whole}${written}${ends}`,
  say: found => {
    const fraction = parts(found)
    return fraction === null ? null : mixedSaid(found.group('whole'), fraction, found.grammar)
  },
}

/** Words for what is measured, in the singular, that a fraction is said *of*. */
const englishMeasures = 'mile|inch|foot|yard|cup|teaspoon|tablespoon|pint|quart|gallon|pound|ounce|hour|kilometre|kilometer|metre|meter|litre|liter|acre|hectare|turn|page|second|minute|day|year|century|million|billion|dozen|degree|percent'

/** An eighth, an eleventh, an eighteenth. */
const startsWithVowel = (bottom: number): boolean => /^(?:8|11|18|8\d)$/u.test(String(bottom))

/** A part of a unit: ½ km is half a kilometre. */
const ofUnit: Form = {
  needs: part,
  pattern: grammar => {
    const words = { en: englishMeasures, de: 'Stunde|Liter|Kilometer|Meter|Kilo|Pfund|Tonne|Teelöffel|Tasse|Million', fr: 'heure|litre|kilomètre|mètre|kilo|livre|tonne|journée|cuillère|tasse|douzaine', es: 'hora|litro|kilómetro|metro|kilo|libra|tonelada|taza|cucharada|cucharadita|docena' }[grammar.primary]!
    return `${alone}${written}${gap}(?:(?<unit>(?:${oneOf(grammar.units)})(?:\\.(?=[ \\u00a0]\\p{Ll}))?${grammar.primary === 'en' ? '|in\\.|["″]' : ''})|(?<word>${words}))(?![\\p{L}\\p{N}/²³])`
  },
  say: found => {
    const { group, grammar } = found
    const fraction = parts(found)
    const name = group('word') || namesOf(group('unit'), grammar)?.[0]
    if (fraction === null || name === undefined) return null
    const [top, bottom] = fraction
    const isHalf = top === 1 && bottom === 2
    const article = /^(?:hour|[aeio])/u.test(name) && !/^one/u.test(name) ? 'an' : 'a'
    switch (grammar.primary) {
      case 'en': return isHalf ? `half ${article} ${name}` : `${top === 1 ? startsWithVowel(bottom) ? 'an' : 'a' : word(top, grammar)} ${fractionSaid(top, bottom, grammar).replace(/^\S+ /u, '')} of ${article} ${name}`
      case 'de': return isHalf ? /e$/u.test(name) ? `eine halbe ${name}` : `ein halber ${name}`.replace(/halber (?=Kilo$|Pfund|Gramm|Kilogramm)/u, 'halbes ') : `${fractionSaid(top, bottom, grammar)} ${name}`
      case 'fr': return isHalf ? `${/^(?:heure|livre|tonne|journée|cuillère|tasse|douzaine)/u.test(name) ? 'une' : 'un'} demi-${name}` : `${fractionSaid(top, bottom, grammar)} ${/^[aeiouéh]/u.test(name) ? 'd’' : 'de '}${name}`
      default: return isHalf ? `${/a$/u.test(name) ? 'media' : 'medio'} ${name}` : `${fractionSaid(top, bottom, grammar)} de ${name}`
    }
  },
}

/** A sum of money with a fraction: $3½ million. */
const sum: Form = {
  needs: /[£€$]/u,
  pattern: ({ words }) => `(?<![\\p{L}\\p{N}])(?<code>[£€$])(?:${whole})?${written}(?:[ \\u00a0](?<large>${oneOf(Object.keys(words.magnitudes).filter(name => name.length > 3))})(?!\\p{L}))?(?![\\p{L}\\p{N}])`,
  say: found => {
    const { group, grammar } = found
    const [fraction, names] = [parts(found), grammar.words.currencies[group('code')]]
    if (fraction === null || names === undefined || group('whole') === '' && group('large') === '') return null
    const number = group('whole') === '' ? fractionSaid(...fraction, grammar) : mixedSaid(group('whole'), fraction, grammar)
    return `${number} ${group('large') === '' ? '' : `${grammar.words.magnitudes[group('large')]!} `}${names.unit[1]}`
  },
}

/** The dash between two numbers of which one has a part: ¼–½ cup, 1–1½ hours. */
const between: Form = {
  needs: part,
  pattern: () => `(?<=\\d|[${signs}])(?:[–-](?=\\d{0,3}[${signs}])|(?<=[${signs}])[–-](?=\\d)|–(?=(?:\\d{1,3} )?\\d/\\d)|(?<=\\d/\\d)–(?=\\d))`,
  say: ({ grammar }) => ` ${grammar.words.to} `,
}

const simple: Form = {
  needs: part,
  pattern: () => `${alone}${written}${ends}`,
  say: found => {
    const fraction = parts(found)
    // Half an hour, half of it.
    if (fraction !== null && fraction[0] === 1 && fraction[1] === 2 && found.grammar.primary === 'en' && /^ (?:an?|the|of|its|his|her|their|my|our|your)\b/u.test(found.after)) return 'half'
    if (fraction !== null && found.grammar.primary === 'es' && /^ partes?(?!\p{L})/u.test(found.after)) return fractionSaid(...fraction, found.grammar).replace(/o(?=s?$)/u, 'a')
    if (fraction !== null) return fractionSaid(...fraction, found.grammar)
    // As likely a day: its figures only.
    const [top, bottom] = [found.group('top'), found.group('bottom')]
    return Number(top) < Number(bottom) && Number(top) > 0 && Number(bottom) <= 31 ? `${word(top, found.grammar)} ${word(bottom, found.grammar)}` : null
  },
  isWeak: found => parts(found) === null,
}

export const fractions = expansion([sum, mixedOf, side, mixed, ofUnit, simple, between], { needs: /[\d½⅓-⅞¼¾⅐⅑⅒]/u })
