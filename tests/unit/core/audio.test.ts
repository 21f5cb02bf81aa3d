import { execFileSync } from 'node:child_process'
import { truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { applyGain, dbToFactor, msToSamples, peaks, trimEdges } from '#core/audio/pcm'
import { layTrack, renderTrack } from '#core/audio/track'
import { wavBytes, wavHeader, wavSize } from '#core/audio/wav'
import { choose } from '#core/takes/choose'
import { takenUtterance as utterance } from '../../support/casting'
import { takeRecord } from '../../support/takes'
import { temporaryFolder } from '../../support/paths'
import { joined } from '../../support/audio'

const folder = temporaryFolder()

const rate = 22_050

function tone(ms: number, level = 0.5): Int16Array {
  return Int16Array.from({ length: msToSamples(ms, rate) }, (_, i) => Math.round(Math.sin(i / rate * 2 * Math.PI * 440) * level * 32_767))
}

describe('trimming', () => {
  test('takes the silence at both edges away to within 10 ms and keeps the speech', () => {
    const { samples, offset } = trimEdges({ samples: joined(new Int16Array(3000), tone(200), new Int16Array(9000)), sampleRate: rate })
    expect(Math.abs(samples.length - msToSamples(200, rate))).toBeLessThan(msToSamples(10, rate))
    expect(Math.abs(offset - 3000)).toBeLessThan(msToSamples(8, rate))
  })

  test('keeps pauses inside the speech', () => {
    const inside = joined(tone(100), new Int16Array(rate), tone(100))
    expect(Math.abs(trimEdges({ samples: inside, sampleRate: rate }).samples.length - inside.length)).toBeLessThan(msToSamples(10, rate))
  })

  test('begins and ends at zero, so that a cut never clicks', () => {
    const { samples } = trimEdges({ samples: tone(100), sampleRate: rate })
    expect([samples[0], samples.at(-1)]).toEqual([0, 0])
  })

  test('gives nothing for silence', () => {
    expect(trimEdges({ samples: new Int16Array(5000), sampleRate: rate }).samples).toHaveLength(0)
  })
})

describe('gain', () => {
  test('−6 dB halves, to within 0.3 %', () => {
    expect(dbToFactor(-6)).toBeCloseTo(0.501, 3)
    expect([...applyGain(Int16Array.of(10_000, -10_000), -6)]).toEqual([5012, -5012])
  })
})

describe('peaks', () => {
  test('gives the largest magnitude of each stretch', () => {
    expect(peaks(Int16Array.of(0, -16_384, 8192, 0), 2)).toEqual([0.5, 0.25])
  })
})

describe('a track', () => {
  const score = { partId: 'p', utterances: [utterance('a', 0), utterance('b', 1000), utterance('c', 300)] }
  const takes: Record<string, Int16Array> = { a: Int16Array.of(1, 2, 3), b: Int16Array.of(4, 5), c: Int16Array.of(6) }
  const lay = (counts: Record<string, number>) => {
    const known = new Map(Object.entries(counts).map(([key, sampleCount]) => [key, takeRecord(key, { sampleCount })]))
    return layTrack(score, choose(score, known), rate, { headMs: 500, tailMs: 500 })
  }
  const track = lay({ a: 3, b: 2, c: 1 })

  async function render(from?: number, to?: number): Promise<number[]> {
    const samples: number[] = []
    for await (const stretch of renderTrack(track, key => Promise.resolve(takes[key]!), from, to)) samples.push(...stretch)
    return samples
  }

  test('places rests exact to the sample', () => {
    expect(track.timeline.map(({ startSample, endSample }) => [startSample, endSample])).toEqual([
      [11_025, 11_028], [33_078, 33_080], [39_695, 39_696],
    ])
    expect(track.sampleCount).toBe(39_696 + 11_025)
  })

  test('renders to exactly its samples: silence, and every take at its place', async () => {
    const samples = await render()
    expect(samples).toHaveLength(track.sampleCount)
    expect(samples.slice(11_025, 11_028)).toEqual([1, 2, 3])
    expect(samples.slice(33_078, 33_080)).toEqual([4, 5])
    expect(samples[39_695]).toBe(6)
    expect(samples.filter(sample => sample !== 0)).toEqual([1, 2, 3, 4, 5, 6])
  })

  test('renders any range to the same samples as the whole', async () => {
    const whole = await render()
    for (const [from, to] of [[0, 10], [11_026, 33_079], [33_079, 33_080], [39_000, 50_721]] as const) {
      expect(await render(from, to)).toEqual(whole.slice(from, to))
    }
  })

  test('any byte range of its WAV file is the same as that range of the whole', async () => {
    const load = (key: string): Promise<Int16Array> => Promise.resolve(takes[key]!)
    const bytes = async (from?: number, to?: number): Promise<Buffer> => {
      const chunks: Uint8Array[] = []
      for await (const chunk of wavBytes(track, load, from, to)) chunks.push(chunk)
      return Buffer.concat(chunks)
    }
    const whole = await bytes()
    expect(whole).toHaveLength(wavSize(track))
    expect(whole.subarray(0, 44)).toEqual(Buffer.from(wavHeader(track.sampleCount, rate)))
    const middle = 44 + 11_025 * 2
    for (const [from, to] of [[0, 10], [40, 50], [43, 45], [middle - 1, middle + 3], [middle + 1, middle + 2], [60_001, 80_000], [whole.length - 1, whole.length]] as const) {
      expect(await bytes(from, to)).toEqual(whole.subarray(from, to))
    }
  })

  test('an utterance without sound adds no rest of its own: the longest rest around it counts', () => {
    const silent = lay({ a: 3, b: 0, c: 1 })
    expect(silent.timeline[2]!.startSample - silent.timeline[0]!.endSample).toBe(msToSamples(1000, rate))
  })
})

test('a track of 4 GB and more is RF64 (EBU Tech 3306), which an independent reader takes in its whole length', () => {
  const samples = 2 ** 31 + 22_050
  const header = wavHeader(samples, rate)
  expect([Buffer.from(header).toString('latin1', 0, 4), wavSize({ sampleCount: samples })]).toEqual(['RF64', 80 + samples * 2])
  // A file with a hole, so that it takes no room.
  const path = join(folder(), 'long.wav')
  writeFileSync(path, header)
  truncateSync(path, header.length + samples * 2)
  const found = execFileSync('ffprobe', ['-v', 'error', '-show_entries', 'stream=duration_ts,sample_rate', '-of', 'csv=p=0', path], { encoding: 'utf8' }).trim()
  expect(found).toBe(`${rate},${samples}`)
})

test('the WAV header is that of mono 16-bit PCM', () => {
  const header = Buffer.from(wavHeader(1000, rate))
  expect(header.toString('latin1', 0, 4) + header.toString('latin1', 8, 16)).toBe('RIFFWAVEfmt ')
  expect([header.readUInt32LE(4), header.readUInt16LE(22), header.readUInt32LE(24), header.readUInt16LE(34), header.readUInt32LE(40)])
    .toEqual([2036, 1, rate, 16, 2000])
})
