/** Text encodings that are tried and offered, the most usual first; names of the WHATWG Encoding Standard where it has them. */
export const textEncodings: readonly string[] = [
  'windows-1252', 'windows-1250', 'windows-1251', 'shift_jis', 'gb18030', 'windows-1254', 'windows-1253', 'windows-1257', 'windows-1255', 'windows-1256',
  'macintosh', 'iso-8859-2', 'koi8-r', 'big5', 'euc-kr', 'euc-jp', 'iso-8859-15', 'iso-8859-9', 'windows-1258', 'windows-874', 'iso-8859-5', 'iso-8859-7',
  'iso-8859-13', 'koi8-u', 'iso-8859-4', 'iso-8859-3', 'iso-8859-14', 'iso-8859-16', 'cp866', 'cp852', 'cp850', 'cp437', 'cp857', 'maccyrillic', 'maccenteuro', 'cp737',
]

/** What a user chooses from. */
export const encodingNames: readonly string[] = ['utf-8', 'utf-16le', 'utf-16be', ...textEncodings.toSorted()]

/** How the text of a file was decoded, where its bytes do not say so themselves (UTF-8, UTF-16). */
export interface TextEncoding {
  readonly name: string
  readonly certainty: EncodingCertainty
  /** Encodings that the text could have as well, the likeliest first. */
  readonly others: readonly OtherEncoding[]
}

/** An encoding with which a text would read otherwise, and the first place where it would. */
export interface OtherEncoding {
  readonly name: string
  /** What stands there now. */
  readonly now: string
  readonly instead: string
}

export type EncodingCertainty = 'chosen' | 'declared' | 'certain' | 'likely' | 'doubtful'
