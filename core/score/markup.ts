/** A word of an utterance: its place in the spoken text, `end` exclusive. */
export interface SpokenWord {
  readonly start: number
  readonly end: number
}

/** The words of a spoken text: pieces between spaces that hold a letter, figure or symbol. */
export function spokenWords(text: string): SpokenWord[] {
  const words: SpokenWord[] = []
  for (const match of text.matchAll(/\S+/gu)) {
    if (/[\p{L}\p{N}\p{S}]/u.test(match[0])) words.push({ start: match.index, end: match.index + match[0].length })
  }
  return words
}

/**
 * The small dialect of SSML that is sent to an engine: one `speak` element, escaped text, and an empty
 * `mark` before every word whose name is the word's index, by which its time comes back.
 */
export function writeMarkup(text: string, words: readonly SpokenWord[]): string {
  let markup = ''
  let at = 0
  words.forEach((word, index) => {
    markup += escapeText(text.slice(at, word.start)) + `<mark name="${index}"/>`
    at = word.start
  })
  return `<speak>${markup}${escapeText(text.slice(at))}</speak>`.replace(/\s+/gu, ' ')
}

function escapeText(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
}
