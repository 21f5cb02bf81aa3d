import { Readable } from 'node:stream'
import { join } from 'node:path'
import { encoderName, runFfmpeg } from '../../../press/ffmpeg'
import { temporaryFolder } from '../../support/paths'

const folder = temporaryFolder()
const silence = (bytes: number): Readable => Readable.from([Buffer.alloc(bytes)])
const input = ['-f', 's16le', '-ar', '22050', '-ac', '1', '-i', 'pipe:0']

test('the encoder has a name with a version, which goes into fingerprints', async () => {
  expect(await encoderName()).toMatch(/^ffmpeg \d+\.\d+/u)
})

test('an encoder that cannot write says so', async () => {
  await expect(runFfmpeg([...input, '-f', 'mp3', join(folder(), 'no such folder', 'a.mp3')], silence(44_100)))
    .rejects.toMatchObject({ problem: { code: 'encoder-failed', message: expect.stringContaining('No such file or directory') } })
})

test('an encoder that takes no input any more is ended', async () => {
  const stuck = new Readable({ read() { /* Never gives anything. */ } })
  await expect(runFfmpeg([...input, '-f', 'mp3', join(folder(), 'c.mp3')], stuck, null, 200)).rejects.toThrow('ended by SIGKILL')
})

test('a full disk is told as such', async () => {
  await expect(runFfmpeg([...input, '-f', 'mp3', '-y', '/dev/full'], silence(4_000_000))).rejects.toMatchObject({ problem: { code: 'disk-full' } })
})

test('an input that breaks is the cause that is reported', async () => {
  const broken = new Readable({ read() { this.destroy(new Error('the take is gone')) } })
  await expect(runFfmpeg([...input, '-f', 'mp3', join(folder(), 'b.mp3')], broken)).rejects.toThrow()
})
