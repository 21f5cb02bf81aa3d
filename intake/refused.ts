import { fail } from '#core/problem'
import { beginning, rootOf, type Reader } from './reader'

/** RTF is recognised, so that it is not taken for text, and refused: no reader of it is safe enough. */
export const rtfReader: Reader = {
  format: 'rtf',
  label: '',
  extensions: [],
  version: 1,
  accepts: file => beginning(file).startsWith('{\\rtf'),
  read: async file => fail('rtf', `${file.name} is RTF, which is not read. Open it in a word processor and save it as DOCX.`),
}

/** FictionBook is XML, and would be read with its tags; no reader of it is kept well enough. */
export const fictionBookReader: Reader = {
  format: 'fb2',
  label: '',
  extensions: [],
  version: 1,
  accepts: file => /^<FictionBook[\s>]/iu.test(rootOf(file)),
  read: async file => fail('fb2', `${file.name} is a FictionBook (FB2), which is not read. Save it as EPUB in the program that you read it with, and bring that.`),
}
