import { InvalidArgumentError } from 'commander'
import type { Choices, Split } from '#core/manuscript/choices'
import { columnRoles, type ColumnRole } from '#core/manuscript/manuscript'
import { largestHeading, mostEmptyLines, simpleSplits, type FileSplit } from '#core/delivery/file-split'

/** What the intake options of a command were set to. */
export interface IntakeFlags {
  readonly by?: Split
  readonly footnotes?: Choices['footnotes']
  readonly tables?: Choices['tables']
  readonly images?: Choices['images']
  readonly from?: Choices['from']
  readonly hints?: boolean
  readonly opening?: string
  readonly columns?: Partial<Record<ColumnRole, string>>
  readonly delimiter?: string
  readonly first?: Limit
  readonly each?: Limit
  readonly pages?: readonly [string, string]
  readonly language?: string
  readonly encoding?: string
}

interface Limit {
  readonly count: number
  readonly of: 'sentences' | 'parts' | 'words'
}

/** Splits as they are written: `heading:2`, `pattern:RE`, `blank:2`, `rule`, `even:20min`. */
export function split(value: string): Split {
  const [by, ...rest] = value.split(':')
  const argument = rest.join(':')
  const number = Number(/^(\d+)(?:min|m)?$/u.exec(argument)?.[1] ?? Number.NaN)
  switch (by) {
    case 'heading': if (/^[1-9]$/u.test(argument)) return { by, level: number }; break
    case 'pattern': if (argument !== '') return { by, pattern: argument }; break
    case 'blank': if (/^\d+$/u.test(argument) && number >= 1 && number <= 100) return { by, lines: number }; break
    case 'rule': if (argument === '') return { by }; break
    case 'even': if (number >= 1 && number <= 600) return { by, minutes: number }; break
  }
  throw new InvalidArgumentError('Write heading:N with N from 1 to 9, pattern:RE, blank:N, rule, or even:Nmin.')
}

const minuteMs = 60_000
const bytesInMb = 1_000_000

/** Divisions as they are written: `part`, `heading:2,max:60min`, `about:30min`, `whole,max:50mb`. What is not written is as in the profile. */
export function fileSplit(value: string): Partial<FileSplit> {
  let result: Partial<FileSplit> = {}
  value.split(',').forEach((word, index) => {
    const [, name, count, unit = ''] = /^([a-z-]+)(?::(\d{1,6})([a-z]*))?$/u.exec(word.trim()) ?? []
    const number = Number(count)
    const plain = count === undefined ? simpleSplits.find(by => by === name) : undefined
    if (plain !== undefined) result = { ...result, where: { by: plain } }
    else if (name === 'heading' && unit === '' && number >= 1 && number <= largestHeading) result = { ...result, where: { by: name, level: number } }
    else if (name === 'blank' && unit === '' && number >= 2 && number <= mostEmptyLines) result = { ...result, where: { by: 'emptyLines', lines: number } }
    else if (name === 'about' && minuteUnits.has(unit) && number >= 1) result = { ...result, ...(index === 0 ? { where: { by: 'whole' } } : {}), aboutMs: number * minuteMs }
    else if (name === 'max' && minuteUnits.has(unit) && number >= 1) result = { ...result, longestMs: number * minuteMs }
    else if (name === 'max' && unit === 'mb' && number >= 1) result = { ...result, largestBytes: number * bytesInMb }
    else throw new InvalidArgumentError('Write part, slide, heading:N, blank:N with N from 2, passage, sentence or whole, about:Nmin, and behind a comma max:Nmin or max:Nmb.')
  })
  return result
}

const minuteUnits: ReadonlySet<string> = new Set(['', 'm', 'min'])

/** `20s`, `3parts`, or `50words` where words are allowed. */
export function limit(...units: readonly Limit['of'][]): (value: string) => Limit {
  return value => {
    const match = /^(\d{1,6})\s*(s|sentences?|parts?|p|words?|w)$/iu.exec(value)
    const of = ({ s: 'sentences', p: 'parts', w: 'words' } as const)[match?.[2]?.[0]?.toLowerCase() as 's' | 'p' | 'w']
    if (match === null || !units.includes(of) || Number(match[1]) < 1) throw new InvalidArgumentError(`Write a number with ${units.join(' or ')}, e.g. ${units.includes('parts') ? '20s or 3parts' : '2s or 50words'}.`)
    return { count: Number(match[1]), of }
  }
}

export function pageRange(value: string): [string, string] {
  const match = /^\s*([^\s-]+)\s*(?:-\s*([^\s-]+)\s*)?$/u.exec(value)
  if (match === null) throw new InvalidArgumentError('Write FIRST-LAST, e.g. 12-30 or ix-xii.')
  return [match[1]!, match[2] ?? match[1]!]
}

export function columns(value: string): Partial<Record<ColumnRole, string>> {
  const mapping: Partial<Record<ColumnRole, string>> = {}
  for (const pair of value.split(',')) {
    const at = pair.indexOf('=')
    const role = pair.slice(0, at).trim() as ColumnRole
    if (at < 1 || !columnRoles.includes(role)) throw new InvalidArgumentError(`Write NAME=COLUMN for ${columnRoles.join(', ')}, with commas between them, e.g. title=Headline,body=Text.`)
    mapping[role] = pair.slice(at + 1).trim()
  }
  return mapping
}

/** The choices that differ from the defaults. */
export function choicesOf({ by, footnotes, tables, images, from, hints, opening, first, each, pages }: IntakeFlags): Partial<Choices> {
  const excerpt: Choices['excerpt'] = {
    ...(first === undefined ? {} : first.of === 'parts' ? { parts: first.count } : { sentences: first.count }),
    ...(each === undefined ? {} : { each: each.of === 'words' ? { words: each.count } : { sentences: each.count } }),
    ...(pages === undefined ? {} : { pages }),
  }
  const given = { split: by, footnotes, tables, images, from, hints, opening }
  return { ...Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)), excerpt }
}

/** Longest sentence, in words. */
export function sentenceLimit(value: string): number {
  const limit = Number(value)
  if (!Number.isInteger(limit) || limit < 1) throw new InvalidArgumentError('--longest takes a whole number of words.')
  return limit
}
