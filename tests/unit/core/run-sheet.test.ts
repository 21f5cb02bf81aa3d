import { noDetails } from '#core/delivery/details'
import { defaultNameRules, namePatternProblem, type NameField, type NameRules } from '#core/delivery/naming'
import { defaultSplit, type FileSplit } from '#core/delivery/file-split'
import { defaultProfile } from '#core/delivery/profiles'
import { playlist } from '#core/delivery/lists'
import { id3Language } from '#core/delivery/id3-language'
import { fileName, fileSafe, fileWritten, numberLabel } from '#core/runsheet/file-name'
import { fileFingerprint, runSheet, tagsFor } from '#core/runsheet/run-sheet'
import type { CastScore, CastUtterance } from '#core/score/request'
import { takenUtterance as utterance } from '../../support/casting'
import { heardPart, heardSheet } from '../../support/sheet'

const score = (...utterances: CastUtterance[]): CastScore => ({ partId: 'p', utterances })
const heard = (given: CastScore): string => heardSheet([heardPart(given, 'Notes')])[0]!.sound
const part = (number: number, label: string, spoken = true): ReturnType<typeof heardPart> => heardPart(score(...(spoken ? [utterance('a')] : [])), label, number)

describe('file names', () => {
  test.each([
    ['What the Entrance Tells', 'what-the-entrance-tells'],
    ['Oswin’s “Quarrel” / over: Supers?', 'oswins-quarrel-over-supers'],
    ['Über Blüten & Bäume', 'uber-bluten-baume'],
    ['Пчёлы', 'pchyoly'],
    ['蜂', 'feng'],
    ['../../etc/passwd', 'etc-passwd'],
    ['CON', 'part-con'],
    ['🐝', 'part'],
    ['x'.repeat(300), 'x'.repeat(80)],
  ])('%s becomes %s', (title, expected) => {
    expect(fileSafe(title)).toBe(expected)
  })

  const named = (pattern: string, number: string, title: string, rules: Partial<NameRules> = {}, values: Partial<Record<NameField, string>> = {}): string =>
    fileName(pattern, { ...values, number, title }, { ...defaultNameRules, ...rules })

  test('the number is padded to the count', () => {
    expect(named('{number}-{title}', numberLabel(7, 9), 'Lime Flow')).toBe('07-lime-flow')
    expect(named('{number}-{title}', numberLabel(7, 120), 'Lime Flow')).toBe('007-lime-flow')
    expect(numberLabel(7, 9, null, 4)).toBe('0007')
    expect(numberLabel(7, 9, null, 1)).toBe('7')
    expect(named('{number} Marrow Lane - {title}', numberLabel(12, 40), 'Lime Flow')).toBe('12 Marrow Lane - lime-flow')
  })

  test('pieces of what has a number sort in order, however many there are', () => {
    const labels = Array.from({ length: 60 }, (_, index) => named('{number}-{title}', numberLabel(1, 9, index + 1), 'Flow'))
    expect([labels[0], labels[24], labels[25]]).toEqual(['01a-flow', '01y-flow', '01za-flow'])
    expect([...labels].sort()).toEqual(labels)
  })

  test('fields of the work are filled in; one for which there is nothing goes with the sign before it', () => {
    const values = { production: 'The Marrow Lane Year', author: '', language: 'en-GB', voice: 'en-gb+f3', date: '2031-05-04' }
    expect(named('{production}-{number}-{author}-{title}_{language}', '07', 'Lime Flow', {}, values)).toBe('the-marrow-lane-year-07-lime-flow_en-gb')
    expect(named('{date} {number} {voice}', '07', '', {}, values)).toBe('2031-05-04 07 en-gb-f3')
    expect(named('{author}-{number}-{title}', '07', 'Lime Flow', {}, values)).toBe('07-lime-flow')
  })

  test('who says most of a file gives it voice and role; the narrator where nobody says more', () => {
    const says = (key: string, role: string | null, passageId: string): CastUtterance => ({ ...utterance(key), passageId, ...(role === null ? {} : { role }) })
    const dialogue = score(says('a', null, '1'), says('b', 'r2', '2'), says('c', 'r2', '3'), says('d', 'r3', '4'), says('e', null, '5'))
    const profile = { ...defaultProfile, namePattern: '{number}-{role}-{voice}' }
    const places = { work: { production: 'Bees', author: '', language: 'en', voice: 'en', role: 'Narrator', date: '' }, speakers: new Map([['r2', { role: 'Hob', voice: 'en+m3' }], ['r3', { role: 'Wren', voice: 'de' }]]) }
    const names = (split: Partial<FileSplit>): string[] => runSheet([heardPart(dialogue, 'Talk')], { ...profile, split: { ...defaultSplit, ...split } }, places).map(({ name }) => name)
    expect(names({ where: { by: 'part' } })).toEqual(['01-narrator-en.mp3'])
    expect(names({ where: { by: 'passage' } })).toEqual(['01-narrator-en.mp3', '02-hob-en-m3.mp3', '03-hob-en-m3.mp3', '04-wren-de.mp3', '05-narrator-en.mp3'])
    const [, ...answers] = dialogue.utterances
    expect(runSheet([heardPart(score(...answers), 'Talk')], profile, places)[0]!.name).toBe('01-hob-en-m3.mp3')
  })

  test.each([
    ['Über Blüten & Bäume', 'Über Blüten & Bäume'],
    ['AC/DC: “Live?” <1>', 'AC-DC “Live ” 1'],
    ['Пчёлы 蜂 🐝', 'Пчёлы 蜂 🐝'],
    ['..\\..\\boot.ini', 'boot.ini'],
    ['aux', 'part aux'],
    ['\u202eevil\u0000', 'evil'],
    ['Ends with dots...', 'Ends with dots'],
    ['?', 'part'],
  ])('letters as they are written: %j becomes %j', (title, expected) => {
    expect(fileWritten(title)).toBe(expected)
    expect(named('{number} {title}', '07', title, { letters: 'written' })).toBe(`07 ${expected}`)
  })

  test('a name that is too long loses the end of its longest field, never its number', () => {
    const title = 'A long title of eighty letters and more, as articles have them, in many words'
    // 255 bytes is what file systems take.
    const long = named(`${'{title}-'.repeat(7)}{number}${'-{title}'.repeat(7)}`, '07', title)
    expect(long.length).toBeLessThanOrEqual(240)
    expect(long.length).toBeGreaterThan(200)
    expect(long).toContain('-07-')
    expect(named('{production}-{number}-{title}', '07', 'Lime', { longest: 20 }, { production: 'The Marrow Lane Year' })).toBe('the-marrow-l-07-lime')
    const written = named('{number} {title}', '07', '蜂'.repeat(80), { letters: 'written' })
    expect(Buffer.byteLength(written)).toBeLessThanOrEqual(240)
    expect(written.startsWith('07 蜂')).toBe(true)
  })

  test('a pattern knows its fields, has the number, and has it before what differs', () => {
    expect(namePatternProblem('{number}-{title}')).toBeNull()
    expect(namePatternProblem('{production} {language} {number} {part}')).toBeNull()
    expect(namePatternProblem('{title}')).toContain('must have {number}')
    expect(namePatternProblem('{title}-{number}')).toContain('Put {number} before {title}')
    expect(namePatternProblem('{within}-{number}')).toContain('Put {number} before {within}')
    expect(namePatternProblem('{number}-{isbn}')).toContain('{isbn}')
    expect(namePatternProblem('{number}-{title')).toContain('{title;')
    expect(namePatternProblem(`{number}${'x'.repeat(130)}`)).toContain('too long')
  })
})

