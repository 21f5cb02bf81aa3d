import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { denoised, noiseOf, withoutNoise } from '#core/mastering/denoise'
import { joined, rmsDb } from '../../support/audio'

/** Of ffmpeg’s sources: mono, 16 bits. */
function generated(source: string, rate: number): Int16Array {
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', source, '-ar', String(rate), '-f', 's16le', '-'], { maxBuffer: 1 << 28 })
  return new Int16Array(Uint8Array.from(bytes).buffer)
}

/** Somebody who speaks, without any noise, from the engine. */
function spoken(rate: number): Int16Array {
  const wav = execFileSync('espeak-ng', ['-v', 'en-gb', '--stdout', 'The bees come home in the evening. Nobody counts them. It is late.'], { maxBuffer: 1 << 28 })
  const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', 'pipe:0', '-ar', String(rate), '-f', 's16le', '-'], { input: wav, maxBuffer: 1 << 28 })
  return joined(new Int16Array(rate), new Int16Array(Uint8Array.from(bytes).buffer), new Int16Array(rate / 2))
}

const sum = (a: Int16Array, b: Int16Array, sign = 1): Int16Array => a.map((sample, at) => sample + sign * (b[at] ?? 0))

describe.each([8000, 22_050, 44_100])('at %i Hz', rate => {
  const voice = spoken(rate)
  const noise = generated(`anoisesrc=color=pink:amplitude=0.02:seed=5:duration=9:sample_rate=${rate}`, rate)
  const noisy = sum(voice, noise)

  test.each([6, 12, 20])('noise where nobody speaks is %i dB lower', byDb => {
    const inRest = (samples: Int16Array): number => rmsDb(samples.subarray(rate / 4, rate * 3 / 4))
    expect(Math.abs(inRest(noisy) - inRest(denoised(noisy, rate, byDb)) - byDb)).toBeLessThan(1.5)
  })

  test('the voice stays where and as it was: it is nearer to what was said than before', () => {
    const cleaned = denoised(noisy, rate, 12)
    expect(cleaned.length).toBe(noisy.length)
    expect(rmsDb(sum(cleaned, voice, -1))).toBeLessThan(rmsDb(sum(noisy, voice, -1)) - 2)
    expect(Math.abs(rmsDb(cleaned) - rmsDb(voice))).toBeLessThan(0.2)
  })
})

const rate = 22_050

test('a hum, which only some bands have, is lowered too', () => {
  const hum = generated(`sine=frequency=100:duration=9:sample_rate=${rate}`, rate).map(sample => sample / 8)
  const cleaned = denoised(sum(spoken(rate), hum), rate, 20)
  expect(rmsDb(cleaned.subarray(5000, 16_000))).toBeLessThan(rmsDb(hum) - 18)
})

test.each([
  ['a voice without noise', () => spoken(rate)], ['silence', () => new Int16Array(rate)], ['what is too short', () => generated('anoisesrc=amplitude=0.01:seed=1:duration=0.2', rate)],
  ['what never rests, as music', () => generated('sine=frequency=440:duration=3', rate)],
])('%s stays as it is', (_, made) => {
  const samples = made()
  expect(noiseOf(samples, rate)).toBeNull()
  expect(denoised(samples, rate, 12)).toBe(samples)
})

test('stretches that were cut out do not hide the noise of the others', () => {
  const noise = generated('anoisesrc=color=white:amplitude=0.01:seed=3:duration=3', rate)
  const cut = joined(sum(spoken(rate), noise), new Int16Array(rate))
  expect(noiseOf(cut, rate)!.levelDb).toBeCloseTo(rmsDb(noise), 0)
})

test('is as long as it was, whatever its length', () => {
  const noise = noiseOf(sum(spoken(rate), generated('anoisesrc=color=white:amplitude=0.01:seed=3:duration=9', rate)), rate)!
  fc.assert(fc.property(fc.integer({ min: 0, max: 5000 }), length => {
    const samples = new Int16Array(length).fill(1000)
    expect(withoutNoise(samples, rate, noise, 12).length).toBe(length)
  }), { numRuns: 50 })
})
