import { gainFor, type LevelTarget } from '#core/mastering/gain'
import { kWeighting } from '#core/mastering/k-weighting'
import { limit } from '#core/mastering/limiter'
import { levelsOf, measure, noiseFloorDb, quietIn, silenceDb } from '#core/mastering/measure'
import { joined } from '../../support/audio'

const rate = 48_000
// Looked up once: the test's own globals are slow.
const { sin, round, PI } = Math

/** A sine of so many seconds; `peakDb` is its peak. */
function sine(seconds: number, peakDb: number, hz = 1000, { phase = 0, sampleRate = rate } = {}): Int16Array {
  const size = 32_767 * 10 ** (peakDb / 20)
  const samples = new Int16Array(Math.round(seconds * sampleRate))
  for (let i = 0; i < samples.length; i += 1) samples[i] = round(size * sin(2 * PI * hz * i / sampleRate + phase))
  return samples
}

const loudness = (samples: Int16Array, dualMono = true): number => levelsOf([measure(samples, rate)], { dualMono }).integratedDb

describe('loudness', () => {
  // ITU-R BS.1770-4, Annex 1, tables 1 and 2.
  test('has the filters of the standard at 48 kHz', () => {
    const [shelf, highPass] = kWeighting(rate)
    const published = [
      [shelf.b0, 1.53512485958697], [shelf.b1, -2.69169618940638], [shelf.b2, 1.19839281085285], [shelf.a1, -1.69065929318241], [shelf.a2, 0.73248077421585],
      [highPass.b0, 1], [highPass.b1, -2], [highPass.b2, 1], [highPass.a1, -1.99004745483398], [highPass.a2, 0.99007225036621],
    ] as const
    for (const [ours, theirs] of published) expect(ours).toBeCloseTo(theirs, 6)
  })

  // ITU-R BS.1770-4: a sine of 997 Hz at full scale in one channel is −3.01 LKFS.
  test('of 997 Hz at full scale in one channel is −3.01', () => {
    expect(loudness(sine(5, 0, 997), false)).toBeCloseTo(-3.01, 1)
  })

  // EBU Tech 3341 (2016), table 1; both channels are the same, so mono that counts as two speakers stands for them.
  test.each([
    ['1', [[20, -23]], -23],
    ['2', [[20, -33]], -33],
    ['3', [[10, -36], [60, -23], [10, -36]], -23],
    ['4', [[10, -72], [10, -36], [60, -23], [10, -36], [10, -72]], -23],
    ['5', [[20, -26], [20.1, -20], [20, -26]], -23],
  ] as const)('of test signal %s of Tech 3341 is within 0.1 LU', (_, parts, expected) => {
    expect(Math.abs(loudness(joined(...parts.map(([seconds, db]) => sine(seconds, db)))) - expected)).toBeLessThanOrEqual(0.1)
  })

  test('is the same at the rates that tracks have', () => {
    const at = (sampleRate: number): number => levelsOf([measure(sine(5, -20, 997, { sampleRate }), sampleRate)]).integratedDb
    for (const sampleRate of [16_000, 22_050, 24_000, 44_100]) expect(Math.abs(at(sampleRate) - at(rate))).toBeLessThan(0.1)
  })

  test('of pieces is that of the whole', () => {
    const whole = joined(sine(21.37, -20), sine(3, -60), sine(13.21, -26))
    const cuts = [0, 12 * 1152 * 20, 12 * 1152 * 70, whole.length]
    const pieces = cuts.slice(1).map((to, index) => measure(whole, rate, cuts[index]!, to))
    expect(levelsOf(pieces).integratedDb).toBeCloseTo(levelsOf([measure(whole, rate)]).integratedDb, 1)
    expect(levelsOf(pieces).rmsDb).toBeCloseTo(levelsOf([measure(whole, rate)]).rmsDb, 6)
  })

  test('of silence is the least there is', () => {
    expect(levelsOf([measure(new Int16Array(rate), rate)])).toMatchObject({ integratedDb: silenceDb, rmsDb: silenceDb, samplePeakDb: silenceDb, truePeakDb: silenceDb, clipped: 0 })
  })
})

// EBU Tech 3341 (2016), table 1, signals 15 to 19: tolerance +0.2 and −0.4 dB.
test.each([
  ['15', 4, 0, -6.02], ['16', 4, 45, -6.02], ['17', 6, 60, -6.02], ['18', 8, 67.5, -6.02], ['19', 4, 45, 2.98],
] as const)('the true peak of test signal %s of Tech 3341 is found', (_, share, degrees, expected) => {
  // The ends are left out: a sine that begins at once is no sine there. Between its samples the last one is larger than full scale.
  const truePeak = levelsOf([measure(sine(1, expected, rate / share, { phase: degrees * Math.PI / 180 }), rate, 1000, rate - 1000)]).truePeakDb
  expect(truePeak - expected).toBeLessThanOrEqual(0.2)
  expect(truePeak - expected).toBeGreaterThanOrEqual(-0.4)
})

