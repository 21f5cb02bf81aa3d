import { withoutTail } from '../../tail'
import { primaryLanguage } from '../../language/abbreviations'
import { numberWords } from '../../language/numbers'
import signNames from '../../language/sign-names.json' with { type: 'json' }
import { endsInBase } from './expansion/formulas'
import { each, type NoOptions, type RuleKind } from './rule-kind'
import { wordsFor } from '../../language/words'

const names = signNames.names as Readonly<Record<string, Readonly<Record<string, string>>>>

/** Pictographs with what modifies and joins them, flags, keycaps. Signs such as © are none unless they are asked to be. */
const picture = /(?:(?![©®™])\p{Extended_Pictographic}|[©®™]\ufe0f)(?:\ufe0f|\p{Emoji_Modifier}|\u200d\p{Extended_Pictographic})*|\p{Regional_Indicator}\p{Regional_Indicator}|[\d#*]\ufe0f?\u20e3/u
const pictures = new RegExp(`(?<before>[ \\u00a0]?)(?<run>(?:${picture.source})(?:[ \\u00a0]?(?:${picture.source}))*)`, 'gu')
const onePicture = new RegExp(picture.source, 'gu')

/** Its name for a narrator (Unicode CLDR), without skin and hair; null where there is none. */
function nameOf(sign: string, language: string): string | null {
  const own = names[primaryLanguage(language)] ?? names['en']!
  const found = [...sign].filter(each => own[each] !== undefined).map(each => own[each]!)
  return found.length === 0 ? null : found.join(', ')
}

export const emoji: RuleKind<{ readonly how: 'drop' | 'names' }> = {
  group: 'cleaning', options: { how: { enum: ['drop', 'names'] } }, required: ['how'], defaults: { how: 'drop' },
  finder: ({ how }) => each(pictures, ({ groups, index, 0: whole }, { language, text }) => {
    const said = how === 'drop' ? [] : [...groups!['run']!.matchAll(onePicture)].flatMap(([sign]) => nameOf(sign, language) ?? [])
    if (said.length > 0) return { spoken: `${groups!['before']!}${said.join(', ')}` }
    // The space before it goes with it where another one, or the end of a sentence, follows.
    return { spoken: /^(?:[ \u00a0.,;:!?)\]”’"]|$)/u.test(text.slice(index + whole.length, index + whole.length + 8)) ? '' : groups!['before']! }
  }, /[©®\u203c-\u3299\ufe0f\u{1f000}-\u{1faff}]/u),
}

const addressPattern = /(?<![\p{L}\p{N}@])(?:(?<scheme>https?:\/\/|ftp:\/\/)(?<host>[\p{L}\p{N}.-]+)(?<path>(?::\d+)?(?:[/?#][^\s<>"“”]*)?)|(?<www>www\.[\p{L}\p{N}-]+(?:\.[\p{L}\p{N}-]+)+)(?<wwwPath>(?:[/?#][^\s<>"“”]*)?)|(?<![._%+-])(?<user>[\p{L}\p{N}._%+-]+)@(?<domain>[\p{L}\p{N}-]+(?:\.[\p{L}\p{N}-]+)+)|(?<![.-])(?<bare>(?:[\p{L}\p{N}-]+\.)+\p{L}{2,}(?=\/))(?<barePath>\/[^\s<>"“”]*))/gu

export const addresses: RuleKind<{ readonly how: 'drop' | 'domain' | 'read' }> = {
  group: 'cleaning', options: { how: { enum: ['drop', 'domain', 'read'] } }, required: ['how'], defaults: { how: 'domain' },
  finder: ({ how }) => {
    const find = each(addressPattern, ({ groups = {} }, { language }) => {
      const host = groups['host'] ?? groups['www'] ?? groups['domain'] ?? groups['bare'] ?? ''
      if (how === 'drop') return { spoken: '' }
      if (how === 'domain') return { spoken: spelled(host.replace(/^www\./u, ''), language) }
      const path = groups['path'] ?? groups['wwwPath'] ?? groups['barePath'] ?? ''
      return { spoken: spelled(groups['user'] === undefined ? `${host}${path}` : `${groups['user']}@${host}`, language) }
    }, /[@/]|www\./u)
    return own => find(own).map(hit => {
      // What ends the sentence is no part of the address.
      const whole = own.text.slice(hit.start, hit.end)
      const tail = whole.slice(withoutTail(whole, /[.,;:!?)\]’']/u).length)
      // Brackets around it are none of its signs: <https://example.org>.
      if (own.text[hit.start - 1] === '<' && own.text[hit.end] === '>') return { ...hit, start: hit.start - 1, end: hit.end + 1 }
      if (tail === '') return hit
      const address = own.text.slice(hit.start, hit.end - tail.length)
      return { ...hit, end: hit.end - tail.length, ...(how === 'read' ? { spoken: spelled(address.replace(/^\w+:\/\//u, ''), own.language) } : {}) }
    })
  },
}

/** An address with its signs as words and its figures one by one. */
function spelled(text: string, language: string): string {
  const words = wordsFor(language)
  const numbers = numberWords(language)
  const signs: Readonly<Record<string, string>> = { '.': words.dot, '/': words.slash, '@': words.at, '-': words.hyphen, '_': words.underscore, ':': words.colon }
  return text.replace(/\/$/u, '').replace(/[./@_:-]|\d|[^\p{L}\p{M}\s]/gu, sign => ` ${signs[sign] ?? (/\d/u.test(sign) ? numbers?.cardinal(sign) : undefined) ?? ''} `).replace(/\s+/gu, ' ').trim()
}

const drop = (pattern: RegExp, needs: RegExp, spoken: (match: RegExpMatchArray) => string = () => ''): RuleKind<NoOptions> => ({
  group: 'cleaning', options: {}, required: [], defaults: {}, finder: () => each(pattern, match => ({ spoken: spoken(match) }), needs),
})

export const citations = drop(/[ \u00a0]?\[\d{1,4}(?:\s*[,;–-]\s*\d{1,4})*\]/gu, /\[\d/u)
/** Figures set high behind a word, and asterisks and daggers; not exponents (m², mc², x³) nor what a formula has (Ca²⁺). */
export const footnoteMarks: RuleKind<NoOptions> = {
  group: 'cleaning', options: {}, required: [], defaults: {},
  finder: () => each(/(?<=[\p{L}\p{P}])[¹²³⁰⁴-⁹]+(?![⁺⁻])|(?<=[\p{L}\p{N}.,;:!?”"’)])(?:\*{1,3}|[†‡]+)(?=[\s.,;:!?]|$)/gu, ({ 0: mark, index }, { text }) =>
    /[*†‡]/u.test(mark) || !endsInBase(text.slice(Math.max(0, index - 50), index)) ? { spoken: '' } : null, /[¹²³⁰⁴-⁹*†‡]/u),
}
export const repeatedPunctuation = drop(/[!?]{2,}|\.{4,}|(?<!\d),{2,}|-{2,}(?!>)|[—–]{2,}|([*_=~#])\1{2,}/gu, /([!?.,*_=~#—–-])[!?.,*_=~#—–-]/u, ([text]) =>
  /[!?]/u.test(text) ? text.includes('?') ? '?' : '!' : text.startsWith('.') ? '…' : text.startsWith(',') ? ',' : /^[-—–]/u.test(text) ? '—' : '')
/** Soft hyphens are never spoken, with the rule and without. */
export const ligatures = drop(/[\ufb00-\ufb06]/gu, /[\ufb00-\ufb06]/u, ([text]) => text.normalize('NFKC'))
/** With the spaces that French sets within them. */
export const quotes = drop(/[«‹][ \u00a0\u202f]|[ \u00a0\u202f][»›]|[“”„«»‹›"]/gu, /[“”„«»‹›"]/u)