describe('the run sheet', () => {
  test('has one file a part, numbered in order, equal titles kept apart by their numbers', () => {
    const sheet = heardSheet([part(1, 'Notes'), part(2, 'Empty', false), part(3, 'Notes')])
    expect(sheet.map(file => [file.number, file.name, file.parts])).toEqual([[1, '01-notes.mp3', [1]], [2, '02-notes.mp3', [3]]])
  })

  test('names sort in playing order', () => {
    const names = heardSheet(Array.from({ length: 120 }, (_, index) => part(index + 1, `Chapter ${index + 1}`))).map(file => file.name)
    expect([...names].sort()).toEqual(names)
  })

  describe('of a deck', () => {
    const slide = (number: number, own: number | undefined, spoken = true) => ({ ...part(number, `Slide ${own ?? 'hint'}`, spoken), about: own === undefined ? null : { slide: own } })
    const named = (parts: readonly ReturnType<typeof part>[], counts: NameRules['counts'] = 'parts', rules: Partial<NameRules> = {}, split: Partial<FileSplit> = {}) =>
      runSheet(parts, { ...defaultProfile, nameRules: { ...defaultNameRules, counts, ...rules }, split: { ...defaultSplit, ...split } }).map(({ name }) => name)

    test('a slide keeps its number though one before it says nothing, when it is asked for', () => {
      const deck = [slide(1, 4), slide(2, 5, false), slide(3, 6)]
      expect(named(deck)).toEqual(['04-slide-4.mp3', '06-slide-6.mp3'])
      expect(named(deck, 'files')).toEqual(['01-slide-4.mp3', '02-slide-6.mp3'])
      expect(named(deck, 'parts', { firstNumber: 0, digits: 3 })).toEqual(['003-slide-4.mp3', '005-slide-6.mp3'])
    })

    test('its hints have its number, with letters in order', () => {
      expect(named([slide(1, 1), slide(2, 2), slide(3, undefined), slide(4, undefined), slide(5, 3)])).toEqual(['01-slide-1.mp3', '02a-slide-2.mp3', '02b-slide-hint.mp3', '02c-slide-hint.mp3', '03-slide-3.mp3'])
    })

    test('slides in another order than their deck have the numbers of their places, so that names sort', () => {
      expect(named([slide(1, 3), slide(2, 1, false), slide(3, 2)])).toEqual(['01-slide-3.mp3', '03-slide-2.mp3'])
    })

    test('chapters have the numbers of their places', () => {
      expect(named([part(1, 'One'), part(2, 'Two', false), part(3, 'Three')])).toEqual(['01-one.mp3', '03-three.mp3'])
    })

    test('names say the slide', () => {
      const profile = { ...defaultProfile, namePattern: '{number}-slide-{slide}' }
      expect(runSheet([slide(1, 7), slide(2, undefined)], profile).map(({ name }) => name)).toEqual(['01-slide-07.mp3', '02-slide.mp3'])
      expect(namePatternProblem('{slide}-{number}')).toContain('Put {number} before {slide}')
    })
  })

  describe('of articles', () => {
    const article = (number: number, author: string | undefined, date: string | undefined) => ({ ...part(number, `Article ${number}`), about: { ...(author === undefined ? {} : { author }), ...(date === undefined ? {} : { date }) } })
    const articles = [article(1, 'Hob Linden', '2031-05-04T08:30:00Z'), article(2, undefined, 'last Tuesday'), article(3, 'Hob Linden', '2031-06-01')]
    const places = { work: { production: 'Letters', author: 'Wren Alder', language: 'en', voice: 'en', role: 'Narrator', date: '2032-01-01' } }
    const letters = { title: 'Letters', author: 'Wren Alder', language: 'en', details: { ...noDetails, year: '2032' }, cover: null }

    test('names and tags have the author and the date of each, as far as it has them', () => {
      const profile = { ...defaultProfile, namePattern: '{number}-{date}-{author}' }
      const sheet = runSheet(articles, profile, places)
      expect(sheet.map(({ name }) => name)).toEqual(['01-2031-05-04-hob-linden.mp3', '02-2032-01-01-wren-alder.mp3', '03-2031-06-01-hob-linden.mp3'])
      expect(sheet.map(file => tagsFor(file, 3, letters)).map(({ author, albumAuthor, year, date }) => [author, albumAuthor, year, date])).toEqual([
        ['Hob Linden', 'Wren Alder', '2031', '2031-05-04'], ['Wren Alder', undefined, '2032', undefined], ['Hob Linden', 'Wren Alder', '2031', '2031-06-01'],
      ])
    })

    test('a file with several has what they have in common', () => {
      const [whole] = runSheet([articles[0]!, articles[2]!], { ...defaultProfile, split: { ...defaultSplit, where: { by: 'whole' } } }, places)
      expect(whole!.own).toEqual({ author: 'Hob Linden' })
    })
  })

  const work = { title: 'Year', author: null, language: 'en-GB', details: noDetails, cover: null }
  const [file] = heardSheet([part(1, 'Notes')])

  test('a file’s tags say title, place, album and language', () => {
    expect(tagsFor(file!, 9, work)).toEqual({ title: 'Notes', track: 1, trackCount: 9, album: 'Year', author: '', language: 'eng', ...noDetails, chapters: [], cover: null })
  })

  test('the fingerprint follows takes, rests, level, tags, format and encoder, and nothing else', () => {
    const base = score(utterance('a'), utterance('b', 300))
    const tags = tagsFor(file!, 9, work)
    const same = fileFingerprint(heard(base), tags, { ...defaultProfile, namePattern: '{number}' }, 'e1')
    expect(same).toBe(fileFingerprint(heard({ ...base, partId: 'q' }), tags, defaultProfile, 'e1'))
    // A database gives the members of a profile back in another order.
    expect(same).toBe(fileFingerprint(heard(base), tags, Object.fromEntries(Object.entries(defaultProfile).reverse()) as typeof defaultProfile, 'e1'))
    const others = [
      fileFingerprint(heard(score(utterance('a'), utterance('c', 300))), tags, defaultProfile, 'e1'),
      fileFingerprint(heard(score(utterance('a'), utterance('b', 301))), tags, defaultProfile, 'e1'),
      fileFingerprint(heard(score(utterance('a', 0, -4), utterance('b', 300, -4))), tags, defaultProfile, 'e1'),
      fileFingerprint(heard(base), { ...tags, trackCount: 10 }, defaultProfile, 'e1'),
      fileFingerprint(heard(base), tags, { ...defaultProfile, tailMs: 1000 }, 'e1'),
      fileFingerprint(heard(base), tags, defaultProfile, 'e2'),
    ]
    expect(new Set([same, ...others]).size).toBe(7)
  })
})

// ISO 639-2/T, as ID3v2.3 asks for in its language frame.
test.each([['en', 'eng'], ['de-CH', 'deu'], ['cmn', 'cmn'], ['xx', 'und']])('the ID3 language of %s is %s', (tag, code) => {
  expect(id3Language(tag)).toBe(code)
})

test('a playlist names a file that begins with a hash so that it is no comment', () => {
  const file = { number: 1, name: '#1 Winter.mp3', title: 'Winter', parts: [1], durationMs: 1500, sampleCount: 1, sha256: '', chapters: [], sentences: [] }
  expect(playlist({ version: 1, title: '#1', language: 'en', files: [file] })).toBe('#EXTM3U\n#PLAYLIST:#1\n#EXTINF:1.500,Winter\n./#1 Winter.mp3\n')
})
