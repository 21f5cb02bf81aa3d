import { warningsOf } from '#core/score/warnings'
import { speakerLabels } from '#core/script/dialogue'
import { count } from '#core/tally'
import type { Desk } from '#shared/api'
import type { Database } from '#store/database'
import type { LoadedEdition } from '#store/editions'
import { ManuscriptRow } from '#store/models'
import { readingStatus } from '#store/readings'
import { soundViews } from '#store/sounds'
import { factsOf, summariesOf, type KeptPart } from '#store/summaries'
import type { Engine } from '#voices/port'
import { unsayableIn } from './sayable'
import { withoutSound } from './shelf'

/** A production as its pages show it. It must be up to date. */
export async function deskOf(database: Database, engine: Engine, { edition, production, style, casting, roles }: LoadedEdition): Promise<Desk> {
  const parts = await factsOf(database, edition.id)
  const included = parts.filter(part => part.included)
  const manuscript = edition.manuscriptId === null ? null : await ManuscriptRow.findByPk(edition.manuscriptId, { attributes: ['fileName'] })
  const spoken = totals(parts, part => part.roles)
  return {
    editionId: edition.id, title: production.title, author: production.author, language: edition.language,
    namePattern: edition.namePattern, fileName: manuscript?.fileName ?? null, houseStyle: style, houseStyleId: edition.houseStyleId, casting,
    roles: roles.map((role, index) => ({ ...role, passages: index === 0 ? parts.reduce((sum, part) => sum + part.narrated, 0) : spoken.get(role.name) ?? 0 })),
    sounds: await soundViews(production.id, totals(parts, part => part.sounds)),
    speakers: speakerLabels(totals(parts, part => part.speakerLabels)),
    languages: [...new Set((await engine.list()).voices.map(voice => voice.language))],
    parts: (await summariesOf(database, [edition.id])).get(edition.id)!.map(withoutSound),
    reading: await readingStatus(database, edition.id),
    warnings: [...warningsOf(included), ...await unsayableIn(engine, included)],
  }
}

/** The counts of all parts together. */
function totals(parts: readonly KeptPart[], countsOf: (part: KeptPart) => Readonly<Record<string, number>>): Map<string, number> {
  const all = new Map<string, number>()
  for (const part of parts) for (const [name, times] of Object.entries(countsOf(part))) count(all, name, times)
  return all
}
