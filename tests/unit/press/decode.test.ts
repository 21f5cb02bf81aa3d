import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { wavHeader } from '#core/audio/wav'
import { decodeSound } from '#press/decode'

const rate = 22_050
const folder = mkdtempSync(join(tmpdir(), 'quill-decode-'))
afterAll(() => rmSync(folder, { recursive: true }))

const tone = Int16Array.from({ length: rate }, (_, at) => 8000 * Math.sin(at * 0.1))
const wav = join(folder, 'tone.wav')
writeFileSync(wav, Buffer.concat([wavHeader(tone.length, rate), Buffer.from(tone.buffer)]))

function made(name: string, ...parameters: string[]): string {
  const path = join(folder, name)
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...parameters, path])
  return path
}

test('a WAV file at the rate that is asked for comes out sample for sample', async () => {
  expect((await decodeSound(wav, 'tone.wav', rate)).samples).toEqual(tone)
})

test.each([['mp3', 3000], ['flac', 0], ['ogg', 512], ['m4a', 3000], ['aiff', 0]])('%s is read, its length within %i samples', async (extension, padding) => {
  const { samples } = await decodeSound(made(`tone.${extension}`, '-i', wav), 'a', rate)
  expect(Math.abs(samples.length - tone.length)).toBeLessThanOrEqual(padding)
})

test('channels are mixed to one, and another rate is brought to the one that is asked for', async () => {
  const { samples, sampleRate } = await decodeSound(made('stereo.wav', '-i', wav, '-ac', '2', '-ar', '44100'), 'a', rate)
  expect(sampleRate).toBe(rate)
  expect(Math.abs(samples.length - tone.length)).toBeLessThanOrEqual(1)
})

test.each([
  ['text', 'notes.wav', 'These are my notes.', /^notes\.wav is no sound that can be read/u],
  ['a list of other files, which is not opened', 'list.wav', `ffconcat version 1.0\nfile '${wav}'\n`, /^list\.wav is no sound/u],
  ['a playlist, which is not followed', 'list.m3u8', `#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\nfile://${wav}\n#EXT-X-ENDLIST\n`, /^list\.m3u8 is no sound/u],
  ['a header without sound', 'empty.wav', Buffer.from(wavHeader(0, rate)), /^There is no sound in empty\.wav|is no sound/u],
])('refused: %s', async (_, name, bytes, message) => {
  const path = join(folder, name)
  writeFileSync(path, bytes)
  await expect(decodeSound(path, name, rate)).rejects.toThrow(message)
})

test('more than ten minutes are refused, not cut', async () => {
  await expect(decodeSound(made('long.flac', '-f', 'lavfi', '-i', 'anullsrc=r=8000:cl=mono', '-t', '600.5'), 'long.flac', 8000)).rejects.toThrow('longer than 10 minutes')
})
