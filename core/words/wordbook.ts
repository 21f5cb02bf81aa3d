import { languageTag } from '../language/tag'
import { wholeText } from '../script/whole-text'
import { partsOfSpeech, type PartOfSpeech } from './part-of-speech'

// How words are said: data that producers keep, exchange and check by ear. The written text is never changed by it.

/** One way to say a word, as PLS 1.0 (4.6, 4.7) has them, and two that a producer types. */
export type Said =
  /** IPA, with stress marks. */
  | { readonly by: 'ipa', readonly text: string }
  /** Other words in its place. */
  | { readonly by: 'alias', readonly text: string }
  /** Syllables as they sound, the stressed one in capitals: `var-ROH-ah`. */
  | { readonly by: 'respelling', readonly text: string }
  /** Letter by letter. */
  | { readonly by: 'letters' }

/** Where a written form has several readings: it counts only beside one of these words, in any case. */
export interface Beside {
  readonly before?: readonly string[]
  readonly after?: readonly string[]
}

export interface WordEntry {
  /** Unique in its wordbook. */
  readonly id: string
  /** Written forms, at least one. */
  readonly graphemes: readonly string[]
  /** BCP 47; it counts for text of this language and its variants. */
  readonly language: string
  /** At least one; the preferred one is used, or the first. */
  readonly said: readonly (Said & { readonly prefer?: true })[]
  /** Counts within longer words too. */
  readonly partOfWord?: true
  /** Counts only as it is written, capitals and all. */
  readonly matchCase?: true
  readonly beside?: Beside
  /** Counts only where the word is one of these. */
  readonly partsOfSpeech?: readonly PartOfSpeech[]
  readonly note?: string
  /** Somebody has listened to it. */
  readonly heard?: true
  /** Of a file it came in: kept, and written again. */
  readonly kept?: KeptLexeme
}

export interface KeptLexeme {
  readonly attributes?: Readonly<Record<string, string>>
  /** Elements as they are written. */
  readonly elements?: readonly string[]
}

export interface Wordbook {
  readonly version: 1
  readonly entries: readonly WordEntry[]
  readonly kept?: KeptLexeme
}

export const emptyWordbook: Wordbook = { version: 1, entries: [] }

/** Longest written form or pronunciation, in characters. */
export const maximumWordCharacters = 300

/** The reading that is used. */
export function readingOf({ said }: Pick<WordEntry, 'said'>): Said {
  return said.find(each => each.prefer === true) ?? said[0]!
}

const word = { type: 'string', minLength: 1, maxLength: maximumWordCharacters, pattern: wholeText } as const
const wordList = { type: 'array', minItems: 1, maxItems: 50, items: word } as const
const saidBy = <const By extends string>(by: By, text: boolean) => ({
  type: 'object', required: ['by', ...(text ? ['text'] : [])], additionalProperties: false,
  properties: { by: { const: by }, prefer: { const: true }, ...(text ? { text: word } : {}) },
}) as const

/** JSON Schema of an entry without its id. */
export const wordEntrySchema = {
  type: 'object',
  required: ['graphemes', 'language', 'said'],
  additionalProperties: false,
  properties: {
    graphemes: wordList,
    language: languageTag,
    said: { type: 'array', minItems: 1, maxItems: 20, items: { oneOf: [saidBy('ipa', true), saidBy('alias', true), saidBy('respelling', true), saidBy('letters', false)] } },
    partOfWord: { const: true },
    matchCase: { const: true },
    beside: { type: 'object', minProperties: 1, additionalProperties: false, properties: { before: wordList, after: wordList } },
    partsOfSpeech: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: partsOfSpeech } },
    note: { type: 'string', maxLength: 2000, pattern: wholeText },
    heard: { const: true },
    kept: {
      type: 'object', additionalProperties: false,
      properties: {
        attributes: { type: 'object', maxProperties: 40, additionalProperties: { type: 'string', maxLength: 2000, pattern: wholeText } },
        elements: { type: 'array', maxItems: 100, items: { type: 'string', maxLength: 20_000, pattern: wholeText } },
      },
    },
  },
} as const
