import { execFileSync } from 'node:child_process'
import { checkSsml, placed, type PlacedProblem } from '#core/script/ssml/check'
import { ssmlElements, ssmlNamespace } from '#core/script/ssml/elements'
import type { SsmlElement } from '#core/script/ssml/tree'

const speak = (body: string): string => `<speak version="1.1" xmlns="${ssmlNamespace}" xml:lang="en-US">${body}</speak>`
const check = (source: string): PlacedProblem[] => placed(source, checkSsml(source).problems)
const codes = (source: string): string[] => check(source).map(problem => problem.code)

/**
 * For every element of SSML 1.1 (W3C, 2010, section 3): attributes with a legal and an illegal value, and a place
 * where it cannot stand. From memory of the Recommendation; `null` where any value is legal.
 */
const table: Readonly<Record<string, { readonly required?: string, readonly wrong?: string, readonly attributes: Readonly<Record<string, readonly [legal: string, illegal: string | null]>> }>> = {
  'speak': { required: 'version="1.1" xml:lang="en"', wrong: '<p>%</p>', attributes: { 'version': ['1.1', '2.0'], 'xml:lang': ['en-GB', 'english language'], 'xml:base': ['http://a.example/', 'a b'], 'onlangfailure': ['changevoice', 'stop'], 'startmark': ['a', ''], 'endmark': ['a', ''] } },
  'lexicon': { required: 'uri="a.pls" xml:id="a"', wrong: '<p>%</p>', attributes: { 'uri': ['a.pls', 'a b'], 'xml:id': ['a1', '1 a'], 'type': ['application/pls+xml', ''], 'fetchtimeout': ['5s', '5'], 'maxage': ['60', '-1'], 'maxstale': ['0', 'x'] } },
  'lookup': { required: 'ref="a"', wrong: '<token>%</token>', attributes: { ref: ['a', 'b'] } },
  'meta': { required: 'name="author" content="x"', wrong: '<p>%</p>', attributes: { 'name': ['author', ''], 'http-equiv': ['Cache-Control', ''], 'content': ['no-cache', null] } },
  'metadata': { wrong: '<p>%</p>', attributes: {} },
  'p': { wrong: '<p>%</p>', attributes: { 'xml:id': ['a', 'a b'], 'xml:lang': ['de', '_'], 'onlangfailure': ['ignoretext', 'x'] } },
  's': { wrong: '<s>%</s>', attributes: { 'xml:id': ['a', '1'], 'xml:lang': ['de', '_'], 'onlangfailure': ['ignorelang', 'x'] } },
  'token': { wrong: '<token>%</token>', attributes: { 'xml:id': ['a', '1'], 'xml:lang': ['de', '_'], 'onlangfailure': ['processorchoice', 'x'], 'role': ['x:noun', ''] } },
  'w': { wrong: '<w>%</w>', attributes: { 'xml:id': ['a', '1'], 'xml:lang': ['de', '_'], 'onlangfailure': ['processorchoice', 'x'], 'role': ['x:noun', ''] } },
  'say-as': { required: 'interpret-as="date"', wrong: '<sub alias="a">%</sub>', attributes: { 'interpret-as': ['date', ''], 'format': ['dmy', null], 'detail': ['1', null] } },
  'phoneme': { required: 'ph="a"', wrong: '<say-as interpret-as="date">%</say-as>', attributes: { ph: ['a', ''], alphabet: ['ipa', 'sampa'], type: ['ruby', 'x'] } },
  'sub': { required: 'alias="a"', wrong: '<phoneme ph="a">%</phoneme>', attributes: { alias: ['a b', null] } },
  'lang': { required: 'xml:lang="de"', wrong: '<token>%</token>', attributes: { 'xml:lang': ['de', '_'], 'onlangfailure': ['changevoice', 'x'] } },
  'voice': { required: 'gender="female"', wrong: '<sub alias="a">%</sub>', attributes: { gender: ['neutral', 'queen'], age: ['30', 'old'], variant: ['2', '0'], name: ['a b', null], languages: ['en:fr de', 'a_b'], required: ['languages name', 'colour'], ordering: ['gender age', 'age age'], onvoicefailure: ['keepexisting', 'x'] } },
  'emphasis': { wrong: '<say-as interpret-as="date">%</say-as>', attributes: { level: ['reduced', 'very'] } },
  'break': { wrong: '<sub alias="a">%</sub>', attributes: { strength: ['x-weak', 'weaker'], time: ['1.5s', '5'] } },
  'prosody': { required: 'rate="slow"', wrong: '<desc>%</desc>', attributes: { pitch: ['+2st', '2st'], contour: ['(0%,+20Hz) (10%,-5%)', '0%,+20Hz'], range: ['x-low', 'wide'], rate: ['80%', '+10%'], duration: ['3s', '3'], volume: ['-6dB', '6dB'] } },
  'audio': { required: 'src="a.wav"', wrong: '<sub alias="a">%</sub>', attributes: { src: ['a.wav', 'a b'], fetchtimeout: ['1s', 'x'], fetchhint: ['safe', 'never'], maxage: ['1', '-1'], maxstale: ['1', 'x'], clipBegin: ['0s', 'x'], clipEnd: ['2s', 'x'], repeatCount: ['1.5', '0'], repeatDur: ['10s', 'x'], soundLevel: ['+3dB', '3'], speed: ['90%', '-5%'] } },
  'mark': { required: 'name="a"', wrong: '<sub alias="a">%</sub>', attributes: { name: ['a', ''] } },
  'desc': { wrong: '<p>%</p>', attributes: { 'xml:lang': ['de', '_'] } },
}

