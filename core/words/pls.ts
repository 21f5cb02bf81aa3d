import { isLanguageTag, notALanguage } from '../language/tag'
import { parseXmlTree, type SsmlElement } from '../script/ssml/tree'
import { isAlphabet } from '../script/ssml/values'
import { escapeText } from '../script/ssml/write'
import { conflictsIn } from './faults'
import { speaks } from './find-words'
import { strangeSign } from './ipa'
import { isPartOfSpeech, tellsPartsOfSpeech, type PartOfSpeech } from './part-of-speech'
import { respell } from './respelling'
import { partsOfRoles } from './roles'
import { emptyWordbook, readingOf, type Said, type WordEntry, type Wordbook } from './wordbook'

// W3C Pronunciation Lexicon Specification 1.0 (2008), read and written.

export const plsNamespace = 'http://www.w3.org/2005/01/pronunciation-lexicon'
/** What PLS has no place for: case, neighbours, notes. Attributes of `lexeme` that other programs pass over. */
export const wordbookNamespace = 'urn:orator-quill:wordbook:1'
const xmlNamespace = 'http://www.w3.org/XML/1998/namespace'
const xmlnsNamespace = 'http://www.w3.org/2000/xmlns/'

export interface WordbookProblem {
  readonly severity: 'error' | 'warning'
  readonly code: string
  readonly message: string
  /** From 1; the column counts characters. */
  readonly line: number
  readonly column: number
}

export interface ReadWordbook {
  readonly wordbook: Wordbook
  /** An error is a lexeme that was passed over, or a file that is none. */
  readonly problems: readonly WordbookProblem[]
  /** Where each entry stands in the file, from 1, in the order of the entries. */
  readonly lines: readonly number[]
}

