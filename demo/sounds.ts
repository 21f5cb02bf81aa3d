import type { Pcm } from '#core/audio/pcm'

const sampleRate = 22_050

/** The sounds of the handbook, computed: a book that is closed, and the bell of the lane. */
export const sounds: Readonly<Record<string, Pcm>> = {
  'book-closing.wav': sound(0.35, t => (noise(t) * Math.exp(-t * 60) + Math.sin(2 * Math.PI * 90 * t) * Math.exp(-t * 22)) * 0.45),
  'evening-bell.wav': sound(1.6, t => [[1, 0.4, 2], [2.01, 0.22, 3], [2.99, 0.14, 5], [4.2, 0.08, 8]].reduce((sum, [partial, level, decay]) => sum + level! * Math.sin(2 * Math.PI * 440 * partial! * t) * Math.exp(-t * decay!), 0) * 0.6),
}

function sound(seconds: number, level: (t: number) => number): Pcm {
  const samples = Int16Array.from({ length: Math.round(seconds * sampleRate) }, (_, at) => {
    const t = at / sampleRate
    // It begins and ends without a click.
    return 32_767 * level(t) * Math.min(1, t / 0.004, (seconds - t) / 0.02)
  })
  return { samples, sampleRate }
}

/** The same noise each time, −1…1. */
function noise(t: number): number {
  const x = Math.sin(t * 91_283.17) * 43_758.5453
  return (x - Math.floor(x)) * 2 - 1
}
