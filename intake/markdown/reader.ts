import type { Reader } from '../reader'
import { openText } from '../text/decode'
import { markdownBlocks } from './blocks'
import { splitFrontMatter } from './front-matter'

/** Markdown (CommonMark with tables, strike-through and footnotes). Its signs are not read. */
export const markdownReader: Reader = {
  format: 'markdown',
  label: 'Markdown (MD)',
  extensions: ['.md', '.markdown', '.mdown', '.mkd'],
  version: 4,
  accepts: file => /\.(?:md|markdown|mdown|mkd)$/iu.test(file.name),
  read: async (file, { encoding }) => {
    const { text, problems: undecoded, encoding: decoded } = await openText(file, encoding)
    const { meta, body, dropped } = splitFrontMatter(text, file.name)
    const { blocks, problems } = markdownBlocks(body, file.name)
    const front = dropped === null ? [] : [{ kind: 'paragraph', text: dropped.replace(/\s+/gu, ' ').trim(), dropped: 'front-matter' } as const]
    return { title: meta.title, author: meta.author, language: meta.language, date: meta.date, blocks: [...front, ...blocks], problems: [...undecoded, ...problems], encoding: decoded }
  },
}
