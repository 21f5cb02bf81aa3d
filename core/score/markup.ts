/**
 * The small dialect of SSML that is sent to an engine: one `speak` element around escaped text, white space
 * collapsed. No mark stands between the words: it would part words that the voice speaks as one.
 */
export function writeMarkup(text: string): string {
  return `<speak>${text.replace(/\s+/gu, ' ').replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')}</speak>`
}
