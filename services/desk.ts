import type { Problem } from '#core/problem'
import { warningsOf } from '#core/score/warnings'
import { speakerLabels } from '#core/script/dialogue'
import { count } from '#core/tally'
import type { Desk } from '#shared/api'
import type { Database } from '#store/database'
import type { LoadedEdition } from '#store/editions'
import { ManuscriptRow } from '#store/models'
import { readingStatus } from '#store/readings'
import { soundViews } from '#store/sounds'
import { summariesOf, type PartFacts, type SamplesOf, type SummarisedPart } from '#store/summaries'
import type { SpeechEngines } from '#voices/engines'
import type { Voice } from '#voices/port'
import { engineCapabilities } from '#voices/registry'
import { unsayableIn } from './sayable'

/** A production as its pages show it. It must be up to date. */
export async function deskOf(database: Database, engines: SpeechEngines, samplesOf: SamplesOf, { edition, production, style, casting, roles }: LoadedEdition): Promise<Desk> {
  const parts = (await summariesOf(database, [edition.id], samplesOf)).get(edition.id)!
  const included = parts.filter(({ summary }) => summary.included).map(({ summary: { label }, facts }) => ({ label, ...facts }))
  const manuscript = edition.manuscriptId === null ? null : await ManuscriptRow.findByPk(edition.manuscriptId, { attributes: ['fileName'] })
  const spoken = totals(parts, facts => facts.roles)
  const { voices } = await engines.list()
  return {
    editionId: edition.id, title: production.title, author: production.author, language: edition.language,
    fileName: manuscript?.fileName ?? null, houseStyle: style, houseStyleId: edition.houseStyleId, casting,
    roles: roles.map((role, index) => ({ ...role, passages: index === 0 ? parts.reduce((sum, { facts }) => sum + facts.narrated, 0) : spoken.get(role.id) ?? 0 })),
    sounds: await soundViews(production.id, totals(parts, facts => facts.sounds)),
    speakers: speakerLabels({ counts: totals(parts, facts => facts.speakerLabels), alternating: new Set(parts.flatMap(({ facts }) => facts.alternating)) }),
    engines: engineCapabilities(), languages: [...new Set(voices.map(voice => voice.language))],
    parts: parts.map(({ summary }) => summary),
    reading: await readingStatus(database, edition.id),
    warnings: [...goneVoices(roles, voices), ...warningsOf(included), ...await unsayableIn(engines, included)],
  }
}

/** Roles whose voice no engine has any more. */
function goneVoices(roles: LoadedEdition['roles'], voices: readonly Voice[]): Problem[] {
  const gone = roles.filter(({ casting: { engine, voice } }) => !voices.some(each => each.engine === engine && each.id === voice.split('+')[0]))
  return gone.map(({ id, name, casting: { voice } }) => ({ code: `voice-gone-${id}`, message: `There is no voice “${voice}” here, in which ${name} speaks: nothing of it can be read. Choose another voice.` }))
}

/** The counts of all parts together. */
function totals(parts: readonly SummarisedPart[], countsOf: (facts: PartFacts) => Readonly<Record<string, number>>): Map<string, number> {
  const all = new Map<string, number>()
  for (const { facts } of parts) for (const [name, times] of Object.entries(countsOf(facts))) count(all, name, times)
  return all
}