/** Reads a lexicon. Entries are numbered in the order of the file. */
export function readPls(source: string): ReadWordbook {
  const problems: WordbookProblem[] = []
  const report = (severity: WordbookProblem['severity'], code: string, message: string, offset: number): void => {
    const before = source.slice(0, offset)
    const line = before.split('\n').length
    problems.push({ severity, code, message, line, column: [...before.slice(before.lastIndexOf('\n') + 1)].length + 1 })
  }
  const { root, problems: faults } = parseXmlTree(source)
  for (const { severity, code, message, offset } of faults) if (severity === 'error') report('error', code.replace(/^ssml/u, 'pls'), message, offset)
  if (root === null) return { wordbook: emptyWordbook, problems, lines: [] }
  if (root.name !== 'lexicon' || root.namespace !== plsNamespace) {
    report('error', 'pls-root', `The file begins with <${root.writtenName}>, a pronunciation lexicon with <lexicon xmlns="${plsNamespace}">.`, root.start)
    return { wordbook: emptyWordbook, problems, lines: [] }
  }
  const version = attribute(root, 'version')
  if (version !== '1.0') {
    report('error', 'pls-version', version === undefined ? 'The lexicon does not say its version. Give <lexicon> version="1.0".' : `This is a lexicon of version “${version}”; 1.0 is read. Save it as PLS 1.0.`, root.start)
    return { wordbook: emptyWordbook, problems, lines: [] }
  }
  const language = attribute(root, 'lang', xmlNamespace)
  const alphabet = attribute(root, 'alphabet')
  if (language === undefined) report('error', 'pls-language-missing', 'The lexicon does not say its language. Give <lexicon> an xml:lang.', root.start)
  if (alphabet === undefined) report('error', 'pls-alphabet-missing', 'The lexicon does not say its alphabet. Give <lexicon> an alphabet, such as ipa.', root.start)
  if (language !== undefined && !isLanguageTag(language)) report('error', 'pls-language-wrong', `In xml:lang: ${notALanguage(language)}`, root.start)
  const known = alphabet === undefined || isAlphabet(alphabet)
  if (!known) report('error', 'pls-alphabet-wrong', `${notAnAlphabet(alphabet)} Correct it.`, root.start)
  if (language === undefined || !isLanguageTag(language) || alphabet === undefined || !known) return { wordbook: emptyWordbook, problems, lines: [] }
  const entries: WordEntry[] = []
  const elements: string[] = []
  const lines: number[] = []
  const offsets: number[] = []
  let [line, counted] = [1, 0]
  for (const child of elementsOf(root)) {
    if (child.namespace === plsNamespace && child.name === 'lexeme') {
      const entry = lexeme(child, String(entries.length + 1))
      if (entry === null) continue
      line += source.slice(counted, child.start).split('\n').length - 1
      counted = child.start
      entries.push(entry)
      offsets.push(child.start)
      lines.push(line)
    } else {
      if (child.namespace === plsNamespace && !['meta', 'metadata'].includes(child.name)) report('warning', 'pls-element-unknown', `<${child.writtenName}> has no place here. It is kept, and does nothing.`, child.start)
      elements.push(source.slice(child.start, child.end))
    }
  }
  for (const { at, message } of conflictsOfRoles(entries, offsets)) report('warning', 'pls-role', message, at)
  const rests = kept(others(root, ['version', 'alphabet', 'xml:lang', 'xmlns']), elements)
  return { wordbook: { version: 1, entries, ...(rests === null ? {} : { kept: rests }) }, problems, lines }

  function lexeme(element: SsmlElement, id: string): WordEntry | null {
    const graphemes: string[] = []
    const said: WordEntry['said'][number][] = []
    const rest: string[] = []
    for (const child of elementsOf(element)) {
      const text = textOf(child).trim().replace(/\s+/gu, ' ')
      const written = attribute(child, 'alphabet') ?? alphabet!
      const prefer = attribute(child, 'prefer') === 'true' ? { prefer: true as const } : {}
      if (child.namespace !== plsNamespace) {
        rest.push(source.slice(child.start, child.end))
      } else if (child.name === 'grapheme' && text !== '') {
        graphemes.push(text)
      } else if (child.name === 'phoneme' && text !== '' && written.toLowerCase() === 'ipa') {
        const strange = strangeSign(text)
        if (strange !== null) report('warning', 'pls-ipa', `“${strange.sign}” in /${text}/ is no sign of IPA: a voice may not speak it. Correct it in the wordbook.`, child.start)
        said.push({ by: 'ipa', text, ...prefer })
      } else if (child.name === 'alias' && text !== '') {
        said.push({ by: 'alias', text, ...prefer })
      } else {
        if (child.name === 'phoneme' && !isAlphabet(written)) report('error', 'pls-alphabet-wrong', `${notAnAlphabet(written)} The pronunciation is kept and not used.`, child.start)
        else if (child.name === 'phoneme') report('warning', 'pls-alphabet', `The alphabet “${written}” is not understood; the pronunciation is kept and not used. Write it in IPA.`, child.start)
        else if (child.name !== 'example') report('warning', 'pls-element-unknown', `<${child.writtenName}> is empty or has no place in a lexeme. It is kept, and does nothing.`, child.start)
        rest.push(source.slice(child.start, child.end))
      }
    }
    if (graphemes.length === 0 || said.length === 0) {
      report('error', 'pls-lexeme', graphemes.length === 0 ? 'A lexeme has no written form. Give it a <grapheme>.' : `“${graphemes[0]}” has no pronunciation in IPA and no alias. The lexeme is passed over.`, element.start)
      return null
    }
    const own = (name: string): string | undefined => attribute(element, name, wordbookNamespace)
    const parts = partsOf(own('part-of-speech'), attribute(element, 'role'), language!)
    const respelling = own('respelling')
    const first: Said = own('said') === 'letters' ? { by: 'letters' } : respelling === undefined ? said[0]! : { by: 'respelling', text: respelling }
    const words = (name: string): string[] => (own(name) ?? '').split(' ').filter(word => word !== '')
    const [before, after] = [words('before'), words('after')]
    const rests = kept(others(element, []), rest)
    return {
      id, graphemes, language: language!, said: [{ ...first, ...(said[0]!.prefer === true ? { prefer: true } : {}) }, ...said.slice(1)],
      ...(own('match-case') === 'true' ? { matchCase: true } : {}), ...(own('part-of-word') === 'true' ? { partOfWord: true } : {}), ...(own('heard') === 'true' ? { heard: true } : {}),
      ...(before.length + after.length === 0 ? {} : { beside: { ...(before.length > 0 ? { before } : {}), ...(after.length > 0 ? { after } : {}) } }),
      ...(parts.length === 0 ? {} : { partsOfSpeech: parts }),
      ...(own('note') === undefined ? {} : { note: own('note')! }),
      ...(rests === null ? {} : { kept: rests }),
    }
  }
}

function notAnAlphabet(name: string): string {
  return `“${name}” is no name of an alphabet: it is ipa, or begins with x- for one of somebody’s own.`
}

/** The parts of speech that an entry is for: those that it names, or that its role means. None in a language in which they are not told apart. */
function partsOf(named: string | undefined, role: string | undefined, language: string): readonly PartOfSpeech[] {
  if (!tellsPartsOfSpeech(language)) return []
  return named === undefined ? partsOfRoles(role ?? '') : named.split(' ').filter(isPartOfSpeech)
}

/** Lexemes for one word whose roles do not tell them apart here. */
function conflictsOfRoles(entries: readonly WordEntry[], offsets: readonly number[]): { readonly at: number, readonly message: string }[] {
  const conflicts = conflictsIn(entries)
  return entries.flatMap((entry, index) => {
    const role = entry.kept?.attributes?.['role']
    if (role === undefined || !conflicts.has(entry.id)) return []
    const why = tellsPartsOfSpeech(entry.language) ? 'no part of speech that is known here' : `not told apart in “${entry.language}” here`
    return [{ at: offsets[index]!, message: `“${entry.graphemes[0]}” has several lexemes, and the role ${role} is ${why}: the first of them counts, but where SSML names the role. Give them neighbours in the wordbook, or take all but one out.` }]
  })
}

