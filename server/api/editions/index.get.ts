import type { ShelfEntry } from '#shared/api'
import { DeliveryRow, EditionRow, ProductionRow } from '#store/models'
import { scoreEdition, summarise } from '#store/score'
import { route } from '../../utils/route'

/** The shelf: every edition, the one changed last first. */
export default route(async (_, { database, library }): Promise<ShelfEntry[]> => {
  const productions = await ProductionRow.findAll({ order: [['changedAt', 'DESC']], limit: 200 })
  const editions = await EditionRow.findAll({ where: { productionId: productions.map(production => production.id) } })
  const entries: ShelfEntry[] = []
  for (const production of productions) {
    for (const edition of editions.filter(candidate => candidate.productionId === production.id)) {
      const scored = await scoreEdition(edition.id)
      entries.push({
        editionId: edition.id, title: production.title, author: production.author, language: edition.language,
        changedAt: production.changedAt.toISOString(),
        parts: await summarise(database, library.index, scored),
        deliveries: await DeliveryRow.count({ where: { editionId: edition.id, state: 'done' } }),
      })
    }
  }
  return entries
})
