import fc from 'fast-check'
import { canonicalContent, type Content, type Run } from '#core/script/content'
import { emphasisLevels, restStrengths, type Direction, type DirectionValue } from '#core/script/directions'
import { passageKinds, type Passage } from '#core/script/script'

// Random scripts with every kind of direction.

const words = fc.constantFrom('bees', 'hive', 'Dr.', '1987', 'a & b', '5 < 6', 'größe', '“wax”', '🐝', 'naïve', ']]>', 'end.', '3 kg')
const text = fc.array(words, { minLength: 1, maxLength: 4 }).map(list => list.join(' '))
const short = fc.constantFrom('x', 'two words', 'a"b', '<&>', 'ə', 'line\nbreak')
const attributes = fc.dictionary(fc.constantFrom('name', 'gender', 'age'), fc.constantFrom('male', '30', 'a"b & c'))

export const spanValue: fc.Arbitrary<DirectionValue> = fc.oneof(
  fc.constant<DirectionValue>({ kind: 'leftOut' }),
  fc.constantFrom(...emphasisLevels).map((level): DirectionValue => ({ kind: 'emphasis', level })),
  fc.record({ interpretAs: short, format: short }, { requiredKeys: ['interpretAs'] }).map((value): DirectionValue => ({ kind: 'sayAs', ...value })),
  short.map((alias): DirectionValue => ({ kind: 'substitute', alias })),
  fc.record({ ph: short, alphabet: fc.constant('ipa') }, { requiredKeys: ['ph'] }).map((value): DirectionValue => ({ kind: 'phoneme', ...value })),
  fc.record({ rate: fc.constantFrom('80%', 'slow'), pitch: fc.constantFrom('+2st', 'low'), volume: fc.constant('-6dB') }, { requiredKeys: ['rate'] }).map((value): DirectionValue => ({ kind: 'prosody', ...value })),
  fc.constantFrom('de', 'la', 'fr-FR').map((language): DirectionValue => ({ kind: 'language', language })),
  fc.constantFrom('Mentor', 'A "B"').map((role): DirectionValue => ({ kind: 'role', role })),
  attributes.map((value): DirectionValue => ({ kind: 'voice', attributes: value })),
  fc.constantFrom<DirectionValue>({ kind: 'kept', element: 'token', attributes: { 'role': 'x' } }, { kind: 'kept', element: 'x:tone', attributes: { 'xmlns:x': 'urn:x', 'mood': 'dry' } }),
)

export const pointValue: fc.Arbitrary<DirectionValue> = fc.oneof(
  fc.integer({ min: 0, max: 20_000 }).map((ms): DirectionValue => ({ kind: 'rest', ms })),
  fc.constantFrom(...restStrengths).map((strength): DirectionValue => ({ kind: 'rest', strength })),
  fc.record({ sound: fc.constantFrom('bell.wav', 'a b&c.mp3'), inner: fc.constant('<desc>bell</desc>') }, { requiredKeys: ['sound'] }).map((value): DirectionValue => ({ kind: 'sound', ...value })),
  fc.constantFrom<DirectionValue>({ kind: 'keptPoint', xml: '<mark name="here"/>' }, { kind: 'keptPoint', xml: '<!-- a note -->' }),
)

interface Piece {
  readonly text: string
  readonly point: DirectionValue | null
  readonly on: readonly number[]
}

const piece: fc.Arbitrary<Piece> = fc.record({
  text, point: fc.option(pointValue, { freq: 4 }), on: fc.uniqueArray(fc.nat({ max: 4 }), { maxLength: 4 }),
})

/** Contents whose directions may cross, touch, and come again after a gap. */
export const content: fc.Arbitrary<Content> = fc.tuple(fc.array(piece, { maxLength: 7 }), fc.array(spanValue, { minLength: 5, maxLength: 5 })).map(([pieces, values]) => {
  const directions: Direction[] = values.map((value, index) => ({ id: `s${index}`, ...value }))
  const runs: Run[] = []
  pieces.forEach((each, index) => {
    const on = each.on.map(which => `s${which}`)
    if (each.point === null) {
      runs.push({ text: `${each.text} `, on })
    } else {
      directions.push({ id: `p${index}`, ...each.point })
      runs.push({ text: '', on, point: `p${index}` })
    }
  })
  return canonicalContent({ version: 2, runs, directions })
})

export const passage: fc.Arbitrary<Omit<Passage, 'id'>> = fc.record(
  { kind: fc.constantFrom(...passageKinds), content, language: fc.constantFrom('de', 'la'), role: fc.constantFrom('Mentor', 'Apprentice') },
  { requiredKeys: ['kind', 'content'] },
)
