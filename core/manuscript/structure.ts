import { fail } from '../problem'
import { emphasised, sliceContent, writtenText, type Content } from '../script/content'
import { withoutTail } from '../tail'
import { sceneBreakText, type PartAbout, type PartKind, type PassageKind } from '../script/script'
import { arrange, type Arranged, type Drop } from './arrange'
import { beginner, looksLikeTitle } from './begins'
import { defaultSplit, type Choices } from './choices'
import { blocksOfPages, pagesOf, takeExcerpt } from './excerpt'
import type { Block, Manuscript, Matter, SourceUnit } from './manuscript'
import { matterOf } from './matter'
import { openingLine } from './opening'

export interface ProposedPassage {
  readonly kind: PassageKind
  readonly text: string
  /** 0…9 for a heading, and for a title that was one. */
  readonly level?: number
  readonly language?: string
  readonly emphasis?: readonly (readonly [start: number, end: number])[]
  /** The text with its directions, where the file has them; of a text that is cut short, the whole. */
  readonly content?: Content
  readonly role?: string
  /** The block of the manuscript that it comes from; null for a line of our own. */
  readonly block: number | null
  readonly page?: string
}

export interface ProposedPart {
  readonly kind: PartKind
  readonly label: string
  readonly included: boolean
  /** Level of the heading it begins with; null without one. */
  readonly level: number | null
  /** Its first block: what choices about it are named by. */
  readonly block: number
  readonly about: PartAbout | null
  readonly passages: readonly ProposedPassage[]
}

export interface Proposal {
  readonly parts: readonly ProposedPart[]
  readonly drops: readonly Drop[]
}

const labelWords = 6
const labelCharacters = 120
/** A short text on a slide that can become a clip of its own. */
const hintWords = 14

/** Divides what is read of a manuscript into parts. Throws a problem for a pattern or a page that cannot be. */
export function propose(manuscript: Manuscript, choices: Choices): Proposal {
  const { blocks, notes, drops } = arrange(manuscript, choices)
  const taken = withinPages(manuscript, blocks, choices)
  const isOwnTitle = ownTitle(manuscript, choices)
  const { groups, titlePage } = withoutTitlePage(manuscript, divide(manuscript, taken, choices, isOwnTitle), choices, isOwnTitle)
  const placed = groups.map(group => ({ ...group, blocks: withNotes(group.blocks, notes, choices.footnotes) }))
  const unitBlocks = blocksByUnit(manuscript)
  const parts = placed.flatMap(group => toParts(manuscript, group, choices, group.unit === null ? [] : unitBlocks.get(group.unit)!, isOwnTitle))
  const hints = new Set(parts.filter(part => part.kind === 'hint').map(part => part.block))
  return { parts: takeExcerpt(markDuplicates(neverNothing(parts, choices), choices), choices.excerpt, manuscript.language), drops: [...titlePage, ...drops.filter(drop => !hints.has(drop.block))] }
}

/** What would all be left out as front and back matter is the text itself: a page of notes, an index by itself. */
function neverNothing(parts: readonly ProposedPart[], choices: Choices): readonly ProposedPart[] {
  if (parts.some(part => part.included || part.kind !== 'frontMatter' && part.kind !== 'backMatter')) return parts
  return parts.map(part => ({ ...part, kind: 'chapter', included: choices.included[part.block] ?? true }))
}

interface OwnBlock {
  readonly source: Block
  readonly block: number
}

function blocksByUnit(manuscript: Manuscript): ReadonlyMap<SourceUnit, readonly OwnBlock[]> {
  const own = new Map<SourceUnit, OwnBlock[]>(manuscript.units.map(unit => [unit, []]))
  manuscript.blocks.forEach((source, block) => {
    if (source.unit !== undefined) own.get(manuscript.units[source.unit]!)!.push({ source, block })
  })
  return own
}

