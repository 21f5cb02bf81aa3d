import fc from 'fast-check'
import type { EngineRequest } from '#core/score/request'
import { ordersFor, partsOf, sliced, type Order, type OrderLimit } from '#voices/paid/orders'
import { textOf, type PaidPiece, type PaidSegment } from '#voices/paid/pieces'
import { markupOf } from '#voices/netvoice/markup'
import { readMarkup } from '../../../demo/speech-service/ssml'

// Few requests, never over the limit, nothing lost or doubled. What is counted is counted again by the simulated service's own reader of its markup.

const request: EngineRequest = { engine: 'netvoice', voice: 'en-gb-linnet', voiceRevision: '1', wordsPerMinute: 155, pitchSemitones: 0, body: null }

const texts: Readonly<Record<string, readonly string[]>> = {
  English: ['The colony winters as one ball; in a mild week they fly, and drop what they held. ', 'Bees & wasps < hornets. ', '“Nobody opens a hive then,” she said — and left. '],
  German: ['Das Volk überwintert als Kugel; in milden Wochen, so sagt man, fliegt es. ', 'Beuten-Bodenschieberreinigungsgerätschaften! ', 'Größe: 3 m². '],
  French: ['La colonie hiverne en boule : l’été, elle s’étale, et vole. ', '« Qui ouvre ? » dit-elle… ', 'Œuvre d’abeille. '],
  Japanese: ['ミツバチは冬の間、ひとつの球になる。', '暖かい週には、飛んで、排泄する。', '誰も巣箱を開けない。'],
}

const count = { plain: (parts: readonly Pick<PaidPiece, 'segments'>[]) => [...parts.map(textOf).join('')].length, marked: (parts: readonly Pick<PaidPiece, 'segments'>[]) => [...markupOf(parts)].length }

const segmentIn = (language: string): fc.Arbitrary<PaidSegment> => fc.record({
  text: fc.array(fc.constantFrom(...texts[language]!), { minLength: 1, maxLength: 12 }).map(pieces => pieces.join('')),
  rate: fc.constantFrom(1, 1, 0.8), pitchSemitones: fc.constantFrom(0, 0, 2),
  sign: fc.constantFrom('none', 'none', 'none', 'sound', 'letters'),
}).map(({ text, rate, pitchSemitones, sign }) => {
  if (sign === 'sound') return { text: text.slice(0, 12), rate, pitchSemitones, ph: 'ˈkɒləni' }
  return { text, rate, pitchSemitones, ...(sign === 'letters' ? { isSpelled: true as const } : {}) }
})

const utterancesIn = (language: string) => fc.array(fc.array(fc.array(segmentIn(language), { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 12 })

/** Segments with neighbours of one tone joined, so that cuts within one do not count. */
function joinedTones(segments: readonly PaidSegment[]): PaidSegment[] {
  const out: PaidSegment[] = []
  for (const segment of segments) {
    const last = out.at(-1)
    if (last !== undefined && segment.ph === undefined && JSON.stringify({ ...last, text: '' }) === JSON.stringify({ ...segment, text: '' })) out[out.length - 1] = { ...last, text: last.text + segment.text }
    else out.push(segment)
  }
  return out
}

describe.each(Object.keys(texts))('%s', language => {
  test.each(['plain', 'marked'] as const)('orders counted %s keep to the limit and say everything once, in order, with its directions', counted => {
    fc.assert(fc.property(utterancesIn(language), fc.integer({ min: 300, max: 10_000 }), fc.boolean(), (utterances, characters, isDivisible) => {
      const limit: OrderLimit = { characters, count: count[counted], isDivisible }
      const all = utterances.map((pieces, index) => {
        let begins = 0
        const parts = pieces.flatMap((segments, number) => {
          const own = partsOf(String(index), { segments }, number, begins, limit)
          begins += textOf({ segments }).length + 1
          return own
        })
        return { key: String(index), request, parts }
      })
      const orders = ordersFor(all, limit)
      for (const { parts } of orders) {
        const markup = markupOf(parts)
        expect(counted === 'plain' ? readMarkup(markup).characters : [...markup].length).toBeLessThanOrEqual(characters)
        expect(readMarkup(markup).sentences.length).toBeGreaterThan(0)
        if (!isDivisible) expect(parts).toHaveLength(1)
      }
      const said = orders.flatMap(({ parts }) => parts)
      utterances.forEach((pieces, index) => pieces.forEach((segments, number) => {
        const own = said.filter(({ key, piece }) => key === String(index) && piece === number)
        expect(joinedTones(own.flatMap(part => part.segments))).toEqual(joinedTones(segments))
      }))
      expect(said.map(({ key }) => Number(key))).toEqual(said.map(({ key }) => Number(key)).toSorted((a, b) => a - b))
    }), { numRuns: 60 })
  })
})

const limit = (characters: number): OrderLimit => ({ characters, count: count.plain, isDivisible: true })
const piece = (text: string): PaidPiece => ({ segments: [{ text, rate: 1, pitchSemitones: 0 }] })
const textsOf = (orders: readonly Order[]): string[] => orders.map(({ parts }) => parts.map(textOf).join('|'))

test.each([
  ['behind a clause', 'The bees came home late, and the hive was full of them.', 40, ['The bees came home late, ', 'and the hive was full of them.']],
  ['behind a word where the clause is too short', 'Oh, the bees came home and the hive was full.', 30, ['Oh, the bees came home and ', 'the hive was full.']],
  ['within a word that is too long', 'Bodenschieberreinigung', 10, ['Bodenschie', 'berreinigu', 'ng']],
  ['never within a character as readers see it', '👩‍🌾👩‍🌾👩‍🌾', 4, ['👩‍🌾', '👩‍🌾', '👩‍🌾']],
])('a text is cut %s', (_, text, characters, expected) => {
  expect(partsOf('k', piece(text), 0, 0, limit(characters)).map(textOf)).toEqual(expected)
})

test('a pronunciation goes whole into the next part, and one that is too long by itself is a problem', () => {
  const segments = [{ text: 'The bees of the ', rate: 1, pitchSemitones: 0 }, { text: 'Llanfair hive', rate: 1, pitchSemitones: 0, ph: 'x' }]
  expect(partsOf('k', { segments }, 0, 0, limit(20)).map(textOf)).toEqual(['The bees of the ', 'Llanfair hive'])
  expect(() => partsOf('k', { segments }, 0, 0, limit(12))).toThrow('alone has more')
})

test('utterances of different voices and paces are asked for apart, and each keeps its own order', () => {
  const one = (key: string, text: string, change: Partial<EngineRequest> = {}) => ({ key, request: { ...request, ...change }, parts: partsOf(key, piece(text), 0, 0, limit(300)) })
  const orders = ordersFor([one('a', 'One.'), one('b', 'Two.', { wordsPerMinute: 120 }), one('c', 'Three.'), one('d', 'Four.', { voice: 'de-amsel' })], limit(300))
  expect(textsOf(orders)).toEqual(['One.|Three.', 'Two.', 'Four.'])
})

test('segments are cut at places of their text', () => {
  const segments = [{ text: 'abc', rate: 1, pitchSemitones: 0 }, { text: 'de', rate: 1, pitchSemitones: 0, ph: 'x' }, { text: 'fgh', rate: 2, pitchSemitones: 0 }]
  expect(sliced(segments, 1, 4).map(({ text }) => text)).toEqual(['bc', 'de'])
  expect(sliced(segments, 4, 7).map(({ text }) => text)).toEqual(['fg'])
})
