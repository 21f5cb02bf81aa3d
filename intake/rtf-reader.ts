import { fail } from '#core/problem'
import { beginning, type Reader } from './reader'

/** RTF is recognised, so that it is not taken for text, and refused: no reader of it is safe enough. */
export const rtfReader: Reader = {
  format: 'rtf',
  label: '',
  extensions: [],
  version: 1,
  accepts: file => beginning(file).startsWith('{\\rtf'),
  read: async file => fail('rtf', `${file.name} is RTF, which is not read. Open it in a word processor and save it as DOCX.`),
}
