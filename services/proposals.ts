import { speakingMs, usualPace } from '#core/estimate/speaking-time'
import { countDrops, type Drop } from '#core/manuscript/arrange'
import { defaultChoices, type Choices } from '#core/manuscript/choices'
import { divisibleBy } from '#core/manuscript/divisions'
import { pagesOf } from '#core/manuscript/excerpt'
import { countWords, type Manuscript } from '#core/manuscript/manuscript'
import { toScript } from '#core/manuscript/to-script'
import { propose, type Proposal, type ProposedPart } from '#core/manuscript/structure'
import { fail } from '#core/problem'
import { hash } from '#core/hash'
import type { Casting } from '#core/score/cast'
import { spokenOf } from '#core/score/compile'
import { sketchScore } from '#core/score/sketch'
import { presetStyle, type HouseStyle } from '#core/style/house-style'
import { presetFor } from '#core/style/presets'
import { prepareRules } from '#core/style/rule'
import type { RuleKindName } from '#core/style/rules'
import { addTo, count } from '#core/tally'
import type { IntakeStyle, ManuscriptFound, ManuscriptProposal, ProposedPartView, ShownPart, ShownRow } from '#shared/api'
import type { IntakeStyleRequest, ProductionRequest } from '#shared/schemas'
import { breather } from '#store/breathe'
import { ManuscriptRow } from '#store/models'
import { createProduction } from '#store/editions'
import type { Place } from './place'

interface OfManuscript {
  readonly manuscriptId: string
}

/** Rows of a part that are sent along to be looked at. */
const shownRows = 400

export async function findManuscript(id: string): Promise<ManuscriptRow> {
  return await ManuscriptRow.findByPk(id) ?? fail('not-found', 'This document is no longer here. Bring it in again.')
}

/** A document that has been read. Throws a problem for one that has not. */
export async function findReadManuscript(id: string): Promise<{ readonly row: ManuscriptRow, readonly manuscript: Manuscript }> {
  const row = await findManuscript(id)
  if (row.content === null) fail('intake-not-done', 'This document has not been read to its end. Wait for it, or bring it in again.')
  return { row, manuscript: row.content }
}

/** What was found in a document; null while it is not read. */
export async function found(_: Place, { manuscriptId }: OfManuscript): Promise<ManuscriptFound | null> {
  const { content } = await findManuscript(manuscriptId)
  return content === null ? null : foundIn(content)
}

/** The parts of a document by these choices, and one of them to be looked at. */
export async function proposal(_: Place, { manuscriptId, choices, shown }: OfManuscript & { readonly choices: Partial<Choices>, readonly shown: number }): Promise<ManuscriptProposal> {
  const { manuscript } = await findReadManuscript(manuscriptId)
  return proposalView(manuscript, withDefaults(manuscript, choices), shown)
}

/** Accepts a proposal: makes a production of a document. Gives the edition's id. */
export async function produce({ database }: Place, { asked, casting }: { readonly asked: ProductionRequest, readonly casting: Casting }): Promise<{ readonly editionId: string }> {
  const { manuscriptId, title, author, language, choices: sent = {}, houseStyle } = asked
  const { manuscript } = await findReadManuscript(manuscriptId)
  const choices = withDefaults(manuscript, sent)
  const { parts } = propose(manuscript, choices)
  if (parts.length === 0) fail('nothing-to-read', 'By these choices nothing is left to be read. Change them.')
  const style = presetStyle(houseStyle ?? presetFor(manuscript))
  return { editionId: await createProduction(database, { manuscriptId, title: title.trim(), author: author?.trim() || null, language, casting, choices, parts, style, request: hash(asked) }) }
}