function withinPages({ blocks: all }: Manuscript, blocks: readonly Arranged[], { excerpt: { pages } }: Choices): readonly Arranged[] {
  if (pages === undefined) return blocks
  const taken = blocksOfPages(all, pages)
  if (taken === null) {
    const known = pagesOf(all)
    fail('page-unknown', known.length === 0
      ? 'This document has no page numbers, so no range of pages can be taken. Take its first parts or sentences.'
      : `Pages ${pages[0]} to ${pages[1]} are not in this document: it has pages ${known[0]} to ${known.at(-1)}.`)
  }
  return blocks.filter(({ block }) => taken.has(block))
}

/** The blocks of one part, and whether its first is its title. */
interface Group {
  readonly blocks: readonly Arranged[]
  readonly titled: boolean
  readonly unit: SourceUnit | null
}

function divide(manuscript: Manuscript, blocks: readonly Arranged[], choices: Choices, isOwnTitle: OwnTitle): Group[] {
  const begins = beginner(blocks, choices.split)
  const [always, never] = [new Set(choices.begins), new Set(choices.joins)]
  const groups: { blocks: Arranged[], titled: boolean, unit: SourceUnit | null }[] = []
  let unit: number | undefined
  let matter: Matter | undefined
  blocks.forEach((block, index) => {
    const newUnit = block.source.unit !== unit
    const newMatter = block.source.matter !== matter && !never.has(block.block)
    unit = block.source.unit
    matter = block.source.matter
    // The lines of a title stay together.
    const how = isOwnTitle(block.source.level) ? null : begins(block, index)
    if (groups.length === 0 || newUnit || newMatter || always.has(block.block) || (how !== null && !never.has(block.block))) {
      const perhaps = how === 'perhaps' || (groups.length === 0 && (choices.split.by === 'blank' || choices.split.by === 'rule'))
      const titled = how === 'titled' || (perhaps && looksLikeTitle(block, blocks[index + 1])) || (how === null && block.source.level !== undefined)
      groups.push({ blocks: [], titled: titled || (groups.length === 0 && block.source.level !== undefined && block.text === manuscript.title), unit: unit === undefined ? null : manuscript.units[unit]! })
    }
    groups.at(-1)!.blocks.push(block)
  })
  // A unit without any text still is one.
  if (choices.split.by !== 'unit' || manuscript.units.length === 0) return groups
  const byUnit = new Map(groups.map(group => [group.unit, group]))
  return manuscript.units.map(each => byUnit.get(each) ?? { blocks: [], titled: false, unit: each })
}

/** A document's title and what belongs to it make no part by themselves. */
function withoutTitlePage(manuscript: Manuscript, groups: readonly Group[], choices: Choices, isOwnTitle: OwnTitle): { groups: readonly Group[], titlePage: Drop[] } {
  const isTitle = ({ source, text }: Arranged): boolean => source.titlePage === true || (source.level !== undefined && (text === manuscript.title || isOwnTitle(source.level)))
  const isRestored = (block: number): boolean => choices.restoredKinds.includes('title-page') || choices.restored.includes(String(block))
  const first = manuscript.units.length > 0 ? 0 : Math.max(0, groups.findIndex(group => !group.blocks.every(isTitle)))
  const titles = groups.slice(0, first)
  const kept = titles.map(group => ({ ...group, blocks: group.blocks.filter(({ block }) => isRestored(block)) })).filter(group => group.blocks.length > 0)
  return {
    groups: [...kept, ...groups.slice(first)],
    titlePage: titles.flatMap(group => group.blocks.map(({ block, text }): Drop => ({ id: String(block), kind: 'title-page', text, block, restored: isRestored(block) }))),
  }
}

type OwnTitle = (level: number | undefined) => boolean

/** Whether a heading of a level is the document's title: above those at which parts begin when nobody chooses otherwise. */
function ownTitle(manuscript: Manuscript, { split: chosen }: Choices): OwnTitle {
  const split = defaultSplit(manuscript)
  return level => split.by === 'heading' && chosen.by === 'heading' && level !== undefined && level < split.level && level < chosen.level
}

