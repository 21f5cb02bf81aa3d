import { headElements, ssmlElements, ssmlNamespace, type ElementRule } from './elements'
import { scriptNamespace, scriptPrefix } from './vocabulary'
import { afterProlog } from '../xml-prolog'
import { attributeOffset, LineMap, ownAttributes, parseXmlTree, type SsmlElement, type SsmlProblem } from './tree'

export type { SsmlProblem } from './tree'

export interface CheckedSsml {
  /** Null when it is not well formed, or its root is not `speak`. */
  readonly root: SsmlElement | null
  /** In the order of their places; offsets are those of the source as it was given. */
  readonly problems: readonly SsmlProblem[]
  /** The source that the tree's places are in: longer than the given one when a fragment was completed. */
  readonly source: string
}

/** A problem with its place, both from 1. */
export interface PlacedProblem {
  readonly line: number
  readonly column: number
  readonly severity: SsmlProblem['severity']
  readonly code: string
  readonly message: string
}

export interface CheckOptions {
  /** Text that does not begin with `speak` is completed with one of this language (BCP 47). */
  readonly fragmentLanguage?: string
}

/** Whether a source has a root of its own, `speak` or another; a fragment may begin with an element all the same. */
export function isDocument(source: string): boolean {
  const at = afterProlog(source)
  return /^<(?:[\w.-]{1,100}:)?speak[\s/>]/u.test(source.slice(at, at + 120))
}

/** Checks SSML against version 1.1 of the Recommendation. */
export function checkSsml(given: string, { fragmentLanguage }: CheckOptions = {}): CheckedSsml {
  const bare = given.replace(/^\ufeff/u, '')
  const byteOrderMark = given.length - bare.length
  const isFragment = fragmentLanguage !== undefined && !isDocument(bare)
  const head = isFragment ? `<speak version="1.1" xmlns="${ssmlNamespace}" xmlns:${scriptPrefix}="${scriptNamespace}" xml:lang="${fragmentLanguage}">` : ''
  const source = isFragment ? `${head}${bare}</speak>` : bare
  const { root, problems: syntax } = parseXmlTree(source)
  const problems = [...syntax]
  const isSpeak = root?.name === 'speak' && (root.namespace === ssmlNamespace || root.namespace === '')
  if (root !== null && !isSpeak) {
    problems.push({
      severity: 'error', code: 'ssml-root', offset: root.start,
      message: root.name === 'speak'
        ? `The root <${root.writtenName}> is in another namespace. Write xmlns="${ssmlNamespace}".`
        : `The root element is <${root.writtenName}>; in SSML it is <speak>. Put everything into one <speak> element.`,
    })
  }
  if (isSpeak) new Checker(source, problems).check(root)
  const moved = problems.map(problem => ({ ...problem, offset: Math.max(0, Math.min(bare.length, problem.offset - head.length)) + byteOrderMark }))
  return { root: isSpeak ? root : null, problems: moved.sort((a, b) => a.offset - b.offset), source }
}

/** Problems with lines and columns instead of offsets. */
export function placed(source: string, problems: readonly SsmlProblem[]): PlacedProblem[] {
  const lines = new LineMap(source.replace(/^\ufeff/u, ''))
  const byteOrderMark = source.startsWith('\ufeff') ? 1 : 0
  return problems.map(({ offset, severity, code, message }) => ({ ...lines.place(offset - byteOrderMark), severity, code, message }))
}

class Checker {
  readonly #ids = new Set<string>()
  readonly #lexicons = new Set<string>()
  readonly #marks = new Set<string>()
  #namespace = ''

  constructor(readonly source: string, readonly problems: SsmlProblem[]) {}

