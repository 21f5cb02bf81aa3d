import { emphasisLevels, restStrengths } from '../directions'
import { isAlphabet, isContour, isLanguage, pitchNames, pitchOf, rangeNames, rateFactor, rateNames, timeMs, volumeDb, volumeNames } from './values'

// The elements and attributes of SSML 1.1 (W3C Recommendation, 7 September 2010), section 3, as data. Written from memory
// of the Recommendation; the section is named beside each element.

export const ssmlNamespace = 'http://www.w3.org/2001/10/synthesis'

export interface AttributeRule {
  readonly required?: boolean
  /** Says what is legal, for the message. */
  readonly legal: string
  readonly accepts: (value: string) => boolean
}

export interface ElementRule {
  /** Elements that may stand in it. */
  readonly children: ReadonlySet<string>
  readonly text: boolean
  /** Anything at all may stand in it. */
  readonly anything?: boolean
  readonly attributes: Readonly<Record<string, AttributeRule>>
}

const one = (...values: readonly string[]): AttributeRule => ({ legal: values.map(value => value === '' ? 'nothing' : value).join(', '), accepts: value => values.includes(value) })
const required = (rule: AttributeRule): AttributeRule => ({ ...rule, required: true })
const anyText: AttributeRule = { legal: 'text', accepts: () => true }
const someText: AttributeRule = { legal: 'text that is not empty', accepts: value => value.trim() !== '' }
const address: AttributeRule = { legal: 'an address', accepts: value => !/[\s<>"{}|\\^`]/u.test(value.trim()) }
const name: AttributeRule = { legal: 'a name: letters, figures, . - and _, not beginning with a figure', accepts: value => /^[\p{L}_][\p{L}\p{N}\p{M}._-]*$/u.test(value) }
const language: AttributeRule = { legal: 'a language tag such as en-GB', accepts: isLanguage }
const time: AttributeRule = { legal: 'a time such as 400ms or 1.5s', accepts: value => timeMs(value) !== null }
const whole: AttributeRule = { legal: 'a whole number from 0', accepts: value => /^\+?\d+$/u.test(value) }
const onlangfailure = one('changevoice', 'ignoretext', 'ignorelang', 'processorchoice')
const voiceFeatures = ['languages', 'age', 'gender', 'variant', 'name']
const features: AttributeRule = {
  legal: `nothing, or each at most once of ${voiceFeatures.join(', ')}`,
  accepts: value => {
    const words = value.trim() === '' ? [] : value.trim().split(/\s+/u)
    return words.every(word => voiceFeatures.includes(word)) && new Set(words).size === words.length
  },
}
const alphabet: AttributeRule = { legal: 'ipa, or the name of somebody’s own alphabet, which begins with x-', accepts: isAlphabet }
const caching = { fetchtimeout: time, maxage: whole, maxstale: whole }

const inToken = ['audio', 'break', 'emphasis', 'mark', 'phoneme', 'prosody', 'say-as', 'sub']
const inline = [...inToken, 'lang', 'lookup', 'token', 'voice', 'w']
const flow = [...inline, 'p', 's']

const holds = (children: readonly string[], attributes: ElementRule['attributes']): ElementRule => ({ children: new Set(children), text: true, attributes })
const textOnly = (attributes: ElementRule['attributes']): ElementRule => holds([], attributes)
const empty = (attributes: ElementRule['attributes']): ElementRule => ({ children: new Set(), text: false, attributes })
const token = holds(inToken, { 'xml:id': name, 'xml:lang': language, onlangfailure, 'role': someText })

export const ssmlElements: Readonly<Record<string, ElementRule>> = {
  // 3.1.1
  'speak': holds([...flow, 'lexicon', 'meta', 'metadata'], {
    'version': required(one('1.1', '1.0')), 'xml:lang': required(language), 'xml:base': address, onlangfailure, 'startmark': someText, 'endmark': someText,
  }),
  // 3.1.5.1
  'lexicon': empty({ 'uri': required(address), 'xml:id': required(name), 'type': someText, ...caching }),
  // 3.1.5.2
  'lookup': holds(flow, { ref: required(name) }),
  // 3.1.6
  'meta': empty({ 'name': someText, 'http-equiv': someText, 'content': required(anyText) }),
  // 3.1.7
  'metadata': { children: new Set(), text: true, anything: true, attributes: {} },
  // 3.1.8.1
  'p': holds([...inline, 's'], { 'xml:id': name, 'xml:lang': language, onlangfailure }),
  's': holds(inline, { 'xml:id': name, 'xml:lang': language, onlangfailure }),
  // 3.1.8.2
  token,
  'w': token,
  // 3.1.9
  'say-as': textOnly({ 'interpret-as': required(someText), 'format': anyText, 'detail': anyText }),
  // 3.1.10
  'phoneme': textOnly({ ph: required(someText), alphabet, type: one('default', 'ruby') }),
  // 3.1.11
  'sub': textOnly({ alias: required(anyText) }),
  // 3.1.12
  'lang': holds(flow, { 'xml:lang': required(language), onlangfailure }),
  // 3.2.1
  'voice': holds(flow, {
    gender: one('male', 'female', 'neutral', ''), age: { legal: 'a whole number from 0, or nothing', accepts: value => value === '' || whole.accepts(value) },
    variant: { legal: 'a whole number from 1, or nothing', accepts: value => value === '' || /^\+?0*[1-9]\d*$/u.test(value) },
    name: anyText,
    languages: { legal: 'language tags with spaces between them, each with an accent after a colon if need be, such as en:fr de', accepts: value => value.trim() === '' || value.trim().split(/\s+/u).every(each => each.split(':').length <= 2 && each.split(':').every(tag => tag !== '' && isLanguage(tag))) },
    required: features, ordering: features, onvoicefailure: one('priorityselect', 'keepexisting', 'processorchoice'),
  }),
  // 3.2.2
  'emphasis': holds(inline, { level: one(...emphasisLevels) }),
  // 3.2.3
  'break': empty({ strength: one(...restStrengths), time }),
  // 3.2.4
  'prosody': holds(flow, {
    pitch: { legal: `a number of Hz, a signed change in %, st or Hz, or ${pitchNames.join(', ')}`, accepts: value => pitchOf(value) !== null },
    contour: { legal: 'pairs such as (0%,+20Hz) (50%,-10%)', accepts: isContour },
    range: { legal: `a number of Hz, a signed change in %, st or Hz, or ${rangeNames.join(', ')}`, accepts: value => pitchOf(value) !== null },
    rate: { legal: `a percentage without a sign such as 80%, or ${rateNames.join(', ')}`, accepts: value => rateFactor(value) !== null },
    duration: time,
    volume: { legal: `a signed number of dB such as -6dB, or ${volumeNames.join(', ')}`, accepts: value => volumeDb(value) !== null },
  }),
  // 3.3.1
  'audio': holds([...flow, 'desc'], {
    src: address, ...caching, fetchhint: one('prefetch', 'safe'), clipBegin: time, clipEnd: time,
    repeatCount: { legal: 'a number above 0', accepts: value => /^\+?(\d+(?:\.\d*)?|\.\d+)$/u.test(value) && Number(value) > 0 },
    repeatDur: time,
    soundLevel: { legal: 'a signed number of dB such as -6dB', accepts: value => /^[+-](\d+(?:\.\d*)?|\.\d+)dB$/u.test(value) },
    speed: { legal: 'a percentage above 0 such as 90%', accepts: value => /^(\d+(?:\.\d*)?|\.\d+)%$/u.test(value) && Number.parseFloat(value) > 0 },
  }),
  // 3.3.2
  'mark': empty({ name: required(someText) }),
  // 3.3.3
  'desc': textOnly({ 'xml:lang': language }),
}

/** Elements that come before all others in `speak` (3.1.5–3.1.7). */
export const headElements: ReadonlySet<string> = new Set(['lexicon', 'meta', 'metadata'])