/** Whether the role that an entry came with says all about its parts of speech. */
function isOfRole({ kept: rests, partsOfSpeech = [] }: WordEntry): boolean {
  const role = rests?.attributes?.['role']
  return role !== undefined && partsOfRoles(role).join(' ') === partsOfSpeech.join(' ')
}

function attribute(element: SsmlElement, name: string, namespace = ''): string | undefined {
  return element.attributes.find(each => each.writtenName.replace(/^.*:/u, '') === name && each.namespace === namespace)?.value
}

/** Attributes that are neither ours nor among these, as they are written. */
function others(element: SsmlElement, without: readonly string[]): Record<string, string> {
  return Object.fromEntries(element.attributes.filter(each =>
    !without.includes(each.writtenName) && each.namespace !== wordbookNamespace && !(each.namespace === xmlnsNamespace && each.value === wordbookNamespace)).map(each => [each.writtenName, each.value]))
}

function kept(attributes: Readonly<Record<string, string>>, elements: readonly string[]): WordEntry['kept'] | null {
  const some = Object.keys(attributes).length > 0
  return !some && elements.length === 0 ? null : { ...(some ? { attributes } : {}), ...(elements.length > 0 ? { elements } : {}) }
}

function elementsOf(element: SsmlElement): SsmlElement[] {
  return element.children.filter(child => child.type === 'element')
}

function textOf(element: SsmlElement): string {
  return element.children.map(child => child.type === 'text' ? child.text : child.type === 'element' ? textOf(child) : '').join('')
}

/** The entries that count for text of one language (BCP 47) as a lexicon. A respelling is written as its IPA too, letters as an alias, so that any program can use them. */
export function writePls({ entries, kept: rests }: Wordbook, language: string): string {
  const lines = entries.filter(entry => speaks(entry.language, language)).map(lexemeXml)
  const isOurs = lines.some(line => line.includes(' quill:'))
  const attributes = pairs([
    ['version', '1.0'], ['xmlns', plsNamespace], ...(isOurs ? [['xmlns:quill', wordbookNamespace] as const] : []), ['alphabet', 'ipa'], ['xml:lang', language],
    ...Object.entries(rests?.attributes ?? {}),
  ])
  return `<?xml version="1.0" encoding="UTF-8"?>\n<lexicon${attributes}>\n${(rests?.elements ?? []).map(xml => `  ${xml}\n`).join('')}${lines.join('')}</lexicon>\n`
}

function lexemeXml(entry: WordEntry): string {
  const { graphemes, said, beside, note, kept: rests } = entry
  const reading = readingOf(entry)
  const respelling = said[0]!.by === 'respelling' ? said[0]!.text : undefined
  const own = [
    ['match-case', entry.matchCase], ['part-of-word', entry.partOfWord], ['heard', entry.heard], ['before', beside?.before?.join(' ')], ['after', beside?.after?.join(' ')], ['part-of-speech', isOfRole(entry) ? undefined : entry.partsOfSpeech?.join(' ')], ['note', note],
    ['respelling', respelling], ['said', reading.by === 'letters' ? 'letters' : undefined],
  ] as const
  const attributes = pairs([...Object.entries(rests?.attributes ?? {}), ...own.flatMap(([name, value]) => value === undefined ? [] : [[`quill:${name}`, String(value)] as const])])
  return [
    `  <lexeme${attributes}>`,
    ...graphemes.map(grapheme => `    <grapheme>${escapeText(grapheme)}</grapheme>`),
    ...said.map(each => {
      const [name, text] = pronunciation(each, graphemes[0]!, entry.language)
      return `    <${name}${each.prefer === true ? ' prefer="true"' : ''}>${escapeText(text)}</${name}>`
    }),
    ...(rests?.elements ?? []).map(xml => `    ${xml}`),
    '  </lexeme>', '',
  ].join('\n')
}

function pronunciation(said: Said, grapheme: string, language: string): ['phoneme' | 'alias', string] {
  switch (said.by) {
    case 'ipa': return ['phoneme', said.text]
    case 'alias': return ['alias', said.text]
    case 'letters': return ['alias', [...grapheme].join(' ')]
    case 'respelling': {
      const respelt = respell(said.text, language)
      return 'ipa' in respelt ? ['phoneme', respelt.ipa] : ['alias', said.text]
    }
  }
}

function pairs(attributes: readonly (readonly [string, string])[]): string {
  return attributes.map(([name, value]) => ` ${name}="${escapeText(value).replace(/"/gu, '&quot;').replace(/\n/gu, '&#10;')}"`).join('')
}
