import { resample, resampledCount } from '#core/audio/resample'
import { renderTrack, sliceTrack, type PlayableTrack } from '#core/audio/track'
import { windowOf } from '#core/runsheet/window'

/** A sine of so many Hz, at half of full scale. */
const sine = (hz: number, rate: number, seconds: number): Int16Array => Int16Array.from({ length: Math.round(rate * seconds) }, (_, at) => Math.round(16_384 * Math.sin(2 * Math.PI * hz * at / rate)))

/** By how many dB the difference from what a sine is at a rate lies below it; its ends are left out, where the filter has nothing on one side. */
function distanceDb(samples: Int16Array, hz: number, rate: number): number {
  let [signal, noise] = [0, 0]
  for (let at = 200; at < samples.length - 200; at += 1) {
    const expected = 16_384 * Math.sin(2 * Math.PI * hz * at / rate)
    signal += expected ** 2
    noise += (samples[at]! - expected) ** 2
  }
  return 10 * Math.log10(signal / noise)
}

describe('resampling', () => {
  test.each([
    [16_000, 22_050, 440], [16_000, 22_050, 3_000], [22_050, 24_000, 1_000], [24_000, 22_050, 5_000], [44_100, 22_050, 1_000], [8_000, 48_000, 3_000], [48_000, 22_050, 8_000],
  ])('from %i to %i Hz, a sine of %i Hz is what it is by definition, to within 70 dB', (from, to, hz) => {
    const made = resample(sine(hz, from, 0.5), from, to)
    expect(made).toHaveLength(resampledCount(Math.round(from / 2), from, to))
    expect(distanceDb(made, hz, to)).toBeGreaterThan(70)
  })

  test('what the lower rate cannot hold is not heard as something else', () => {
    const made = resample(sine(12_000, 48_000, 0.5), 48_000, 22_050)
    expect(Math.max(...made.subarray(200, -200).map(Math.abs))).toBeLessThan(16)
  })

  test('is the same every time, and leaves a rate that is right alone', () => {
    const speech = sine(300, 16_000, 0.2)
    expect(resample(speech, 16_000, 22_050)).toEqual(resample(speech, 16_000, 22_050))
    expect(resample(speech, 16_000, 16_000)).toBe(speech)
  })
})

describe('lanes', () => {
  const takes: Readonly<Record<string, Int16Array>> = { speech: new Int16Array(1000).fill(100), hum: Int16Array.from({ length: 30 }, (_, at) => at) }
  const track: PlayableTrack = {
    sampleRate: 1000, sampleCount: 1500,
    lanes: {
      speech: [{ take: null, fromSample: 0, startSample: 0, sampleCount: 500, gainDb: 0 }, { take: 'speech', fromSample: 0, startSample: 500, sampleCount: 1000, gainDb: 0 }],
      beds: [{ take: 'hum', length: 30, startSample: 400, sampleCount: 300, gainDb: 0, fadeSamples: 0 }],
    },
  }
  const render = async (of = track, from?: number, to?: number): Promise<number[]> => {
    const samples: number[] = []
    for await (const stretch of renderTrack(of, take => Promise.resolve(takes[take]!), from, to)) samples.push(...stretch)
    return samples
  }

  test('a bed is added to the speech and to the silence around it, again and again until its end', async () => {
    const samples = await render()
    expect(samples).toEqual(Array.from({ length: 1500 }, (_, at) => (at >= 500 ? 100 : 0) + (at >= 400 && at < 700 ? (at - 400) % 30 : 0)))
  })

  test('a sound that is asked for above full scale is held back to it, and no sample is clipped', async () => {
    const piece = { take: 'hum', fromSample: 0, startSample: 0, sampleCount: 30, gainDb: 80 }
    const samples = await render({ sampleRate: 1000, sampleCount: 30, lanes: { speech: [piece], beds: [] } })
    expect(samples).toEqual([...takes['hum']!].map(sample => Math.round(sample / 29 * 32_767)))
    // Where there is room it is as loud as it is asked to be, and a piece of it is held back like the whole.
    expect(await render({ sampleRate: 1000, sampleCount: 30, lanes: { speech: [{ ...piece, gainDb: 20 }], beds: [] } })).toEqual([...takes['hum']!].map(sample => sample * 10))
    expect(await render({ sampleRate: 1000, sampleCount: 30, lanes: { speech: [piece], beds: [] } }, 3, 9)).toEqual(samples.slice(3, 9))
  })

  test('any range is the same as that of the whole, also when it is cut out', async () => {
    const whole = await render()
    for (const [from, to] of [[0, 10], [399, 402], [450, 550], [690, 1500]] as const) {
      expect(await render(track, from, to)).toEqual(whole.slice(from, to))
      expect(await render(sliceTrack(track, from, to))).toEqual(whole.slice(from, to))
    }
  })

  test('it grows and fades, and what would pass full scale stays there', async () => {
    const faded = { ...track, lanes: { ...track.lanes, beds: [{ ...track.lanes.beds[0]!, take: 'loud', length: 2, fadeSamples: 100, gainDb: 0 }] } }
    const samples: number[] = []
    for await (const stretch of renderTrack(faded, take => Promise.resolve(take === 'loud' ? Int16Array.of(32_767, 32_767) : takes[take]!))) samples.push(...stretch)
    expect([samples[399], samples[400], samples[449], samples[599], samples[699], samples[700]]).toEqual([0, 328, 16_384, 32_767, 428, 100])
  })
})

