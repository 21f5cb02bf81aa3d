import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { toSamples } from '#core/audio/pcm'
import { equalised, filtersOf, gentleEqualiser, responseDb, type Equaliser } from '#core/mastering/equaliser'
import { master } from '#core/mastering/master'
import { rmsDb } from '../../support/audio'

const rate = 22_050
const flat: Equaliser = { highPassHz: null, bands: [] }

const sine = (hz: number): Int16Array => Int16Array.from({ length: 2 * rate }, (_, at) => Math.round(4000 * Math.sin(2 * Math.PI * hz * at / rate)))

/** By how much a sine is louder, once the filters have settled, dB. */
function gainAt(equaliser: Equaliser, hz: number): number {
  const samples = sine(hz)
  return rmsDb(toSamples(equalised(samples, equaliser, rate)).subarray(rate)) - rmsDb(samples.subarray(rate))
}

describe('the response', () => {
  test('is what it does to sines', () => {
    for (const hz of [40, 80, 160, 250, 1000, 3500, 8000]) expect(Math.abs(gainAt(gentleEqualiser, hz) - responseDb(gentleEqualiser, hz, rate))).toBeLessThan(0.05)
  })

  test('has the gain of a band in its middle, and nothing far away; half of the power is left where the high-pass begins, 12 dB less an octave below', () => {
    const band: Equaliser = { highPassHz: null, bands: [{ hz: 1000, gainDb: 6, q: 1 }] }
    expect(responseDb(band, 1000, rate)).toBeCloseTo(6, 6)
    expect(Math.abs(responseDb(band, 20, rate))).toBeLessThan(0.01)
    const pass: Equaliser = { highPassHz: 100, bands: [] }
    expect(responseDb(pass, 100, rate)).toBeCloseTo(-3.01, 1)
    expect(responseDb(pass, 25, rate) - responseDb(pass, 12.5, rate)).toBeCloseTo(12.04, 1)
    expect(responseDb(flat, 1000, rate)).toBe(0)
  })

  test('a band that the rate cannot hold, or that does nothing, has no filter', () => {
    expect(filtersOf({ highPassHz: null, bands: [{ hz: 10_000, gainDb: 6, q: 1 }, { hz: 500, gainDb: 0, q: 1 }] }, 16_000)).toEqual([])
  })
})

// The filters of ffmpeg are by the same formulas, and not ours.
test.each<[string, Equaliser, string]>([
  ['a high-pass', { highPassHz: 80, bands: [] }, 'highpass=f=80:poles=2:width_type=q:width=0.70710678'],
  ['a band', { highPassHz: null, bands: [{ hz: 3500, gainDb: 4, q: 0.8 }] }, 'equalizer=f=3500:width_type=q:width=0.8:g=4'],
  ['both', gentleEqualiser, 'highpass=f=80:poles=2:width_type=q:width=0.70710678,equalizer=f=250:width_type=q:width=1:g=-2,equalizer=f=3500:width_type=q:width=0.8:g=2'],
])('%s does what ffmpeg does', (_, equaliser, filter) => {
  let seed = 1
  const noise = Int16Array.from({ length: rate }, () => {
    seed = (seed * 48_271) % 2_147_483_647
    return Math.round((seed / 2_147_483_647 - 0.5) * 8000)
  })
  const path = join(mkdtempSync(join(tmpdir(), 'quill-equaliser-')), 'noise.raw')
  writeFileSync(path, Buffer.from(noise.buffer))
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-f', 's16le', '-ar', String(rate), '-ac', '1', '-i', path, '-af', `aformat=sample_fmts=dbl,${filter}`, '-f', 'f64le', '-'], { maxBuffer: 1 << 28 })
  const theirs = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
  const ours = equalised(noise, equaliser, rate)
  expect(theirs).toHaveLength(ours.length)
  expect(Math.max(...ours.map((value, at) => Math.abs(value / 32_768 - theirs[at]!)))).toBeLessThan(1e-6)
})

test('what a boost brings over full scale is not clipped before it is levelled', () => {
  const loud = Int16Array.from({ length: rate }, (_, at) => Math.round(30_000 * Math.sin(2 * Math.PI * 1000 * at / rate)))
  const { samples } = master(loud, rate, { equaliser: { highPassHz: null, bands: [{ hz: 1000, gainDb: 6, q: 1 }] }, gainDb: -12, ceilingDb: null })
  expect(Math.max(...samples.subarray(rate / 2))).toBeCloseTo(30_000 / 32_768 / 2, 2)
})
