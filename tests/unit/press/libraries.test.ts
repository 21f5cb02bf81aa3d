import { execFileSync } from 'node:child_process'
import { readFile, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { encodeMp3, lameName } from '../../../press/libraries/lame'
import { loadLibrary } from '../../../press/libraries/load'
import { decodeMp3 } from '../../../press/libraries/mpg123'
import { floatsAtRate, soxrName } from '../../../press/libraries/soxr'
import { Scratch } from '../../../press/scratch'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const ffmpeg = (...parameters: string[]): void => { execFileSync('ffmpeg', ['-v', 'error', '-y', ...parameters]) }

/** Tones that rise, and noise that is the same every time. */
function sound(rate: number, seconds: number): Float32Array {
  let seed = 1
  return Float32Array.from({ length: rate * seconds }, (_, at) => {
    seed = seed * 16_807 % 2_147_483_647
    return 0.4 * Math.sin(at * at / rate / 40) + 0.05 * (seed / 2_147_483_647 - 0.5)
  })
}

const settings = [[44_100, 1, 192], [44_100, 2, 128], [48_000, 1, 96], [32_000, 2, 64]] as const

test.each(settings)('MP3 of %d Hz, %d channels and %d kbit/s is that of another program with the same encoder to the byte, and decoded as by it', async (sampleRate, channels, bitRateKbps) => {
  const samples = sound(sampleRate, 3)
  const [raw, theirs, theirSamples] = ['sound.f32', 'theirs.mp3', 'theirs.s16'].map(name => join(folder(), name)) as [string, string, string]
  await writeFile(raw, Buffer.from(samples.buffer))
  const pan = channels === 2 ? ['-af', 'pan=stereo|c0=c0|c1=c0'] : []
  ffmpeg('-f', 'f32le', '-ar', `${sampleRate}`, '-ac', '1', '-i', raw, ...pan, '-c:a', 'libmp3lame', '-b:a', `${bitRateKbps}k`, '-reservoir', '0', '-write_xing', '0', '-id3v2_version', '0', '-f', 'mp3', theirs)
  ffmpeg('-f', 'mp3', '-i', theirs, '-f', 's16le', theirSamples)
  const bytes = await readFile(theirSamples)
  const reference = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1)

  const encoded = await encodeMp3(samples, { sampleRate, channels, bitRateKbps }, new Scratch())
  expect(encoded.equals(await readFile(theirs))).toBe(true)
  const decoded = await decodeMp3(encoded, { sampleRate, channels, mostSamples: samples.length + 4 * 1152 }, new Scratch())
  expect(decoded).toHaveLength(reference.length)
  expect(decoded.reduce((most, sample, at) => Math.max(most, Math.abs(sample - reference[at]!)), 0)).toBeLessThanOrEqual(1)

})

test.each([[22_050, 44_100], [22_050, 48_000], [24_000, 44_100]])('from %d to %d Hz a tone stays the same tone, where it was', async (from, to) => {
  const tone = (rate: number): Float32Array => Float32Array.from({ length: rate }, (_, at) => 0.5 * Math.sin(2 * Math.PI * 1000 * at / rate))
  const converted = await floatsAtRate(tone(from), from, to, new Scratch())
  expect(converted).toHaveLength(to)
  const wanted = tone(to)
  let most = 0
  for (let at = to / 10; at < to * 0.9; at += 1) most = Math.max(most, Math.abs(converted[at]! - wanted[at]!))
  expect(20 * Math.log10(most)).toBeLessThan(-90)
})

test('says the versions, what is missing and what cannot be decoded', async () => {
  expect(lameName()).toMatch(/^LAME \d+\.\d+/u)
  expect(soxrName()).toMatch(/^soxr \d+\.\d+/u)
  expect(() => loadLibrary('libmp3lame.so.99', 'libmp3lame0')).toThrow(/libmp3lame\.so\.99 is not installed.*bin\/start.*libmp3lame0/u)
  await expect(decodeMp3(Buffer.from('no frames at all'), { sampleRate: 44_100, channels: 1, mostSamples: 1152 }, new Scratch())).rejects.toThrow(/cannot be decoded/u)
})