/** An element of the table in a document in which it may stand. */
function placedElement(name: string, attributes: string): string {
  const { required = '' } = table[name]!
  const own = attributes === '' ? required : `${required.replace(new RegExp(`(^| )${attributes.split('=')[0]!}="[^"]*"`, 'u'), '')} ${attributes}`
  const isEmpty = ['lexicon', 'meta', 'break', 'mark'].includes(name)
  const element = isEmpty ? `<${name} ${own}/>` : `<${name} ${own}>text</${name}>`
  if (name === 'speak') return `<speak xmlns="${ssmlNamespace}" ${own}>text <mark name="a"/></speak>`
  if (name === 'desc') return speak(`<audio src="a.wav">${element}</audio>`)
  if (name === 'lookup') return speak(`<lexicon uri="a.pls" xml:id="a"/>${element}`)
  if (name === 'meta' && attributes.startsWith('http-equiv')) return speak(element.replace('name="author"', ''))
  return speak(element)
}

describe('every element and attribute of SSML 1.1', () => {
  test('is in this table, and no other', () => {
    expect(Object.keys(ssmlElements).sort()).toEqual(Object.keys(table).sort())
    for (const [name, { attributes }] of Object.entries(table)) expect(Object.keys(ssmlElements[name]!.attributes).sort()).toEqual(Object.keys(attributes).sort())
  })

  test.each(Object.keys(table))('<%s> is accepted where it may stand', name => { expect(check(placedElement(name, ''))).toEqual([]) })

  test.each(Object.entries(table).flatMap(([name, { attributes }]) => Object.entries(attributes).map(([attribute, [legal, illegal]]) => [name, attribute, legal, illegal] as const)))(
    '<%s %s>: “%s” is legal, “%s” is not', (name, attribute, legal, illegal) => {
      expect(check(placedElement(name, `${attribute}="${legal}"`))).toEqual([])
      if (illegal === null) return
      const [problem] = check(placedElement(name, `${attribute}="${illegal}"`))
      expect(problem).toMatchObject({ severity: 'error', code: 'ssml-value' })
      const source = placedElement(name, `${attribute}="${illegal}"`)
      expect(source.slice(problem!.column - 1)).toMatch(new RegExp(`^${attribute}=`, 'u'))
    })

  test.each(Object.entries(table).map(([name, { wrong }]) => [name, wrong!]))('<%s> is refused in %s', (name, wrong) => {
    const { required = '' } = table[name]!
    const inner = `<${name} ${required}/>`
    const source = speak(wrong.startsWith('<desc') ? `<audio src="a.wav">${wrong.replace('%', inner)}</audio>` : wrong.replace('%', inner))
    const problem = check(source).find(each => each.code === 'ssml-element-misplaced')
    expect(problem?.message).toContain(`<${name}>`)
  })

  test.each(Object.entries(table).filter(([, { required }]) => required !== undefined && required !== 'rate="slow"' && required !== 'gender="female"' && required !== 'src="a.wav"').map(([name]) => name))(
    '<%s> without what it needs is refused', name => {
      const bare = placedElement(name, '').replace(new RegExp(`<${name} [^>]*?(/?)>(?!.*<${name} )`, 'u'), `<${name}${name === 'speak' ? ` xmlns="${ssmlNamespace}"` : ''}$1>`)
      expect(codes(bare).some(code => code === 'ssml-attribute-missing' || code === 'ssml-language-missing')).toBe(true)
    })

  test.each([
    ['an element that there is not', '<blink>a</blink>', 'ssml-element-unknown'],
    ['an attribute that there is not', '<break length="5ms"/>', 'ssml-attribute-unknown'],
    ['the voice’s language as it was in 1.0', '<voice xml:lang="de">a</voice>', 'ssml-attribute-unknown'],
    ['text in an empty element', '<break>a</break>', 'ssml-text-misplaced'],
    ['prosody without anything', '<prosody>a</prosody>', 'ssml-attribute-missing'],
    ['a lexicon behind text', 'a<lexicon uri="a.pls" xml:id="a"/>', 'ssml-element-misplaced'],
    ['an id twice', '<p xml:id="a">a</p><p xml:id="a">b</p>', 'ssml-id'],
    ['an alphabet without the sign of somebody’s own', '<phoneme alphabet="arpabet" ph="a">a</phoneme>', 'ssml-value'],
    ['speak in speak', '<p>a</p><speak>b</speak>', 'ssml-element-misplaced'],
  ])('%s', (_, body, code) => { expect(codes(speak(body))).toContain(code) })
})

