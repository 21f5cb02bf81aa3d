import { lamp, paper, type Palette } from '~/utils/themes'

/** Relative luminance and contrast as WCAG 2.1 defines them. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map(at => {
    const value = Number.parseInt(hex.slice(at, at + 2), 16) / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  }) as [number, number, number]
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}

function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number]
  return (light + 0.05) / (dark + 0.05)
}

const texts = ['ink', 'gall', 'quiet', 'verdigris', 'vermilion', 'ochre', 'dusk'] as const
const grounds = ['paper', 'sheet'] as const

describe.each([['Paper', paper], ['Lamp', lamp]] as [string, Palette][])('theme %s', (_, palette) => {
  test.each(texts.flatMap(text => grounds.map(ground => [text, ground] as const)))('%s on %s has a contrast of at least 4.5', (text, ground) => {
    expect(contrast(palette[text], palette[ground])).toBeGreaterThanOrEqual(4.5)
  })

  test.each([['ink', 'lit'], ['quiet', 'lit'], ['ink', 'staleWash'], ['verdigris', 'lit'], ['sheet', 'verdigris']] as const)('%s on %s has a contrast of at least 4.5', (text, ground) => {
    expect(contrast(palette[text], palette[ground])).toBeGreaterThanOrEqual(4.5)
  })
})