  #say(severity: SsmlProblem['severity'], code: string, message: string, offset: number): void {
    this.problems.push({ severity, code, message, offset })
  }

  check(root: SsmlElement): void {
    this.#namespace = root.namespace
    if (root.namespace === '') {
      this.#say('warning', 'ssml-namespace', `<speak> names no namespace; it is taken for SSML. Write xmlns="${ssmlNamespace}".`, root.start)
    }
    this.#attributes(root, ssmlElements['speak']!)
    this.#children(root, ssmlElements['speak']!)
    for (const name of ['startmark', 'endmark']) {
      const asked = root.attributes.find(attribute => attribute.writtenName === name)
      if (asked !== undefined && asked.value.trim() !== '' && !this.#marks.has(asked.value)) {
        this.#say('error', 'ssml-value', `No <mark> has the name “${asked.value}”, which ${name} asks for. Correct it, or add the mark.`, attributeOffset(this.source, root, name))
      }
    }
  }

  #children(element: SsmlElement, rule: ElementRule): void {
    let body = false
    for (const child of element.children) {
      if (child.type === 'text') {
        if (!/[^ \t\r\n]/u.test(child.text)) continue
        body = true
        if (!rule.text) this.#say('error', 'ssml-text-misplaced', `<${element.name}> is empty in SSML. Move the text behind it.`, child.start)
      } else if (child.type === 'element') {
        const isHead = headElements.has(child.name) && child.namespace === this.#namespace
        if (element.name === 'speak' && isHead && body) {
          this.#say('error', 'ssml-element-misplaced', `<${child.name}> comes before all text and all other elements. Move it up to the beginning.`, child.start)
        }
        body ||= !isHead
        this.#element(child, element, rule)
      }
    }
  }

  #element(element: SsmlElement, parent: SsmlElement, parentRule: ElementRule): void {
    if (element.namespace !== this.#namespace) {
      if (element.namespace !== scriptNamespace) {
        this.#say('warning', 'ssml-foreign', `<${element.writtenName}> is not SSML. It is kept, and says nothing to the voice.`, element.start)
      }
      // What is in it is checked as if it were not there (SSML 1.1, 2.2.3).
      this.#children(element, parentRule)
      return
    }
    const rule = Object.hasOwn(ssmlElements, element.name) ? ssmlElements[element.name] : undefined
    if (rule === undefined || element.name === 'speak') {
      this.#say('error', rule === undefined ? 'ssml-element-unknown' : 'ssml-element-misplaced', rule === undefined
        ? `There is no element <${element.name}> in SSML 1.1.${hint(element.name)}`
        : '<speak> stands only at the root. Take this one out, and keep what is in it.', element.start)
      this.#children(element, parentRule)
      return
    }
    if (!parentRule.children.has(element.name)) {
      const allowed = [...parentRule.children]
      this.#say('error', 'ssml-element-misplaced', `<${element.name}> cannot stand in <${parent.name}>: ${allowed.length === 0
        ? parentRule.text ? 'only text can. Move it out, or around it.' : 'it is empty. Move it behind it.'
        : `what can is ${allowed.join(', ')}${parentRule.text ? ' and text' : ''}. Move it out of it.`}`, element.start)
    }
    this.#attributes(element, rule)
    if (rule.anything !== true) this.#children(element, rule)
  }

  #attributes(element: SsmlElement, rule: ElementRule): void {
    const own = ownAttributes(element)
    for (const { name, writtenName, value } of own) {
      const legal = Object.hasOwn(rule.attributes, name) ? rule.attributes[name] : undefined
      const offset = (): number => attributeOffset(this.source, element, writtenName)
      if (legal === undefined) {
        const names = Object.keys(rule.attributes)
        this.#say('error', 'ssml-attribute-unknown', `<${element.name}> has no attribute ${writtenName} in SSML 1.1; ${names.length === 0 ? 'it has none' : `it has ${names.join(', ')}`}.`
          + `${element.name === 'voice' && name === 'xml:lang' ? ' Write languages instead.' : ''}`, offset())
      } else if (!legal.accepts(value)) {
        this.#say('error', 'ssml-value', `“${value}” is no ${name} of <${element.name}>. It is ${legal.legal}.${valueHint(element.name, name, value)}`, offset())
      } else if (name === 'version' && value === '1.0') {
        this.#say('warning', 'ssml-version', 'This is SSML 1.0; it is checked against 1.1. Write version="1.1".', offset())
      } else if (name === 'xml:id') {
        if (this.#ids.has(value)) this.#say('error', 'ssml-id', `The id “${value}” is there twice. Choose another.`, offset())
        this.#ids.add(value)
        if (element.name === 'lexicon') this.#lexicons.add(value)
      } else if (name === 'ref' && element.name === 'lookup' && !this.#lexicons.has(value)) {
        this.#say('error', 'ssml-value', `No <lexicon> before it has the xml:id “${value}”. Correct it, or add the lexicon at the beginning.`, offset())
      }
    }
    if (element.name === 'mark') for (const { name, value } of own) if (name === 'name') this.#marks.add(value)
    const has = (name: string): boolean => own.some(attribute => attribute.name === name)
    for (const [name, { required, legal }] of Object.entries(rule.attributes)) {
      if (required === true && !has(name)) {
        this.#say('error', name === 'xml:lang' && element.name === 'speak' ? 'ssml-language-missing' : 'ssml-attribute-missing', name === 'xml:lang'
          ? `<${element.name}> does not say its language. Write xml:lang, such as xml:lang="en-GB".`
          : `<${element.name}> needs the attribute ${name}: ${legal}.`, element.start)
      }
    }
    if (element.name === 'prosody' && !own.some(attribute => Object.hasOwn(rule.attributes, attribute.name))) {
      this.#say('error', 'ssml-attribute-missing', `<prosody> says nothing: give it one at least of ${Object.keys(rule.attributes).join(', ')}.`, element.start)
    }
    if (element.name === 'meta' && has('name') === has('http-equiv')) {
      this.#say('error', 'ssml-attribute-missing', '<meta> has either name or http-equiv, one of the two.', element.start)
    }
    if (element.name === 'audio' && !has('src') && !element.children.some(child => child.type !== 'aside')) {
      this.#say('warning', 'ssml-silent', '<audio> has neither src nor anything in it: nothing will be heard. Give it a src.', element.start)
    }
  }
}

const otherNames: Readonly<Record<string, string>> = { paragraph: 'p', sentence: 's', word: 'w', pause: 'break', substitute: 'sub', language: 'lang', bookmark: 'mark' }

function hint(name: string): string {
  const meant = Object.hasOwn(otherNames, name.toLowerCase()) ? otherNames[name.toLowerCase()] : Object.hasOwn(ssmlElements, name.toLowerCase()) ? name.toLowerCase() : undefined
  return meant === undefined ? ' Take its tags out, or give it a namespace of its own.' : ` Write <${meant}>.`
}

function valueHint(element: string, name: string, value: string): string {
  const signed = /^([+-])(\d+(?:\.\d+)?)%$/u.exec(value)
  if (element === 'prosody' && name === 'rate' && signed !== null) return ` For ${value} write ${Math.max(0, 100 + Number(signed[1]! + signed[2]!))}%.`
  if (element === 'break' && name === 'time' && /^\d+(\.\d+)?$/u.test(value)) return ` Write ${value}ms.`
  return ''
}