describe('documents', () => {
  test('examples of the Recommendation (sections 2.2, 3.1 and 3.2; from memory) are valid and give the same tree when written out', () => {
    for (const body of [
      '<p><s>You have 4 new messages.</s><s>The first is from Stephanie Williams and arrived at <break/> 3:45pm.</s><s>The subject is <prosody rate="90%">ski trip</prosody></s></p>',
      '<voice gender="male"><p>Today we preview the latest romantic music.</p></voice>',
      '<phoneme alphabet="ipa" ph="t&#x259;mei&#x325;&#x27E;ou&#x325;">tomato</phoneme>',
      '<sub alias="World Wide Web Consortium">W3C</sub>',
      'That is a <emphasis> big </emphasis> car! That is a <emphasis level="strong"> huge </emphasis> bank account!',
      'Take a deep breath <break/> then continue. Press 1 or wait for the tone. <break time="3s"/> I didn\'t hear you! <break strength="weak"/> Please repeat.',
      'The price of XYZ is <prosody rate="90%">$45</prosody><prosody contour="(0%,+20Hz) (10%,+30%) (40%,+10Hz)">good morning</prosody>',
      '<lang xml:lang="ja">日本語</lang> The French word for cat is <w xml:lang="fr">chat</w>.',
      '<audio src="prompt.au">What city do you want to <emphasis>fly from</emphasis>?</audio>',
      'Go from <mark name="here"/> here, to <mark name="there"/> there!',
      '<audio src="welcome.wav"><desc>welcome</desc><emphasis>Welcome</emphasis> to the Voice Portal.</audio>',
    ]) expect([body, check(speak(body))]).toEqual([body, []])
  })

  test.each([
    ['a document without its language', `<speak version="1.1" xmlns="${ssmlNamespace}"/>`, ['error ssml-language-missing']],
    ['one without a version', `<speak xmlns="${ssmlNamespace}" xml:lang="en"/>`, ['error ssml-attribute-missing']],
    ['SSML 1.0', `<speak version="1.0" xmlns="${ssmlNamespace}" xml:lang="en"/>`, ['warning ssml-version']],
    ['one that names no namespace', '<speak version="1.1" xml:lang="en"/>', ['warning ssml-namespace']],
    ['one of another namespace', '<speak version="1.1" xmlns="urn:x" xml:lang="en"/>', ['error ssml-root']],
    ['another root', `<vxml xmlns="${ssmlNamespace}"/>`, ['error ssml-root']],
    ['an external document type', `<!DOCTYPE speak PUBLIC "-//W3C//DTD SYNTHESIS 1.0//EN" "http://www.w3.org/TR/speech-synthesis/synthesis.dtd">${speak('a')}`, ['note ssml-doctype']],
    ['an internal subset', `<!DOCTYPE speak [<!ENTITY a "b">]>${speak('&a;')}`, ['error ssml-subset']],
    ['elements of another namespace', speak('<x:a xmlns:x="urn:x">b <break/></x:a>'), ['warning ssml-foreign']],
    ['a tag that is not closed', speak('<p>a'), ['error ssml-syntax']],
    ['too many elements within each other', speak('<prosody rate="slow">'.repeat(300) + '</prosody>'.repeat(300)), ['error ssml-depth']],
  ])('%s', (_, source, expected) => {
    expect(check(source).map(problem => `${problem.severity} ${problem.code}`)).toEqual(expected)
  })

  test.each([['Hi & there.', 3], ['Hi &there <p>x</p>', 3], ['A &amp; B &lt; C &#65; & D', 23], ['<!-- & --><![CDATA[&]]> & x', 24], ['<sub alias="a & b">c</sub>', 14], ['&', 0]])('an ampersand by itself is named at its place: %s', (body, at) => {
    const [problem] = check(speak(body))
    expect(problem).toMatchObject({ code: 'ssml-ampersand', line: 1, column: speak('').indexOf('</speak>') + 1 + at, message: '“&” by itself is no text in XML. Write &amp; for it.' })
  })

  test('a startmark or an endmark needs the mark that it names', () => {
    const source = (marks: string): string => `<speak version="1.1" xmlns="${ssmlNamespace}" xml:lang="en" startmark="here" endmark="there">a ${marks} b</speak>`
    expect(check(source('<mark name="here"/> <mark name="there"/>'))).toEqual([])
    expect(check(source('<mark name="there"/>'))).toMatchObject([{ severity: 'error', code: 'ssml-value', column: source('').indexOf('startmark') + 1, message: 'No <mark> has the name “here”, which startmark asks for. Correct it, or add the mark.' }])
    expect(check(source(''))).toHaveLength(2)
  })

  test('a fragment is completed, and its problems are at its own places', () => {
    const fragment = 'One <break/>\n<p>two</p> <foo/>'
    expect(codes(fragment)).toEqual(['ssml-syntax'])
    expect(placed(fragment, checkSsml(fragment, { fragmentLanguage: 'en' }).problems)).toMatchObject([{ line: 2, column: 12, code: 'ssml-element-unknown' }])
    expect(checkSsml(speak('a'), { fragmentLanguage: 'en' }).problems).toEqual([])
  })

  test('columns count characters, lines end as they like, and a byte order mark is none', () => {
    expect(check(`\ufeff${speak('🐝 <foo/>')}`)).toMatchObject([{ line: 1, column: speak('').indexOf('</speak>') + 3 }])
    for (const end of ['\n', '\r\n', '\r']) expect(check(speak(`a${end}${end} <foo/>`))).toMatchObject([{ line: 3, column: 2 }])
  })
})

