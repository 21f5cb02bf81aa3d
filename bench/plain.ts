import { execFile } from 'node:child_process'
import { writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { plainTextOf, type Chapter } from './book'

export interface Cost {
  /** s */
  readonly wall: number
  readonly cpu: number
}

/** The same encoder settings as the default delivery profile's. */
export const encoding = ['-ar', '44100', '-ac', '1', '-c:a', 'libmp3lame', '-b:a', '192k', '-f', 'mp3', '-y']

/** The setting of the plain engine for the pace of the default voice, 155 words a minute. */
const plainRate = 132
const atOnce = 2

/** Engine and encoder with a pipe between them, two chapters at a time, without anything of ours. */
export async function plainPipeline(chapters: readonly Chapter[], voice: string, folder: string): Promise<Cost> {
  const texts = await Promise.all(chapters.map(async (chapter, index) => {
    const path = join(folder, `plain-${index}.txt`)
    await writeFile(path, plainTextOf(chapter))
    return path
  }))
  const queue = [...texts]
  let cpu = 0
  const began = performance.now()
  const work = async (): Promise<void> => {
    for (let text = queue.shift(); text !== undefined; text = queue.shift()) {
      const pipe = `espeak-ng -v ${voice} -s ${plainRate} -f '${text}' --stdout | ffmpeg -hide_banner -nostdin -loglevel error -i pipe:0 ${encoding.join(' ')} '${text}.mp3'; times`
      const { stdout } = await promisify(execFile)('bash', ['-c', pipe])
      cpu += cpuOfTimes(stdout)
    }
  }
  await Promise.all(Array.from({ length: atOnce }, work))
  return { wall: (performance.now() - began) / 1000, cpu }
}

/** User and system time of its children, of what the shell's `times` prints last, s. */
export function cpuOfTimes(output: string): number {
  const children = output.trim().split('\n').at(-1)!
  return [...children.matchAll(/(\d+)m([\d.]+)s/gu)].reduce((sum, [, minutes, seconds]) => sum + Number(minutes) * 60 + Number(seconds), 0)
}
