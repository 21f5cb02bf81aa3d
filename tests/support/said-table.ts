import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './paths'

/** One row of a table of what is written and how it is said. */
export interface SaidRow {
  readonly language: string
  readonly preset: 'book' | 'course'
  readonly written: string
  readonly said: string
  /** The family of the row, with its source. */
  readonly family: string
}

/** The rows of a table below `tests/data/said`, in the order of the file. Throws where a line is none. */
export function saidTable(name: string, language: string): SaidRow[] {
  const rows: SaidRow[] = []
  let family = ''
  for (const line of readFileSync(join(root, 'tests/data/said', `${name}.txt`), 'utf8').split('\n')) {
    if (line.startsWith('## ')) {
      family = line.slice(3)
      continue
    }
    if (line.trim() === '' || line.startsWith('# ')) continue
    const match = /^(?:\[(?<tag>[\w-]+)\] )?(?<written>.+?) → (?<said>.+)$/u.exec(line)
    if (match === null || family === '') throw new Error(`No row of a table: ${line}`)
    const { tag = '', written, said } = match.groups as { tag?: string, written: string, said: string }
    rows.push({ language: tag.includes('-') ? tag : language, preset: tag === 'course' ? 'course' : 'book', written, said, family })
  }
  return rows
}