describe('the tone of a room', () => {
  const takes: Readonly<Record<string, Int16Array>> = { one: new Int16Array(400).fill(1000), two: new Int16Array(300).fill(2000), room: Int16Array.from({ length: 170 }, (_, at) => at % 13 - 6), level: new Int16Array(90).fill(5) }
  const piece = (take: string | null, startSample: number, sampleCount: number): PlayableTrack['lanes']['speech'][number] => ({ take, fromSample: 0, startSample, sampleCount, gainDb: 0 })
  const trackOf = (take: string, ...speech: PlayableTrack['lanes']['speech']): PlayableTrack => ({
    sampleRate: 1000, sampleCount: speech.reduce((sum, { sampleCount }) => sum + sampleCount, 0), lanes: { speech, beds: [], tone: { take, length: takes[take]!.length } },
  })
  async function render(track: PlayableTrack): Promise<number[]> {
    const samples: number[] = []
    for await (const stretch of renderTrack(track, take => Promise.resolve(takes[take]!))) samples.push(...stretch)
    return samples
  }

  test('is under speech and silence alike, from the first sample to the last', async () => {
    const samples = await render(trackOf('level', piece(null, 0, 200), piece('one', 200, 400), piece(null, 600, 100), piece('two', 700, 300)))
    expect(samples).toEqual([...Array<number>(200).fill(5), ...Array<number>(400).fill(1005), ...Array<number>(100).fill(5), ...Array<number>(300).fill(2005)])
  })

  test('under a take it is the same wherever that is, once it has gone over from what is before', async () => {
    const [here, there] = [await render(trackOf('room', piece(null, 0, 200), piece('one', 200, 400))), await render(trackOf('room', piece('two', 0, 300), piece(null, 300, 77), piece('one', 377, 400)))]
    expect(here.slice(210, 600)).toEqual(there.slice(387, 777))
    expect(new Set(here.slice(210, 600)).size).toBe(13)
    // From piece to piece it goes over, and never leaves its own range.
    expect(Math.max(...here.map(sample => Math.abs(sample >= 900 ? sample - 1000 : sample)))).toBe(6)
  })

  test('fades away at the edges of what is encoded by itself, and comes back', async () => {
    const samples = await render(windowOf(trackOf('level', piece(null, 0, 200), piece('one', 200, 400)), 50, 650, [100, 600]))
    expect(samples.slice(0, 62)).toEqual([...Array<number>(41).fill(5), 5, 4, 4, 3, 3, 2, 2, 1, 1, 0, 1, 1, 2, 2, 3, 3, 4, 4, 5, 5, 5])
    expect([samples[549], samples[550], samples[551], samples[599]]).toEqual([1001, 0, 1, 5])
  })
})
