import { shortcomingsOf } from '#core/score/shortcomings'
import { checkSsml } from '#core/script/ssml/check'
import { readFragment } from '#core/script/ssml/read'
import { unsupported } from '#core/script/ssml/unsupported'
import { engines, narrator } from '../../support/casting'

/** What is told of a fragment as a script, and of the same as a document. */
function told(fragment: string): readonly [script: readonly string[], document: readonly string[]] {
  const { root, source } = checkSsml(fragment, { fragmentLanguage: 'en-GB' })
  const passage = { id: 'p', kind: 'paragraph', content: readFragment(root!, source)!.content } as const
  return [
    shortcomingsOf(passage, { casting: narrator }, engines, 'en-GB').map(({ start, end, message }) => `${start}-${end} ${message}`),
    unsupported(root!, source, { casting: narrator, engine: engines['espeak']!, language: 'en-GB' }).map(({ message }) => message),
  ]
}

// Limits of the embedded engine: 95 to 400 words a minute, 7 semitones down and 8 up, no level above its own.
test.each([
  ['A <prosody rate="20%">big</prosody> hive.', '2-5 That is 31 words a minute'],
  ['A <prosody rate="300%">big</prosody> hive.', '2-5 That is 465 words a minute'],
  ['A <prosody pitch="+9st">big</prosody> hive.', '2-5 With the role’s own pitch that is 9 semitones'],
  ['A <prosody pitch="-50%">big</prosody> hive.', '2-5 With the role’s own pitch that is -12 semitones'],
  ['A <prosody pitch="+5st">very <prosody pitch="+5st">big</prosody></prosody> hive.', '7-10 With all that is around it that is 10 semitones'],
  ['A <prosody pitch="100Hz">big</prosody> hive.', '2-5 This voice takes a pitch in semitones or per cent, not in Hz.'],
  ['A <prosody pitch="+20Hz">big</prosody> hive.', '2-5 This voice takes a pitch in semitones or per cent, not in Hz.'],
  ['A <prosody range="+20Hz">big</prosody> hive.', '2-5 This voice takes a range in per cent or by name only.'],
  ['A <prosody volume="+3dB">big</prosody> hive.', '2-5 There is room for 0 dB above the role’s volume; what is louder is held back to that.'],
  ['A <prosody volume="-6dB">very <prosody volume="+9dB">big</prosody></prosody> hive.', '7-10 There is room for 0 dB'],
  ['A <prosody contour="(0%,+10Hz)">big</prosody> hive.', '2-5 This voice follows no contour of pitch.'],
  ['A <prosody duration="2s">big</prosody> hive.', '2-5 This voice cannot be given a length.'],
  ['A <phoneme alphabet="x-own" ph="a">big</phoneme> hive.', '2-5 The alphabet “x-own” is not understood.'],
  ['A <say-as interpret-as="date">big</say-as> hive.', '2-5 '],
])('%s is told alike as a script and as a document', (fragment, expected) => {
  const [script, document] = told(fragment)
  expect(script).toHaveLength(1)
  expect(script[0]!.startsWith(expected)).toBe(true)
  expect(document).toEqual(script.map(each => each.replace(/^\S+ /u, '')))
})

test.each(['A <prosody rate="80%" pitch="+2st" volume="-3dB">big</prosody> hive.', 'A <emphasis>big</emphasis> <mark name="x"/>hive.', '<prosody volume="-9dB">A <prosody volume="+6dB">big</prosody> hive.</prosody>', '<prosody pitch="-5st">A <prosody pitch="+9st">big</prosody> hive.</prosody>'])('of %s nothing is told', fragment => {
  expect(told(fragment)).toEqual([[], []])
})
