import { compilePart } from '#core/score/compile'
import { announcementProblem, announcementText, aroundParts, doubledTitles, noAnnouncements, suggestedAnnouncements, unknownFields, withAnnouncements, type AnnouncedPart, type Announcements } from '#core/script/announcements'
import { plainContent, writtenText } from '#core/script/content'
import type { Part, PartKind, Passage } from '#core/script/script'
import { defaultHouseStyle } from '#core/style/house-style'
import { casting, engines } from '../../support/casting'

const work = { production: 'The Lane Year', author: 'T. Orrery', narrator: '', year: '2031', copyright: '' }
const listed = (id: string, kind: PartKind = 'chapter', more: Partial<AnnouncedPart> = {}): AnnouncedPart => ({ id, kind, label: `Label ${id}`, included: true, speaks: true, ...more })

/** What is around each part, in words; sounds in brackets. */
function around(parts: readonly AnnouncedPart[], given: Partial<Announcements>): string[] {
  const words = (passages: readonly Passage[]): string[] => passages.map(({ content }) => writtenText(content) || `[${content.directions.map(direction => 'sound' in direction ? direction.sound : '').join('')}]`)
  return [...aroundParts(parts, { ...noAnnouncements, ...given }, work, 'en')].map(([id, { before, after }]) => `${words(before).join(' ')} <${id}> ${words(after).join(' ')}`.trim())
}

describe('a template', () => {
  test.each([
    ['{production}, by {author}. Read by {narrator}.', 'The Lane Year, by T. Orrery.'],
    ['Read by {narrator}. {production}.', 'The Lane Year.'],
    ['{narrator}', ''],
    ['The  end.', 'The end.'],
    ['{production} ({year}), © {copyright}, all rights reserved.', 'The Lane Year (2031), all rights reserved.'],
    ['Stay {calm}, {constructor} and {author}.', 'Stay {calm}, {constructor} and T. Orrery.'],
    ['', ''],
  ])('%s says “%s”', (template, said) => {
    expect(announcementText(template, work)).toBe(said)
  })

  test('says which fields it cannot fill, and which it does not know', () => {
    expect(unknownFields('{author} {narrator} {copyright}', work)).toEqual(['narrator', 'copyright'])
    expect(announcementProblem('{production} {title}', 'opening')).toBe('It contains {title}; use {production} {author} {narrator} {year} {copyright}.')
    expect(announcementProblem('{number', 'part')).toContain('It contains {number; use')
    expect(announcementProblem('{number}', 'closing')).toContain('{number}')
    expect(announcementProblem('Chapter {number}: {part}', 'part')).toBeNull()
  })

  test.each(['en-GB', 'de', 'fr', 'es', 'ja'])('to begin with in %s has no problem', language => {
    const { opening, part, closing } = suggestedAnnouncements(language)
    expect([announcementProblem(opening, 'opening'), announcementProblem(part, 'part'), announcementProblem(closing, 'closing')]).toEqual([null, null, null])
  })
})

