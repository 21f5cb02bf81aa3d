import { isLanguageTag } from '#core/language/tag'
import type { EngineKind } from '../port'
import { capabilities } from './capabilities'
import { EspeakEngine } from './engine'
import { excerptOf, writeRequest, type MarkupNode } from './markup'

/** The embedded engine. */
export const espeak: EngineKind = {
  capabilities,
  write: writeRequest,
  excerpt: ({ body }, from, to) => excerptOf(body as readonly MarkupNode[], from, to),
  // A voice is called by its language, unless several have the same.
  languageOf: voice => {
    const [id] = voice.split('+')
    return isLanguageTag(id!) ? id! : null
  },
  open: options => new EspeakEngine(options),
}