/** Line, column and name of every element, and the line of the first fault, as another parser (expat) finds them. */
function asExpat(source: string): { readonly starts: readonly [number, number, string][], readonly fault: number | null } {
  const program = `
import sys, json, xml.parsers.expat as expat
parser = expat.ParserCreate()
starts = []
parser.StartElementHandler = lambda name, attributes: starts.append([parser.CurrentLineNumber, parser.CurrentColumnNumber + 1, name])
fault = None
try: parser.Parse(sys.stdin.buffer.read(), True)
except expat.ExpatError as error: fault = error.lineno
print(json.dumps({'starts': starts, 'fault': fault}))`
  return JSON.parse(execFileSync('python3', ['-c', program], { input: source, encoding: 'utf8' })) as ReturnType<typeof asExpat>
}

describe('an independent parser', () => {
  test.each([speak('<p>one <break time="1s"/>two\n\n  <emphasis\n level="strong">three</emphasis> &amp; four</p>\n<!-- <p> --><p><![CDATA[<p>]]>five</p>'), speak('<p a="<"/>'), speak('<p><s></p></s>'), speak('a &nothing; b'), `${speak('a')}<b/>`, speak('\n\n<p a="1" a="2"/>')])(
    'finds the same elements at the same places, and the same fault: %s', source => {
      const other = asExpat(source)
      const { root, problems } = checkSsml(source)
      const fault = problems.find(problem => problem.code === 'ssml-syntax')
      expect(fault === undefined).toBe(other.fault === null)
      if (fault !== undefined) {
        expect(placed(source, [fault])[0]!.line).toBe(other.fault)
        return
      }
      const starts: [number, number, string][] = []
      const walk = (element: SsmlElement): void => {
        const [{ line, column } = { line: 0, column: 0 }] = placed(source, [{ severity: 'note', code: '', message: '', offset: element.start }])
        starts.push([line, column, element.writtenName])
        for (const child of element.children) if (child.type === 'element') walk(child)
      }
      walk(root!)
      expect(starts).toEqual(other.starts)
    })
})
