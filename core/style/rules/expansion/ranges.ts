import { dash, expansion, type Form } from './form'
import { valueOf } from './say'

/** The sign between two numbers that belong together; sums of money are said as wholes, by their own rule. */
const between: Form = {
  pattern: ({ number }) => `${dash}(?<=(?<![\\p{L}\\p{N}.,/–-])(?<low>[-−]?${number})(?: ?(?:%|°[CF]?|[€]|k?m|k?g|[cm]m|ml|l|kB|MB|GB|ft|lbs?|oz|h|min))? ?[–—-] ?)(?<![£€$][\\d.,]{1,15}(?: ?\\p{L}{1,8})? ?[–—-] ?)(?=(?<high>[-−]?${number})(?![\\p{N}–-]|[.,:/]\\d))`,
  say: ({ group, whole, after, grammar }) => {
    const [first, second] = [group('low'), group('high')]
    // Two sums with their parts are said as wholes: 2,50–3,50 €.
    if (/,\d\d$/u.test(first) && /^\d[\d.]*,\d\d[ \u00a0\u202f]?(?:[€£$]|EUR|Euro|CHF)/u.test(after)) return null
    const [low, high] = [valueOf(first, grammar), valueOf(second, grammar)]
    // 1914–18 is a range as well. With a hyphen only what grows is one: scores and parts of numbers are none.
    const grows = low < high || second.length < first.length && first.length === 4
    // Three and four figures with a hyphen are a telephone number more often.
    const isTelephone = whole.includes('-') && /^\d{3}$/u.test(first) && /^\d{4}$/u.test(second)
    return !whole.includes('-') || grows && !isTelephone && !/^0\d/u.test(first) ? ` ${grammar.words.to} ` : null
  },
  isWeak: ({ whole }) => whole.includes('-'),
}

export const ranges = expansion([between])