describe('around the parts', () => {
  test('credits are said once, parts of a kind are counted, front matter and hints are not announced, and what says nothing has nothing around it', () => {
    const parts = [listed('left', 'chapter', { included: false }), listed('silent', 'chapter', { speaks: false }), listed('front', 'frontMatter'), listed('a'), listed('s', 'slide'), listed('h', 'hint'), listed('b')]
    expect(around(parts, { opening: '{production}.', part: '{number}: {part}.', closing: 'The end.' })).toEqual([
      'The Lane Year. <front>', '1: Label a. <a>', '1: Label s. <s>', '<h>', '2: Label b. <b> The end.',
    ])
    expect(around([], { opening: 'Nobody hears it.' })).toEqual([])
  })

  test('sounds are first and last, of everything or of each part', () => {
    const parts = [listed('a'), listed('b')]
    const sounds = { opening: 'Hello.', closing: 'Bye.', intro: 'in.wav', outro: 'out.wav' }
    expect(around(parts, sounds)).toEqual(['[in.wav] Hello. <a>', '<b> Bye. [out.wav]'])
    expect(around(parts, { ...sounds, soundsOf: 'part' })).toEqual(['[in.wav] Hello. <a> [out.wav]', '[in.wav] <b> Bye. [out.wav]'])
  })

  test.each<[Announcements['ownFiles'], boolean[]]>([['none', [false, false, false]], ['credits', [true, false, true]], ['all', [true, true, true]]])('files of their own: %s', (ownFiles, expected) => {
    const given = aroundParts([listed('a')], { ...noAnnouncements, opening: 'O', part: 'P', closing: 'C', ownFiles, role: 'announcer' }, work, 'de-AT').get('a')!
    const passages = [...given.before, ...given.after]
    expect(passages.map(({ announcement }) => announcement?.isOwnFile)).toEqual(expected)
    expect(passages.map(({ announcement }) => announcement?.title)).toEqual(['Vorspann', 'P', 'Abspann'])
    expect(passages.map(({ role }) => role)).toEqual(Array(3).fill('announcer'))
    expect(passages.map(({ id }) => id)).toEqual(['a.opening', 'a.part', 'a.closing'])
  })
})

describe('a title that its announcement has said', () => {
  const part = (title: string, kind: Passage['kind'] = 'heading'): Part => ({ id: 'a', kind: 'chapter', label: title, included: true, passages: [{ id: '1', kind, content: plainContent(title) }] })
  const announced = (text: string, given: Part, repeats: Announcements['repeats'] = 'say'): Part =>
    withAnnouncements(given, aroundParts([listed('a', 'chapter', { label: given.label })], { ...noAnnouncements, part: text }, work, 'en').get('a')!, repeats)

  test.each<[string, Part, boolean]>([
    ['Chapter {number}: {part}.', part('The Mite Count'), true],
    ['Chapter {number}.', part('Chapter 1'), true],
    ['Chapter {number}.', part('The Mite Count'), false],
    ['The mite, counted.', part('The Mite Count'), false],
    ['Chapter {number}: {part}.', part('The Mite Count', 'paragraph'), false],
    ['{part}', part('—'), false],
  ])('%s', (text, given, isDoubled) => {
    const both = announced(text, given)
    expect(doubledTitles([{ ...both, passages: both.passages.map(passage => ({ ...passage, title: writtenText(passage.content) })) }])).toEqual(isDoubled ? [given.label] : [])
    expect(announced(text, given, 'skip').passages).toHaveLength(isDoubled ? 1 : both.passages.length)
  })
})

test('an intro is heard with a second of silence before the first word, an outro with a second after the last', () => {
  const given: Part = { id: 'a', kind: 'chapter', label: 'A', included: true, passages: [{ id: '1', kind: 'paragraph', content: plainContent('Only this.') }] }
  const sounds = { 'in.wav': { key: 'in', sampleCount: 500, sampleRate: 1000 }, 'out.wav': { key: 'out', sampleCount: 700, sampleRate: 1000 } }
  const whole = withAnnouncements(given, aroundParts([listed('a')], { ...noAnnouncements, intro: 'in.wav', outro: 'out.wav' }, work, 'en').get('a')!, 'say')
  const { utterances, soundsAfter, restAfterMs } = compilePart(whole, { language: 'en', style: defaultHouseStyle, casting, engines, sounds })
  expect(utterances.map(({ text, restBeforeMs, soundsBefore }) => [text, restBeforeMs, soundsBefore?.map(({ name, restBeforeMs }) => [name, restBeforeMs])])).toEqual([['Only this.', 1000, [['in.wav', 0]]]])
  expect([soundsAfter?.map(({ name, restBeforeMs }) => [name, restBeforeMs]), restAfterMs]).toEqual([[['out.wav', 1000]], undefined])
})
