import type { EngineKind } from '../port'
import { capabilities } from './capabilities'
import { FliteEngine } from './engine'
import { excerptOf, hasUnknownLetters, writeRequest, type FliteBody } from './text'

/** A small engine of English voices, from Debian. */
export const flite: EngineKind = {
  capabilities,
  write: writeRequest,
  excerpt: ({ body }, from, to) => excerptOf(body as FliteBody, from, to),
  languageOf: () => 'en-US',
  losesLetters: hasUnknownLetters,
  open: options => new FliteEngine(options),
}
