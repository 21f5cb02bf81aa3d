import { warningsOf } from '#core/score/warnings'
import { speakerLabels } from '#core/script/dialogue'
import { rolesOfPassage } from '#core/script/script'
import type { Desk } from '#shared/api'
import { ManuscriptRow } from '#store/models'
import { readingStatus } from '#store/readings'
import { scoreEdition, summarise } from '#store/score'
import { soundViews } from '#store/sounds'
import { idParam, route } from '../../../utils/route'
import { unsayableIn } from '../../../utils/sayable'

export default route(async (event, { database, library, engine }): Promise<Desk> => {
  const scored = await scoreEdition(idParam(event))
  const { edition, production, style, casting, roles } = scored
  const included = scored.parts.filter(part => part.row.included).map(({ row, score }) => ({ label: row.label, score }))
  const passages = scored.parts.flatMap(part => part.passages)
  const manuscript = edition.manuscriptId === null ? null : await ManuscriptRow.findByPk(edition.manuscriptId, { attributes: ['fileName'] })
  return {
    editionId: edition.id, title: production.title, author: production.author, language: edition.language,
    namePattern: edition.namePattern, fileName: manuscript?.fileName ?? null, houseStyle: style, houseStyleId: edition.houseStyleId, casting,
    roles: roles.map((role, index) => ({ ...role, passages: index === 0 ? passages.filter(passage => passage.role === null).length : passages.filter(passage => rolesOfPassage(passage).includes(role.name)).length })),
    sounds: await soundViews(production.id, passages),
    speakers: speakerLabels(passages),
    languages: [...new Set((await engine.list()).voices.map(voice => voice.language))],
    parts: await summarise(database, library.index, scored),
    reading: await readingStatus(database, edition.id),
    warnings: [...warningsOf(included), ...await unsayableIn(engine, included)],
  }
})
