import { warningsOf } from '#core/score/warnings'
import type { Desk } from '#shared/api'
import { ManuscriptRow } from '#store/models'
import { readingStatus } from '#store/readings'
import { scoreEdition, summarise } from '#store/score'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database, library }): Promise<Desk> => {
  const scored = await scoreEdition(idParam(event))
  const { edition, production, style, casting } = scored
  const manuscript = edition.manuscriptId === null ? null : await ManuscriptRow.findByPk(edition.manuscriptId, { attributes: ['fileName'] })
  return {
    editionId: edition.id, title: production.title, author: production.author, language: edition.language,
    namePattern: edition.namePattern, fileName: manuscript?.fileName ?? null, houseStyle: style, casting,
    parts: await summarise(database, library.index, scored),
    reading: await readingStatus(database, edition.id),
    warnings: warningsOf(scored.parts.filter(part => part.row.included).map(({ row, score }) => ({ label: row.label, score }))),
  }
})
