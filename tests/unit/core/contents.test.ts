import type { ExaminedFile } from '#core/delivery/conformance'
import { judgeMade, placed, type ExpectedContents } from '#core/delivery/contents'
import type { DeliveryProfile } from '#core/delivery/profile'
import { profiles } from '#core/delivery/profiles'
import { measure, type Measure } from '#core/mastering/measure'

const rate = 44_100
const profile = profiles.book

/** So many seconds of a hum at the level of the profile, or of silence. */
function stretch(seconds: number, isSilent = false): Measure {
  const samples = new Int16Array(seconds * rate)
  if (!isSilent) for (let i = 0; i < samples.length; i += 1) samples[i] = Math.round(4600 * Math.sin(i / 20))
  return measure(samples, rate)
}

const [head, words, tail] = [stretch(0.7, true), stretch(10), stretch(1.5, true)]

const file = (measures: readonly Measure[], change: Partial<ExaminedFile> = {}): ExaminedFile => ({
  name: 'a.mp3', bytes: 1000, codec: 'mp3', sampleRate: rate, channels: 1, bits: null, bitRateKbps: 192, isConstant: true, track: { number: 1, of: 3 }, title: 'Winter', album: 'The Year', author: 'T. Orrery',
  chapters: 2, hasCover: true, toldMs: measures.reduce((sum, each) => sum + each.sampleCount, 0) * 1000 / rate, measures, ...change,
})

const expected = (change: Partial<ExpectedContents> = {}): ExpectedContents =>
  ({ title: 'Winter', album: 'The Year', author: 'T. Orrery', track: { number: 1, of: 3 }, chapters: 2, hasCover: true, durationMs: 12_200, spoken: [{ startMs: 700, endMs: 10_700 }], ...change })

const whole = [head, words, tail]

test('what a file should hold is found in it, or missed', () => {
  const found = (change: Partial<ExaminedFile>): string[] => judgeMade(file(whole, change), expected(), profile).map(({ code, message }) => `${code}: ${message}`)
  expect(found({})).toEqual([])
  expect(found({ title: 'Winter ', toldMs: null })).toEqual([])
  expect(found({ album: null })).toEqual(['wrong-tags: Its tags give it the album “”, not “The Year”.'])
  expect(found({ track: { number: 2, of: 3 } })).toEqual(['wrong-tags: Its tags say that it is 2 of 3, not 1 of 3.'])
  expect(found({ track: null })).toEqual(['wrong-tags: Its tags say that it is no, not 1 of 3.'])
  expect(found({ chapters: 1 })).toEqual(['wrong-chapters: It has 1 chapters, not 2.'])
  expect(found({ hasCover: false })).toEqual(['wrong-cover: Its cover is missing.'])
  expect(found({ toldMs: 6000 })).toEqual(['wrong-length: It lasts 0:06, not 0:12.'])
})

test('what a format has no place for is not missed', () => {
  const wrong = (profile: DeliveryProfile, codec: string): string[] => {
    const examined = file(whole, { codec, sampleRate: profile.sampleRate, bits: profile.bits, chapters: 0, hasCover: false, toldMs: null, isConstant: null })
    return judgeMade(examined, expected(), { ...profile, limits: profiles.archive.limits }).map(({ code }) => code).filter(code => code.startsWith('wrong'))
  }
  expect(wrong(profiles.telephony, 'pcm_mulaw')).toEqual([])
  // WAV has no chapters, but a cover.
  expect(wrong(profiles['telephony-wide'], 'pcm_s16le')).toEqual(['wrong-cover'])
})

test('a silence where the script has speech is a fault; one between sentences is none', () => {
  const silent = [head, words, stretch(3, true), words, tail]
  const spoken = [{ startMs: 700, endMs: 10_700 }, { startMs: 13_700, endMs: 23_700 }]
  const judged = (spans: ExpectedContents['spoken'], measures = silent): unknown[] => judgeMade(file(measures), expected({ durationMs: file(measures).toldMs!, spoken: spans }), profile).map(({ code, atMs }) => [code, Math.round(atMs!)])
  expect(judged(spoken)).toEqual([])
  expect(judged([{ startMs: 700, endMs: 23_700 }])).toEqual([['long-silence', 10_700]])
  // Of a silence that begins before a sentence only what is within it counts.
  expect(judged([spoken[0]!, { startMs: 12_000, endMs: 23_700 }])).toEqual([])
  // What is too long for the profile, too, is one fault.
  expect(judged([{ startMs: 700, endMs: 32_700 }], [head, words, stretch(12, true), words, tail])).toEqual([['long-silence', 10_700]])
})

test('a fault has the sentence that is heard there', () => {
  const said = [{ passageId: 'p', key: 'k1', text: 'One.', startMs: 700, endMs: 2000 }, { passageId: 'p', key: 'k2', text: 'Two.', startMs: 2400, endMs: 4000 }]
  const at = (atMs: number | null): string | undefined => placed({ code: 'clipped', file: 'a.mp3', atMs, message: '', remedy: '' }, said).place?.text
  expect([at(null), at(0), at(1500), at(2399), at(2400), at(9000)]).toEqual([undefined, 'One.', 'One.', 'One.', 'Two.', 'Two.'])
  expect(placed({ code: 'clipped', file: 'a.mp3', atMs: 0, message: '', remedy: '' }, []).place).toBeUndefined()
})
