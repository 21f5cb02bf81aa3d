import { isSpeakable, type Block } from '#core/manuscript/manuscript'
import { collapse, type Reader } from '../reader'
import { decodeText, looksLikeText, requireText } from './decode'

/** Plain text: paragraphs stand between empty lines; the line breaks within one are only its layout. */
export const textReader: Reader = {
  format: 'text',
  label: 'plain text (TXT)',
  version: 1,
  accepts: file => /\.(?:txt|text)$/iu.test(file.name) || looksLikeText(file.bytes),
  read: async (file, { encoding }) => {
    requireText(file.bytes, file.name)
    const text = await decodeText(file.bytes, file.name, encoding)
    return { title: null, author: null, language: null, blocks: textBlocks(text) }
  },
}

function textBlocks(text: string): Block[] {
  return text
    .split(/\n[^\S\n]*(?:\n[^\S\n]*)+|\f/u)
    .map(paragraph => collapse(paragraph))
    .filter(isSpeakable)
    .map(paragraph => ({ kind: 'paragraph', text: paragraph }))
}
