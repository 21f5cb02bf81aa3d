import { begins, expansion, gap, oneOf, type Form, type Grammar, type Piece } from './form'
import { word } from './say'
import { unitNames } from '../../../language/unit-names'

const low = '₀-₉'
const high = '⁰¹²³⁴-⁹'
const subscripts = '₀₁₂₃₄₅₆₇₈₉'
const superscripts = '⁰¹²³⁴⁵⁶⁷⁸⁹'

/** Raised and lowered figures as plain ones; signs as words would have them. */
const plain = (text: string): string => [...text].map(each => subscripts.includes(each) ? String(subscripts.indexOf(each)) : superscripts.includes(each) ? String(superscripts.indexOf(each)) : each).join('').replace(/[⁻₋]/gu, '-').replace(/[⁺₊]/gu, '+')

/** Symbols of the elements (IUPAC) that compounds are written with in running text. */
const element = 'H|He|Li|Be|B|C|N|O|F|Ne|Na|Mg|Al|Si|P|S|Cl|Ar|K|Ca|Ti|Cr|Mn|Fe|Co|Ni|Cu|Zn|As|Se|Br|Sr|Ag|Sn|I|Xe|Ba|Pt|Au|Hg|Pb|Bi|U'

const formulaPieces = new RegExp(`(?<letters>\\p{L}+)|(?<figures>[${low}\\d]+)|(?<charge>[${high}]*[⁺⁻])|(?<open>[()])`, 'gu')

/** Letters one by one, figures as numbers. */
function formulaSaid(text: string, grammar: Grammar): Piece[] {
  return [...text.matchAll(formulaPieces)].map(({ 0: written, groups = {} }): Piece => {
    if (groups['letters'] !== undefined) return { written, letters: true }
    if (groups['open'] !== undefined) return { written, spoken: ' ' }
    const bare = plain(written)
    const charge = { '+': grammar.words.symbols['+']!, '-': grammar.numbers.minus }[bare.at(-1)!]
    return { written, spoken: charge === undefined ? word(bare, grammar) : `${bare.length > 1 ? `${word(bare.slice(0, -1), grammar)} ` : ''}${charge}` }
  })
}

/** With lowered figures: C₆H₁₂O₆. */
const compound: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}-])(?:\\(?(?:${element})[${low}]*\\)?)+[${low}](?:\\)?(?:${element})?[${low}]*)*[${high}]*[⁺⁻]?(?![\\p{L}\\p{N}])`,
  say: ({ whole, grammar }) => formulaSaid(whole, grammar),
}

/** With plain figures behind at least two elements: CO2. */
const plainCompound: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}-])(?=[A-Z][A-Za-z]*\\d)(?:(?:H|C|N|O|S|P|F|Cl|Na|K|Ca|Mg|Fe|Cu|Si|Al)(?:[1-9]\\d?)?){2,8}[⁺⁻]?(?![\\p{L}\\p{N}-])`,
  say: ({ whole, grammar }) => /^(?:[A-Z][a-z]?){1,2}\d{2}$/u.test(whole) ? null : formulaSaid(whole, grammar),
}

/** Ions without figures below: Ca²⁺, Na⁺. */
const ion: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}-])(?:${element})[${high}]?[⁺⁻](?![\\p{L}\\p{N}])`,
  say: ({ whole, grammar }) => formulaSaid(whole, grammar),
}

/** What an exponent says: squared, cubed, to the power of six. */
function raised(exponent: string, grammar: Grammar, isTen: boolean): string {
  const { words, numbers, primary } = grammar
  const value = plain(exponent)
  if (!isTen && value === '2') return words.squared
  if (!isTen && value === '3') return words.cubed
  const minus = value.startsWith('-')
  const figures = value.replace(/^[+-]/u, '')
  if (/^[a-z]$/u.test(figures)) return primary === 'en' ? `to the ${figures}th` : `${words.power} ${figures}`
  return `${words.power} ${minus ? `${numbers.minus} ` : ''}${word(figures, grammar)}`
}

/** Powers of numbers: 10⁶, 10^6, 2ⁿ. */
const power: Form = {
  pattern: ({ number, units }) => `${begins}(?<base>${number})(?:(?<exponent>[⁻⁺]?[${high}]+|ⁿ)|\\^(?<caret>[-−]?\\d{1,4}|n)|\\^\\{(?<braced>[-−]?\\d{1,4})\\})(?:${gap}(?<unit>${oneOf(units)})(?![\\p{L}\\p{N}²³/]))?(?![\\p{N}])`,
  say: ({ group, grammar }) => `${word(group('base').replace(/\D/gu, ''), grammar)} ${raised((group('exponent') || group('caret') || group('braced')).replace('ⁿ', 'n').replace('−', '-'), grammar, group('base') === '10')}${group('unit') === '' ? '' : ` ${unitNames(group('unit'), grammar)?.[1] ?? group('unit')}`}`,
}

/** Letters with an exponent: mc², x³, πr². Words keep what is set high behind them: it is the mark of a note. */
const letters: Form = {
  pattern: () => `(?<!\\p{L})(?<letters>\\p{L}|[b-df-hj-np-tv-xz]{2,3}|\\p{Script=Greek}\\p{Ll})(?:(?<exponent>⁻?[${high}]+)|\\^(?<caret>-?\\d{1,3}|n))(?![\\p{L}\\p{N}])`,
  say: ({ group, whole, grammar }) => [{ written: group('letters'), letters: true }, { written: whole.slice(group('letters').length), spoken: raised(group('exponent') || group('caret'), grammar, false) }],
}

/** A bracket with an exponent: (a + b)². */
const bracket: Form = {
  pattern: () => `(?<=[+−=×÷*/-][^()]{0,40}\\))(?<exponent>[${high}]+)(?![\\p{L}\\p{N}])`,
  say: ({ whole, grammar }) => ` ${raised(whole, grammar, false)}`,
}

/** Letters with a lowered figure: x₁, vₙ. */
const indexed: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}])(?<letter>\\p{L})(?<index>[${low}]+)(?![\\p{L}\\p{N}])`,
  say: ({ group, grammar }) => [{ written: group('letter'), letters: true }, { written: group('index'), spoken: word(plain(group('index')), grammar) }],
}

/** Isotopes: ¹⁴C is carbon fourteen; here its letter and number. */
const isotope: Form = {
  pattern: () => `(?<![\\p{L}\\p{N}.,;:!?”)])(?<mass>[${high}]{1,3})(?<element>${element})(?![\\p{L}\\p{N}])`,
  say: ({ group, grammar }) => [{ written: group('mass'), spoken: word(plain(group('mass')), grammar) }, { written: group('element'), letters: true }],
}

export const formulas = expansion([compound, plainCompound, ion, power, letters, indexed, isotope, bracket], { needs: /[₀-₉⁰¹²³⁴-⁹⁺⁻ⁿ^]|[A-Z][a-z]?\d/u })

/** Whether raised figures behind a text are an exponent, and no mark of a note. */
export function endsInBase(text: string): boolean {
  return /(?<!\p{L})(?:\p{L}|[b-df-hj-np-tv-xz]{2,3}|\p{Script=Greek}\p{Ll})$|(?<!\p{L})[cdkmµμ]?m$|[+−=×÷*/][^()]{0,40}\)$|\d$/u.test(text)
}