/** The notes that are read, at the end or after the passage that has their mark; single ones that are restored, too. */
function withNotes(blocks: readonly Arranged[], notes: ReadonlyMap<string, readonly Arranged[]>, where: Choices['footnotes']): readonly Arranged[] {
  if (notes.size === 0) return blocks
  const of = (block: Arranged): readonly Arranged[] => (block.source.marks ?? []).flatMap(({ note }) => notes.get(note) ?? [])
  return where !== 'at-end' ? blocks.flatMap(block => [block, ...of(block)]) : [...blocks, ...blocks.flatMap(of)]
}

function toParts(manuscript: Manuscript, group: Group, choices: Choices, own: readonly OwnBlock[], isOwnTitle: OwnTitle): ProposedPart[] {
  const [first] = group.blocks
  const { unit } = group
  if (unit?.kind === 'slide' && choices.split.by === 'unit') return slideParts(manuscript, group, unit, choices, own)
  const opens = unit !== null && (first === undefined || own.find(({ source }) => source.dropped === undefined)?.block === first.block)
  const firstLabel = first === undefined ? '' : first.source.entry?.label ?? (group.titled ? withNumber(first) : firstWords(first.text))
  const documentTitle = first !== undefined && !group.titled && first.source.entry === undefined && unit === null && isOpening(manuscript, first) ? manuscript.title : null
  const block = first?.block ?? own[0]?.block ?? withoutBlocks(manuscript, unit!)
  const label = choices.labels[block] ?? shorten(opens && choices.split.by === 'unit' ? unit.label : documentTitle ?? firstLabel)
  // A title above the headings that parts begin at names the document, whatever its words; so does one that opens it in the document's own words.
  const namesDocument = first !== undefined && (isOwnTitle(first.source.level) || first.text === manuscript.title && isOpening(manuscript, first))
  const matter = first?.source.matter ?? (!namesDocument && (group.titled || first?.source.entry !== undefined) ? matterOf(label) : null)
  const passages = group.blocks.flatMap((each, index) => {
    const passage = toPassage(each, group.titled && index === 0)
    return partsScenes(group.blocks[index - 1], each) ? [sceneBreak, passage] : [passage]
  })
  return [{
    kind: unit?.kind === 'article' && choices.split.by === 'unit' ? 'article' : matter === null ? 'chapter' : kindOfMatter(matter),
    label,
    included: choices.included[block] ?? (matter === null || matter === 'dedication'),
    level: first?.source.level ?? (first?.source.entry?.level ?? null),
    block,
    about: unit === null ? null : aboutOf(unit),
    passages: opens && unit.kind === 'article' && choices.split.by === 'unit' ? opened(passages, unit, choices.opening) : passages,
  }]
}

/** A heading with the number that a program gives it, whether that is read or not. */
function withNumber({ text, source }: Arranged): string {
  const number = source.cuts?.find(cut => cut.kind === 'heading-number')?.text
  return number === undefined || text.startsWith(number) ? text : `${number} ${text}`
}

const sceneBreak: ProposedPassage = { kind: 'sceneBreak', text: sceneBreakText, block: null }

/** A rule between two blocks of the text parts scenes; beside a heading it does not. */
function partsScenes(before: Arranged | undefined, { source, kind }: Arranged): boolean {
  return before !== undefined && source.after === 'rule' && ![before.kind, kind].some(each => each === 'heading' || each === 'note' || each === 'sceneBreak')
}

/** What names the part of a unit without any block. */
function withoutBlocks({ units }: Manuscript, unit: SourceUnit): number {
  return -1 - units.indexOf(unit)
}

function isOpening(manuscript: Manuscript, first: Arranged): boolean {
  return manuscript.blocks.findIndex(block => block.dropped === undefined) === first.block
}

function kindOfMatter(matter: Matter): PartKind {
  return matter === 'index' || matter === 'notes' ? 'backMatter' : 'frontMatter'
}

function aboutOf({ author, date, source }: SourceUnit): PartAbout {
  return { ...(author === undefined ? {} : { author }), ...(date === undefined ? {} : { date }), ...(source === undefined ? {} : { source }) }
}

