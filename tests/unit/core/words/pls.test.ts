import { execFileSync } from 'node:child_process'
import { readWordCsv, writeWordCsv } from '#core/words/csv'
import { conflictsIn } from '#core/words/faults'
import { plsNamespace, readPls, writePls } from '#core/words/pls'
import { readingOf, type Wordbook } from '#core/words/wordbook'

const lexicon = (body: string, attributes = ''): string => `<?xml version="1.0" encoding="UTF-8"?>\n<lexicon version="1.0" xmlns="${plsNamespace}"${attributes} alphabet="ipa" xml:lang="en-US">\n${body}\n</lexicon>`

/** Examples of the W3C Pronunciation Lexicon Specification 1.0 (2008), sections 4.4 to 4.9 and 5; from memory. */
const examples: readonly (readonly [name: string, source: string, expected: readonly (readonly [graphemes: string, by: string, said: string])[]])[] = [
  ['one written form and one pronunciation', lexicon('<lexeme><grapheme>tomato</grapheme><phoneme>təmei̥ɾou̥</phoneme></lexeme>'), [['tomato', 'ipa', 'təmei̥ɾou̥']]],
  ['several written forms (4.5)', lexicon('<lexeme><grapheme>judgment</grapheme><grapheme>judgement</grapheme><phoneme>ˈdʒʌdʒ.mənt</phoneme></lexeme>'), [['judgment|judgement', 'ipa', 'ˈdʒʌdʒ.mənt']]],
  ['several pronunciations, of which one is preferred (4.9)', lexicon('<lexeme><grapheme>huge</grapheme><phoneme>juːʤ</phoneme><phoneme prefer="true">hjuːʤ</phoneme></lexeme>'), [['huge', 'ipa', 'hjuːʤ']]],
  ['the first, when none is preferred', lexicon('<lexeme><grapheme>either</grapheme><phoneme>ˈiːðər</phoneme><phoneme>ˈaɪðər</phoneme></lexeme>'), [['either', 'ipa', 'ˈiːðər']]],
  ['an alias (4.7)', lexicon('<lexeme><grapheme>W3C</grapheme><alias>World Wide Web Consortium</alias></lexeme>'), [['W3C', 'alias', 'World Wide Web Consortium']]],
  ['homographs with roles (4.4)', lexicon('<lexeme role="claws:VVI claws:VV0 claws:NN1"><grapheme>refuse</grapheme><phoneme>rɪˈfjuːz</phoneme></lexeme><lexeme role="claws:NN1"><grapheme>refuse</grapheme><phoneme>ˈɹefjuːs</phoneme></lexeme>', ' xmlns:claws="http://www.example.com/claws7tags"'), [['refuse', 'ipa', 'rɪˈfjuːz'], ['refuse', 'ipa', 'ˈɹefjuːs']]],
]

const roles = (first: string, second: string, language = 'en-US'): string => lexicon(`<lexeme role="${first}"><grapheme>refuse</grapheme><phoneme>rɪˈfjuːz</phoneme></lexeme>\n<lexeme role="${second}"><grapheme>refuse</grapheme><phoneme>ˈɹefjuːs</phoneme></lexeme>`, ' xmlns:x="http://www.example.com/tags"').replace('en-US', language)

// Tags of CLAWS 7, the Penn Treebank and Universal Dependencies; from memory.
test.each([
  ['x:VVI x:VV0', 'x:NN1', ['verb'], ['noun']], ['x:VB', 'x:NN', ['verb'], ['noun']], ['x:VERB', 'x:NOUN', ['verb', 'past'], ['noun']], ['verb', 'noun', ['verb', 'past'], ['noun']], ['x:VVD', 'x:JJ', ['past'], ['adjective']],
  ['x:VBD', 'x:VBP', ['past'], ['verb']], ['x:VVN', 'x:VVZ', ['past'], ['verb']], ['x:NNP', 'x:RB', ['name'], ['adjective']], ['x:NP1', 'x:RR', ['name'], ['adjective']], ['x:PROPN', 'x:ADV', ['name'], ['adjective']], ['x:NN2', 'x:VVG', ['noun'], ['verb']],
])('the roles %s and %s are parts of speech', (first, second, one, other) => {
  const { wordbook, problems } = readPls(roles(first, second))
  expect(problems).toEqual([])
  expect(wordbook.entries.map(entry => entry.partsOfSpeech)).toEqual([one, other])
  const written = writePls(wordbook, 'en-US')
  expect(written).toContain(`role="${first}"`)
  expect(written).not.toContain('quill:part-of-speech')
  expect(readPls(written)).toMatchObject({ wordbook, problems: [] })
})

