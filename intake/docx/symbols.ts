import { hex } from 'dingbat-to-unicode'

/** The font whose signs are meant where none is named. */
const usualFont = 'Symbol'
/** Fonts that hold signs only; their characters stand in this area of Unicode, or at those of Latin-1. */
const symbolFont = /^(?:symbol|wingdings(?: ?[23])?|webdings)$/iu
const privateArea = /[\uf020-\uf0ff]/gu

/** A sign by its font and its number in it, in hexadecimal figures; nothing for one that no character stands for. */
export function symbolOf(font: string | null, char: string): string {
  const found = hex(font ?? usualFont, char) ?? hex(font ?? usualFont, char.replace(/^F0/iu, ''))
  if (found !== undefined) return found.string
  const code = Number.parseInt(char, 16)
  return Number.isNaN(code) || code < 0x20 || code >= 0xe000 && code <= 0xf8ff ? '' : String.fromCodePoint(code)
}

/** A text in which signs of such fonts are characters. */
export function withSymbols(text: string, font: string | null): string {
  const isSymbols = font !== null && symbolFont.test(font)
  const signs = text.replace(privateArea, sign => symbolOf(isSymbols ? font : null, sign.charCodeAt(0).toString(16).toUpperCase()))
  if (!isSymbols) return signs
  return signs.replace(/[!-~]/gu, sign => hex(font, sign.charCodeAt(0).toString(16).toUpperCase())?.string ?? sign)
}
