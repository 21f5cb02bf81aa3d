import type { Reader } from '../reader'
import { openText } from '../text/decode'

/** Markdown (CommonMark with tables, strike-through and footnotes). Its signs are not read. */
export const markdownReader: Reader = {
  format: 'markdown',
  label: 'Markdown (MD)',
  extensions: ['.md', '.markdown', '.mdown', '.mkd'],
  version: 4,
  accepts: file => /\.(?:md|markdown|mdown|mkd)$/iu.test(file.name),
  read: async (file, { encoding }) => {
    // Loaded only where they are needed, as by the other readers: to load them takes longer than to read most documents.
    const [{ markdownBlocks }, { splitFrontMatter }] = await Promise.all([import('./blocks'), import('./front-matter')])
    const { text, problems: undecoded, encoding: decoded } = await openText(file, encoding)
    const { meta, body, dropped } = splitFrontMatter(text, file.name)
    const { blocks, problems } = markdownBlocks(body, file.name)
    const front = dropped === null ? [] : [{ kind: 'paragraph', text: dropped.replace(/\s+/gu, ' ').trim(), dropped: 'front-matter' } as const]
    return { title: meta.title, author: meta.author, language: meta.language, date: meta.date, blocks: [...front, ...blocks], problems: [...undecoded, ...problems], encoding: decoded }
  },
}
