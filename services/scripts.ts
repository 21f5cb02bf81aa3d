import { countWords } from '#core/manuscript/manuscript'
import type { Split } from '#core/manuscript/choices'
import type { DeliveryProfile } from '#core/delivery/profile'
import { fail } from '#core/problem'
import { candidate, divideScript } from '#core/script/divide'
import { includedParts, scriptAsMarkdown, scriptAsSsml, scriptAsText, type ScriptFormat } from '#core/script/export'
import { finder } from '#core/script/find'
import { namesOf, renamed, withRoles } from '#core/script/roles'
import type { Script } from '#core/script/script'
import { scriptDocument } from '#press/script-document'
import type { DivisionView, FindHit, FindView, WordsMaterial } from '#shared/api'
import type { FindRequest } from '#shared/schemas'
import { startDeliveries, type DeliveryChoice } from '#store/deliveries'
import { profileBy } from '#store/delivery-profiles'
import { loadScript, dividedParts } from '#store/divide'
import { loadEdition } from '#store/editions'
import { PartRow, PassageRow } from '#store/models'
import { startReading, type StartedReading } from '#store/readings'
import { scoreEdition, scriptOf } from '#store/score'
import { bringUpToDate } from '#store/summaries'
import type { Place } from './place'
import { divisibleBy } from '#core/manuscript/divisions'

// What is done with a whole script: for a large one in a process of its own.

interface OfEdition {
  readonly editionId: string
}

export async function summarise({ database }: Place, { editionId }: OfEdition): Promise<null> {
  await bringUpToDate(database, editionId)
  return null
}

/** Starts to read all that is missing in the parts that are not left out, or in those of them that are chosen. */
export async function readMissing({ database, library }: Place, { editionId, parts }: OfEdition & { readonly parts: readonly string[] | undefined }): Promise<StartedReading> {
  const scored = await scoreEdition(editionId)
  return startReading(database, library.index, editionId, scored.parts.filter(({ row }) => row.included && parts?.includes(row.id) !== false))
}

/** Orders a delivery, and one for each other profile. Gives their ids, that of the edition's own profile first. */
export async function orderDelivery({ database, library }: Place, { editionId, choice, also }: OfEdition & { readonly choice: DeliveryChoice, readonly also: readonly string[] }): Promise<{ readonly deliveryIds: readonly string[] }> {
  const others: DeliveryProfile[] = []
  for (const nameOrId of new Set(also)) others.push(await profileBy(nameOrId))
  return { deliveryIds: await startDeliveries(database, library.index, await scoreEdition(editionId), choice, others) }
}

/** Hits that are sent; all are counted. */
const sentHits = 500

/** Looks through a whole script; nothing is changed. */
export async function findIn(_: Place, { editionId, query }: OfEdition & FindRequest): Promise<FindView> {
  const { edition, roles } = await loadEdition(editionId)
  const named = namesOf(roles)
  const find = finder(query)
  const parts = await PartRow.findAll({ where: { editionId }, attributes: ['id', 'label'], order: [['rank', 'ASC']] })
  const hits: FindHit[] = []
  let [count, found] = [0, 0]
  for (const part of parts) {
    for (const passage of await PassageRow.findAll({ where: { partId: part.id }, order: [['rank', 'ASC']] })) {
      const own = find(withRoles(passage.content, named), passage.language ?? edition.language)
      if (own.length === 0) continue
      count += own.length
      found += 1
      for (const hit of own.slice(0, sentHits - hits.length)) hits.push({ ...hit, partId: part.id, part: part.label, passageId: passage.id, revision: passage.revision })
    }
  }
  return { count, passages: found, hits }
}

/** What a script would be divided into; nothing is changed. */
export async function divisionOf(_: Place, { editionId, split: asked }: OfEdition & { readonly split: Split | undefined }): Promise<DivisionView> {
  const { edition } = await loadEdition(editionId)
  const split = asked ?? edition.choices?.split ?? { by: 'heading', level: 1 }
  const script = await loadScript(editionId)
  const parts = dividedParts(script)
  const passages = parts.flatMap(part => part.passages)
  const texts = new Map(passages.map(passage => [passage.id, passage.text]))
  const blocks = passages.map(passage => candidate(passage, script.blocks)).map(({ text, source }) => ({ ...source, text }))
  return {
    ...divisibleBy(blocks), units: null, split,
    parts: divideScript(parts, split, script.blocks).map(group => ({
      label: group.label, isNew: group.part === null, words: group.passages.reduce((sum, passage) => sum + countWords(texts.get(passage.id)!), 0),
    })),
  }
}

/** All that the rules, the census and the narrator check of a page look at. */
export async function materialOf(_: Place, { editionId }: OfEdition): Promise<WordsMaterial> {
  const loaded = await loadEdition(editionId)
  const { style, wordbooks, decisions } = loaded
  const { language, parts } = await scriptOf(loaded)
  return { language, parts, rules: style.rules, wordbooks, decisions }
}

/** The bytes of the script as a file. */
export async function scriptFile(_: Place, { editionId, format }: OfEdition & { readonly format: ScriptFormat }): Promise<Buffer> {
  const loaded = await loadEdition(editionId)
  const named = namesOf(loaded.roles)
  const own = await scriptOf(loaded)
  const script: Script = { ...own, parts: own.parts.map(part => ({ ...part, passages: part.passages.map(passage => renamed(passage, named)) })) }
  if (includedParts(script).length === 0) fail('nothing-to-read', 'All parts are left out: there is nothing to export.')
  if (format === 'docx') return scriptDocument(script)
  return Buffer.from(format === 'ssml' ? scriptAsSsml(script) : format === 'txt' ? scriptAsText(script) : scriptAsMarkdown(script))
}