/** An article begins with its opening line; a heading that says the same makes way for it. */
function opened(passages: readonly ProposedPassage[], unit: SourceUnit, template: string): ProposedPassage[] {
  const line = openingLine(template, unit)
  const rest = passages[0] !== undefined && passages[0].text === unit.label ? passages.slice(1) : passages
  return line === '' ? [...rest] : [{ kind: 'title', text: line, block: passages[0] === rest[0] ? null : passages[0]!.block }, ...rest]
}

/** A slide with what is said on it, and, when asked for, a part for each of its short texts. */
function slideParts(manuscript: Manuscript, { blocks }: Group, unit: SourceUnit, choices: Choices, own: readonly OwnBlock[]): ProposedPart[] {
  const onScreen = own.filter(({ source }) => source.layer === 'slide' && source.dropped === undefined)
  const block = own[0]?.block ?? withoutBlocks(manuscript, unit)
  const included = choices.included[block] ?? unit.hidden !== true
  const number = manuscript.units.indexOf(unit) + 1
  const slide: ProposedPart = {
    kind: 'slide', label: choices.labels[block] ?? shorten(unit.label), included, level: null, block,
    about: { ...aboutOf(unit), slide: number, ...(unit.hidden === true ? { hidden: true } : {}), onScreen: onScreen.map(({ source }) => source.text) },
    passages: blocks.map(each => toPassage(each, false)),
  }
  if (!choices.hints) return [slide]
  const hints = onScreen.filter(({ source }) => source.level === undefined && source.text.split(/\s+/u).length <= hintWords)
  return [slide, ...hints.map(({ source, block: at }): ProposedPart => ({
    kind: 'hint', label: choices.labels[at] ?? shorten(source.text), included: choices.included[at] ?? included, level: null, block: at, about: { slide: number },
    passages: [{ kind: source.kind, text: source.text, block: at }],
  }))]
}

function toPassage({ kind, text, block, source, emphasis }: Arranged, isTitle: boolean): ProposedPassage {
  return {
    kind: isTitle ? 'title' : kind, text, block,
    ...(source.level === undefined ? {} : { level: source.level }),
    ...(source.language === undefined ? {} : { language: source.language }),
    ...(source.page === undefined ? {} : { page: source.page }),
    ...(emphasis.length === 0 ? {} : { emphasis }),
    ...(source.content === undefined ? {} : { content: source.content }),
    ...(source.role === undefined ? {} : { role: source.role }),
  }
}

/** The content of a proposed passage: with the directions of its file, else with the author's emphasis. */
export function contentOf({ text, emphasis = [], content }: ProposedPassage): Content {
  return content !== undefined && writtenText(content).startsWith(text) ? sliceContent(content, 0, text.length) : emphasised(text, emphasis)
}

/** Articles with the same title and words as an earlier one are proposed to be left out, whatever their first lines say. */
function markDuplicates(parts: readonly ProposedPart[], choices: Choices): readonly ProposedPart[] {
  const seen = new Map<string, string>()
  return parts.map(part => {
    if (part.kind !== 'article' || part.passages.length === 0) return part
    const body = part.passages.filter(passage => passage.kind !== 'title').map(passage => passage.text)
    const text = [part.label, ...body].map(each => each.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ' ').trim()).join('\n')
    const earlier = seen.get(text)
    if (earlier === undefined) {
      seen.set(text, part.label)
      return part
    }
    return { ...part, included: choices.included[part.block] ?? false, about: { ...part.about, duplicateOf: earlier } }
  })
}

function firstWords(text: string): string {
  const words = text.split(/\s+/u)
  return withoutTail(words.slice(0, labelWords).join(' '), /[\s,;:.–—-]/u) + (words.length > labelWords ? ' …' : '')
}

function shorten(label: string): string {
  return label.length <= labelCharacters ? label : label.slice(0, labelCharacters - 2).trimEnd() + ' …'
}

