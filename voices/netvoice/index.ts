import { isLanguageTag } from '#core/language/tag'
import type { EngineKind } from '../port'
import { PaidEngine } from '../paid/engine'
import { sliced } from '../paid/orders'
import { bodyOf, writePieces } from '../paid/pieces'
import { capabilities } from './capabilities'
import { excerptMarkup } from './markup'
import { wire } from './wire'

/** The language before a voice's own name: `en-gb` of `en-gb-linnet`. */
function languageOf(voice: string): string | null {
  const tag = voice.slice(0, Math.max(0, voice.lastIndexOf('-')))
  return isLanguageTag(tag) ? tag : null
}

/** A service over the network, with an account. */
export const netvoice: EngineKind = {
  capabilities,
  write: (casting, segments) => writePieces(casting, segments, languageOf(casting.voice)),
  excerpt: ({ body }, from, to) => {
    let begins = 0
    return bodyOf(body).pieces.map(({ segments }) => {
      const own = sliced(segments, from - begins, to - begins)
      begins += segments.reduce((sum, { text }) => sum + text.length, 0) + 1
      return excerptMarkup(own)
    }).filter(text => text !== '').join(' ')
  },
  languageOf,
  open: options => new PaidEngine(capabilities, wire, options),
}
