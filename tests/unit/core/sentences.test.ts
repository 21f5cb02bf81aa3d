import { readFileSync, readdirSync } from 'node:fs'
import { sentenceSpans } from '#core/language/sentences'

function sentences(text: string, language = 'en'): string[] {
  return sentenceSpans(text, language).map(span => text.slice(span.start, span.end))
}

// Cases in the manner of the widely used golden rules for sentence boundaries (from memory): `|` marks where a
// sentence ends.
const english: readonly string[] = [
  'Hello World.| My name is Jonas.',
  'What is your name?| My name is Jonas.',
  'There it is!| I found it.',
  'My name is Jonas E. Lane.',
  'Please turn to p. 55.',
  'Were Jane and co. at the party?',
  'They closed the deal with Lane, Orrery & Co. at noon.',
  'Let\'s ask Jane and co.| They should know.',
  'They closed the deal with Lane, Orrery & Co.| It closed yesterday.',
  'I can see Mt. Orrery from here.',
  'St. Tamsin\'s Church is on 5th st. near the light.',
  'That is Tom Orrery Jr.\'s book.',
  'I visited the U.S.A. last year.',
  'I live in the E.U.| How about you?',
  'I live in the U.S.| How about you?',
  'I have lived in the U.S. for 20 years.',
  'At 5 a.m. Mr. Lane went to the bank.| He left the bank at 6 p.m.| Mr. Lane then went to the store.',
  'She has $100.00 in her bag.',
  'She has $100.00.| It is in her bag.',
  'He teaches science (He previously worked for 5 years as an engineer.) at the local University.',
  'Her email is apiary@marrow-lane.example.| I sent her an email.',
  'The site is: https://www.marrow-lane.example/new-site/first.50.html.| Please check it out.',
  'She turned to him, "This is great." she said.',
  'She turned to him, "This is great."| She held the book out to show him.',
  'Hello!!| Long time no see.',
  'Hello??| Who is there?',
  'Hello!?| Is that you?',
  'You can find it at N°. 1026.253.553.| That is where the treasure is.',
  'She works at Swarm! in the accounting department.',
  'We make a good team, you and I.| Did you see Oswin I. Lane yesterday?',
  'Oswin argues that by simplifying one’s life, “the laws of the apiary will appear less complex. . . .”',
  '"Oswin [...] used the analogy of parallel stairways [...]" (Lane 55).',
  'If words are left off at the end of a sentence, and that is all that is omitted, indicate the omission with ellipsis marks (preceded and followed by a space) and then indicate the end of the sentence with a period . . . .| Next sentence.',
  'I never meant that.... She left the store.',
  'I wasn’t really ... well, what I mean...see . . . what I\'m saying, the thing is . . . I didn’t mean it.',
  'One further habit which was somewhat weakened . . . was that of combining words into self-interpreting compounds.| . . . The practice was not abandoned. . . .',
  'No. 5 is empty, and so is Fig. 3 on p. 12.',
  'Dr. Orrery met Prof. Lane on Jan. 3.| Nobody else came.',
]

/** What the rules do not get right yet: where the words alone do not tell whether a sentence ends. */
const knownFailures = new Set([
  '"Oswin [...] used the analogy of parallel stairways [...]" (Lane 55).',
  'I never meant that.... She left the store.',
  'I wasn’t really ... well, what I mean...see . . . what I\'m saying, the thing is . . . I didn’t mean it.',
  'One further habit which was somewhat weakened . . . was that of combining words into self-interpreting compounds.| . . . The practice was not abandoned. . . .',
  'We make a good team, you and I.| Did you see Oswin I. Lane yesterday?',
  'At 5 a.m. Mr. Lane went to the bank.| He left the bank at 6 p.m.| Mr. Lane then went to the store.',
])

const folder = new URL('../../data/sentences/', import.meta.url)
const languagesWithCases = readdirSync(folder).map(name => name.replace('.txt', ''))

function casesOf(language: string): string[] {
  return readFileSync(new URL(`${language}.txt`, folder), 'utf8').split('\n').filter(line => line !== '' && !line.startsWith('#'))
}

describe('sentence boundaries', () => {
  const cases = english.map(text => [text, 'en'] as const)
  test.each(cases.filter(([text]) => !knownFailures.has(text)))('%s', (marked, language) => {
    const expected = marked.split('|').map(sentence => sentence.trim())
    expect(sentences(expected.join(' '), language)).toEqual(expected)
  })

  test.each(cases.filter(([text]) => knownFailures.has(text)))('is still wrong for: %s', (marked, language) => {
    const expected = marked.split('|').map(sentence => sentence.trim())
    expect(sentences(expected.join(' '), language)).not.toEqual(expected)
  })

  describe.each(languagesWithCases)('%s', language => {
    const cases = casesOf(language)

    test('every case', () => {
      const wrong = cases.flatMap(marked => {
        const found = sentences(marked.replaceAll('|', ''), language)
        const expected = marked.split('|').map(sentence => sentence.trim())
        return found.join('|') === expected.join('|') ? [] : [`${found.join('|')} ← ${marked}`]
      })
      expect(wrong).toEqual([])
    })

    test('has forty cases at least, none twice', () => {
      expect(new Set(cases).size).toBe(cases.length)
      expect(cases.length).toBeGreaterThanOrEqual(40)
    })
  })

  test('a line break ends a sentence', () => {
    expect(sentences('One line\nAnother line')).toEqual(['One line', 'Another line'])
  })

  test('text in a script without spaces is divided at its own full stops', () => {
    expect(sentences('蜂は飛ぶ。花は咲く。', 'ja')).toEqual(['蜂は飛ぶ。', '花は咲く。'])
  })

  test('a text far longer than the segmenter is fed with keeps every sentence whole', () => {
    const sentence = 'The bees of hive number seven came home late and heavy.'
    const text = Array.from({ length: 400 }, () => sentence).join(' ')
    expect(new Set(sentences(text))).toEqual(new Set([sentence]))
    expect(sentences(text)).toHaveLength(400)
  })

  test('spans leave nothing out but white space', () => {
    const text = '  A first one.   And “a second”, e.g. this.  '
    const covered = sentenceSpans(text, 'en').reduce((rest, span) => rest.slice(0, span.start) + ' '.repeat(span.end - span.start) + rest.slice(span.end), text)
    expect(covered.trim()).toBe('')
  })
})