test('roles that tell nothing apart here are named with both places, and the first lexeme counts', () => {
  const { wordbook, problems } = readPls(roles('x:rubbish', 'x:denial'))
  expect(problems.map(({ severity, code, line }) => [severity, code, line])).toEqual([['warning', 'pls-role', 3], ['warning', 'pls-role', 4]])
  expect(problems[0]!.message).toContain('“refuse” has several lexemes, and the role x:rubbish is no part of speech')
  expect(conflictsIn(wordbook.entries).size).toBe(2)
  expect(readPls(roles('x:VERB', 'x:NOUN', 'de')).problems.map(({ code, message }) => [code, message.includes('not told apart in “de”')])).toEqual([['pls-role', true], ['pls-role', true]])
  // One by itself is no conflict.
  expect(readPls(lexicon('<lexeme role="x:rubbish"><grapheme>refuse</grapheme><phoneme>a</phoneme></lexeme>', ' xmlns:x="urn:x"')).problems).toEqual([])
})

test('parts of speech that a producer chose come back, as a lexicon and as a table', () => {
  const book: Wordbook = { version: 1, entries: [{ id: '1', graphemes: ['lead'], language: 'en-GB', said: [{ by: 'ipa', text: 'lɛd' }], partsOfSpeech: ['noun', 'adjective'] }] }
  expect(readPls(writePls(book, 'en-GB'))).toMatchObject({ wordbook: book, problems: [] })
  expect(readWordCsv(writeWordCsv(book), 'en-GB')).toMatchObject({ wordbook: book, problems: [] })
  expect(readWordCsv('written,how,said,part of speech\nlead,ipa,lɛd,gerund\n', 'en').problems).toEqual([expect.objectContaining({ code: 'words-part-of-speech', line: 2 })])
  expect(readWordCsv('written,how,said,part of speech\nlead,ipa,lɛd,noun\n', 'de').problems).toEqual([expect.objectContaining({ code: 'words-part-of-speech', line: 2 })])
})

test.each([
  ['another version', lexicon('').replace('version="1.0" xmlns', 'version="2.0" xmlns'), 'pls-version', 'of version “2.0”'],
  ['no version', lexicon('').replace('version="1.0" xmlns', 'xmlns'), 'pls-version', 'does not say its version'],
  ['an alphabet that is none', lexicon('').replace('alphabet="ipa"', 'alphabet="sampa"'), 'pls-alphabet-wrong', '“sampa”'],
])('%s is refused with the reason', (_, source, code, message) => {
  const { wordbook, problems } = readPls(source)
  expect(problems).toEqual([expect.objectContaining({ severity: 'error', code, line: 2, message: expect.stringContaining(message) as string })])
  expect(wordbook.entries).toEqual([])
})

test('each entry knows its line, in both kinds of file', () => {
  expect(readPls(lexicon('<lexeme><grapheme>a</grapheme><phoneme>a</phoneme></lexeme>\n<lexeme/>\n\n<lexeme><grapheme>b</grapheme><phoneme>b</phoneme></lexeme>')).lines).toEqual([3, 6])
  expect(readWordCsv('written,how,said\na,ipa,a\n,ipa,x\nb,ipa,b\n', 'en').lines).toEqual([2, 4])
})