/** How often each rule of a house style acts on a document, before it is accepted. */
export async function styleCounts(_: Place, { manuscriptId, houseStyle, language, choices }: OfManuscript & IntakeStyleRequest): Promise<IntakeStyle> {
  const { manuscript } = await findReadManuscript(manuscriptId)
  const { rules } = presetStyle(houseStyle)
  const [kinds, context] = [new Map<string, RuleKindName>(rules.map(rule => [rule.id, rule.does])), { language, rules: prepareRules(rules) }]
  const counts = new Map<RuleKindName, number>()
  const breathe = breather()
  for (const part of toScript(manuscript, propose(manuscript, withDefaults(manuscript, choices)).parts).parts) {
    if (!part.included) continue
    for (const passage of part.passages) {
      for (const { by } of spokenOf(passage, { ...context, partLabel: part.label }).steps) if ('rule' in by) count(counts, kinds.get(by.rule)!)
      await breathe()
    }
  }
  return { usual: presetFor(manuscript), counts: [...counts].map(([does, times]) => ({ does, count: times })).sort((a, b) => b.count - a.count) }
}

function foundIn(manuscript: Manuscript): ManuscriptFound {
  const { blocks, units } = manuscript
  const pages = pagesOf(blocks)
  const read = blocks.filter(block => block.dropped === undefined)
  return {
    format: manuscript.format, title: manuscript.title ?? '', author: manuscript.author,
    language: manuscript.language, languageSource: manuscript.languageSource,
    units: units.length === 0 ? null : { kind: units[0]!.kind, count: units.length, hidden: units.filter(unit => unit.hidden === true).length },
    ...divisibleBy(blocks),
    pages: pages.length < 2 ? null : [pages[0]!, pages.at(-1)!],
    footnotes: new Set(blocks.flatMap(block => block.note ?? [])).size,
    tables: read.filter(block => block.kind === 'tableRow').length,
    images: blocks.reduce((sum, block) => sum + (block.dropped === 'image' ? 1 : 0) + (block.cuts ?? []).filter(cut => cut.kind === 'image').length, 0),
    columns: manuscript.columns ?? null,
    encoding: manuscript.encoding ?? null,
    problems: manuscript.problems,
    choices: defaultChoices(manuscript),
  }
}

/** The choices that were sent, over the defaults. */
function withDefaults(manuscript: Manuscript, choices: Partial<Choices>): Choices {
  return { ...defaultChoices(manuscript), ...choices }
}

function proposalView(manuscript: Manuscript, choices: Choices, shown: number): ManuscriptProposal {
  const proposal = propose(manuscript, choices)
  const style = presetStyle(presetFor(manuscript))
  return { parts: proposal.parts.map(part => view(part, manuscript.language, style)), dropped: countDrops(proposal.drops), shown: shownPart(proposal, shown) }
}

function view(part: ProposedPart, language: string, style: HouseStyle): ProposedPartView {
  return {
    kind: part.kind, label: part.label, included: part.included, block: part.block, about: part.about,
    words: part.passages.reduce((sum, passage) => sum + countWords(passage.text), 0),
    durationMs: Math.round(sketchScore(part.passages, language, style).reduce((sum, { text, restBeforeMs }) => sum + restBeforeMs + speakingMs(text, usualPace), 0)),
  }
}

/** A part's passages, with what is dropped between and in them. */
function shownPart({ parts, drops }: Proposal, index: number): ShownPart | null {
  const part = parts[index]
  if (part === undefined) return null
  const next = parts.slice(index + 1).find(each => each.block > part.block)
  const first = index === 0 ? 0 : part.block
  const last = next?.block ?? Number.POSITIVE_INFINITY
  const own = new Map<number, Drop[]>()
  for (const drop of drops) {
    if (drop.block >= first && drop.block < last) addTo(own, drop.block, drop)
  }
  const rows: ShownRow[] = []
  const take = (until: number): void => {
    for (const block of [...own.keys()].filter(each => each < until)) {
      for (const { id, kind, text, restored } of own.get(block)!) rows.push({ of: 'drop', id, kind, text, restored })
      own.delete(block)
    }
  }
  for (const { kind, text, block, language = null, page = null } of part.passages) {
    if (block !== null) take(block)
    rows.push({ of: 'passage', kind, text, block, language, page })
    if (block !== null) take(block + 1)
  }
  take(last)
  return { index, rows: rows.slice(0, shownRows), more: Math.max(0, rows.length - shownRows) }
}