describe('what else is measured', () => {
  const samples = joined(new Int16Array(rate / 2), sine(1, -10), new Int16Array(2 * rate), sine(1, -10), sine(0.75, -70), new Int16Array(rate / 4))

  test('quiet stretches are found where they are, within a window', () => {
    const found = quietIn([measure(samples, rate, 0, rate), measure(samples, rate, rate)], 400).map(({ start, end }) => [start / rate, end / rate])
    expect(found).toHaveLength(3)
    for (const [index, [start, end]] of ([[0, 0.5], [1.5, 3.5], [4.5, 5.5]] as const).entries()) {
      expect(Math.abs(found[index]![0]! - start)).toBeLessThanOrEqual(0.005)
      expect(Math.abs(found[index]![1]! - end)).toBeLessThanOrEqual(0.005)
    }
  })

  test('the noise floor is the level of the quietest half second', () => {
    expect(noiseFloorDb([measure(samples, rate)])).toBe(silenceDb)
    const hum = joined(sine(1, -10), sine(1, -60), sine(1, -10))
    expect(noiseFloorDb([measure(hum, rate)])).toBeCloseTo(-63.01, 0)
  })

  test('samples that were cut off at full scale are counted', () => {
    const clipped = sine(1, 0, 100)
    expect(measure(sine(1, -1, 100), rate).clipped).toBe(0)
    expect(measure(clipped.map(sample => Math.max(-32_768, Math.min(32_767, sample * 1.2))), rate).clipped).toBeGreaterThan(1000)
  })
})

describe('the gain', () => {
  const target: LevelTarget = { measure: 'rms', level: -20, tolerance: 0.5 }

  test('brings a level to its target, in steps of 0.1 dB', () => {
    expect(gainFor(-23.47, target)).toBe(3.5)
    expect(gainFor(-17.31, target)).toBe(-2.7)
  })

  test('stays while the level is within the tolerance', () => {
    expect(gainFor(-23.9, target, 3.5)).toBe(3.5)
    expect(gainFor(-24.1, target, 3.5)).toBe(4.1)
  })
})

describe('the limiter', () => {
  const speechLike = (): Float32Array => {
    const quiet = Float32Array.from(sine(2, -12, 220, { sampleRate: 22_050 }), sample => sample / 32_768)
    for (const at of [4000, 4300, 20_050, 33_000]) for (let i = 0; i < 40; i += 1) quiet[at + i]! += 0.9 * Math.sin(Math.PI * i / 40)
    return quiet
  }
  const ceilingDb = -3.5

  test('lets no peak pass, between samples neither', () => {
    const samples = speechLike()
    const limited = limit(samples, 22_050, ceilingDb)
    const peakDb = levelsOf([measure(Int16Array.from(samples, sample => Math.round(sample * 32_767)), 22_050)]).truePeakDb
    expect(peakDb).toBeLessThanOrEqual(ceilingDb + 0.05)
    expect(peakDb).toBeGreaterThan(ceilingDb - 0.5)
    // Peaks that are near each other are held together.
    expect(limited.places).toHaveLength(3)
    expect(limited.mostDb).toBeCloseTo(20 * Math.log10(1.15) + 3.5, 0)
  })

  // Of noise at the upper end of the band the largest values lie between samples, as often before the larger one as after it.
  test('finds peaks on either side of the largest sample', () => {
    let seed = 1
    const hiss = Float32Array.from({ length: 22_050 }, () => {
      seed = seed * 48_271 % 2_147_483_647
      return seed / 2_147_483_647 - 0.5
    })
    limit(hiss, 22_050, -9)
    expect(levelsOf([measure(Int16Array.from(hiss, sample => Math.round(sample * 32_767)), 22_050)]).truePeakDb).toBeLessThanOrEqual(-8.9)
    const twice = new Int16Array(44_100)
    for (let i = 0; i < twice.length; i += 1) {
      // Twice the rate by an ideal filter of another make: a long sinc.
      let sum = 0
      for (let k = -40; k <= 40; k += 1) {
        const at = (i >> 1) + k
        const distance = i / 2 - at
        sum += (hiss[at] ?? 0) * (distance === 0 ? 1 : sin(PI * distance) / (PI * distance)) * (0.5 + 0.5 * Math.cos(PI * distance / 41.5))
      }
      twice[i] = round(sum * 32_767)
    }
    expect(levelsOf([measure(twice, 44_100)]).samplePeakDb).toBeLessThanOrEqual(-8.5)
  })

  test('leaves alone what is not near a peak', () => {
    const [before, after] = [speechLike(), speechLike()]
    limit(after, 22_050, ceilingDb)
    expect(after.subarray(8000, 17_000)).toEqual(before.subarray(8000, 17_000))
    const quiet = before.map(sample => sample / 4)
    expect(limit(quiet, 22_050, ceilingDb)).toEqual({ places: [], mostDb: 0 })
    expect(quiet).toEqual(before.map(sample => sample / 4))
  })

  test('does to a piece what it does to the whole', () => {
    const [whole, piece] = [speechLike(), speechLike().slice(15_000)]
    limit(whole, 22_050, ceilingDb)
    limit(piece, 22_050, ceilingDb)
    expect(piece.subarray(2000)).toEqual(whole.subarray(17_000))
  })
})