test.each(['@home', '=x', '-ing', '+1', '\'=x', '\'\'-ing', '\'tis'])('%s comes back from a table as it was, and is no formula there', written => {
  const book: Wordbook = { version: 1, entries: [{ id: '1', graphemes: [written], language: 'en', said: [{ by: 'alias', text: written }], note: written }] }
  const table = writeWordCsv(book)
  expect(table).not.toMatch(/(?:^|,)"?[=+@-]/mu)
  expect(readWordCsv(table, 'en')).toMatchObject({ wordbook: book, problems: [] })
})

test.each(['en-', '12', 'constructor', 'en_GB'])('a language that is none, “%s”, is refused with its place', language => {
  expect(readPls(lexicon('').replace('en-US', language)).problems).toEqual([expect.objectContaining({ code: 'pls-language-wrong', line: 2, message: expect.stringContaining(`“${language}” is not a language tag`) as string })])
  expect(readWordCsv(`written,how,said,language\na,alias,b,${language}\n`, 'en').problems).toEqual([expect.objectContaining({ code: 'words-language', line: 2 })])
})

test('a way to say a word that every object has is none', () => {
  expect(readWordCsv('written,how,said\na,constructor,b\n', 'en').problems).toEqual([expect.objectContaining({ code: 'words-how' })])
})

describe('a lexicon', () => {
  test.each(examples)('%s', (_, source, expected) => {
    const { wordbook, problems } = readPls(source)
    expect(problems).toEqual([])
    expect(wordbook.entries.map(entry => {
      const reading = readingOf(entry)
      return [entry.graphemes.join('|'), reading.by, reading.by === 'letters' ? '' : reading.text]
    })).toEqual(expected)
  })

  test.each(examples)('comes back as it was: %s', (_, source) => {
    const { wordbook } = readPls(source)
    const written = writePls(wordbook, 'en-US')
    expect(readPls(written)).toMatchObject({ wordbook, problems: [] })
    expect(writePls(readPls(written).wordbook, 'en-US')).toBe(written)
  })

  test('keeps attributes and elements of others, examples and metadata', () => {
    const source = lexicon('<meta name="author" content="A"/><lexeme xml:id="l1" x:source="field notes"><grapheme>skep</grapheme><phoneme>skɛp</phoneme><example>An old <x:b>skep</x:b>.</example><x:tone>high</x:tone></lexeme>', ' xmlns:x="urn:x"')
    const { wordbook, problems } = readPls(source)
    expect(problems).toEqual([])
    const written = writePls(wordbook, 'en-US')
    for (const piece of ['xmlns:x="urn:x"', '<meta name="author" content="A"/>', 'xml:id="l1"', 'x:source="field notes"', '<example>An old <x:b>skep</x:b>.</example>', '<x:tone>high</x:tone>']) expect(written).toContain(piece)
    expect(readPls(written).wordbook).toEqual(wordbook)
  })

  test('keeps what only a wordbook knows, in attributes of its own, and is plain PLS for everybody else', () => {
    const wordbook: Wordbook = {
      version: 1, entries: [
        { id: '1', graphemes: ['Varroa'], language: 'en-GB', said: [{ by: 'respelling', text: 'vuh-ROH-uh' }], heard: true, note: 'the "mite" & <so on>' },
        { id: '2', graphemes: ['XQZ'], language: 'en-GB', said: [{ by: 'letters' }], matchCase: true },
        { id: '3', graphemes: ['lead'], language: 'en-GB', said: [{ by: 'ipa', text: 'lɛd' }], beside: { before: ['of'], after: ['pipe', 'weight'] }, partOfWord: true },
      ],
    }
    const written = writePls(wordbook, 'en-GB')
    expect(readPls(written).wordbook).toEqual({ ...wordbook, entries: [{ ...wordbook.entries[0], said: [{ by: 'respelling', text: 'vuh-ROH-uh' }] }, { ...wordbook.entries[1], said: [{ by: 'letters' }] }, wordbook.entries[2]] })
    expect(written).toContain('<phoneme>vəˈɹəʊə</phoneme>')
    expect(written).toContain('<alias>X Q Z</alias>')
    // Well formed for a parser that is not ours.
    const tags = execFileSync('python3', ['-c', 'import sys, xml.etree.ElementTree as e; print(*[x.tag.split("}")[1] for x in e.fromstring(sys.stdin.buffer.read()).iter()])'], { input: written, encoding: 'utf8' })
    expect(tags.trim()).toBe('lexicon lexeme grapheme phoneme lexeme grapheme alias lexeme grapheme phoneme')
  })

  test.each([
    ['not well formed', lexicon('<lexeme><grapheme>a</lexeme>'), 3, 'error', 'pls-syntax'],
    ['another document', '<speak xmlns="http://www.w3.org/2001/10/synthesis"/>', 1, 'error', 'pls-root'],
    ['no language', `<lexicon version="1.0" xmlns="${plsNamespace}" alphabet="ipa"/>`, 1, 'error', 'pls-language-missing'],
    ['no alphabet', `<lexicon version="1.0" xmlns="${plsNamespace}" xml:lang="en"/>`, 1, 'error', 'pls-alphabet-missing'],
    ['a lexeme without a written form', lexicon('<lexeme><phoneme>a</phoneme></lexeme>'), 3, 'error', 'pls-lexeme'],
    ['an alphabet that is not understood', lexicon('<lexeme><grapheme>a</grapheme><phoneme alphabet="x-sampa">{</phoneme><alias>ay</alias></lexeme>'), 3, 'warning', 'pls-alphabet'],
    ['an entity that would expand', `<!DOCTYPE lexicon [<!ENTITY a "b">]>${lexicon('')}`, 1, 'error', 'pls-subset'],
  ])('reports with its line: %s', (_, source, line, severity, code) => {
    expect(readPls(source).problems[0]).toMatchObject({ line, severity, code })
  })
})

describe('a table', () => {
  test('is read by its head row, and written so that it comes back', () => {
    const source = 'written,how,said,match case,before,note\nVarroa|varroa,respelling,vuh-ROH-uh,,,a mite\nXQZ,letters,,yes,,\nlead,IPA,lɛd,,of|the,\n'
    const { wordbook, problems } = readWordCsv(source, 'en-GB')
    expect(problems).toEqual([])
    expect(wordbook.entries[0]).toEqual({ id: '1', graphemes: ['Varroa', 'varroa'], language: 'en-GB', said: [{ by: 'respelling', text: 'vuh-ROH-uh' }], note: 'a mite' })
    expect(readWordCsv(writeWordCsv(wordbook), 'de').wordbook).toEqual(wordbook)
  })

  test('rows that cannot be used are named with their line and what to do; the others count', () => {
    const { wordbook, problems } = readWordCsv('written,how,said\nskep,ipa,skɛp\n,ipa,a\nsuper,sung,a\nhive,respelling,h!v\nhoney,alias,\n', 'en')
    expect(wordbook.entries.map(entry => entry.graphemes)).toEqual([['skep']])
    expect(problems.map(problem => [problem.line, problem.code])).toEqual([[3, 'words-written'], [4, 'words-how'], [5, 'words-respelling'], [6, 'words-said']])
    expect(readWordCsv('word,ipa\na,b\n', 'en').problems[0]!.message).toContain('written, how, said')
  })
})
