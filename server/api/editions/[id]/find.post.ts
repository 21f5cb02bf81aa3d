import { finder } from '#core/script/find'
import type { FindHit, FindView } from '#shared/api'
import { findSchema, type FindRequest } from '#shared/schemas'
import { loadEdition } from '#store/editions'
import { PartRow, PassageRow } from '#store/models'
import { bodyOf, idParam, route } from '../../../utils/route'

const body = bodyOf<FindRequest>(findSchema)

/** Hits that are sent; all are counted. */
const sentHits = 500

/** Looks through a whole script; nothing is changed. */
export default route(async (event): Promise<FindView> => {
  const editionId = idParam(event)
  const { query } = await body(event)
  const { edition } = await loadEdition(editionId)
  const find = finder(query)
  const parts = await PartRow.findAll({ where: { editionId }, attributes: ['id', 'label'], order: [['rank', 'ASC']] })
  const passages = await PassageRow.findAll({ where: { partId: parts.map(part => part.id) }, order: [['rank', 'ASC']] })
  const hits: FindHit[] = []
  let [count, found] = [0, 0]
  for (const part of parts) {
    for (const passage of passages.filter(each => each.partId === part.id)) {
      const own = find(passage.content, passage.language ?? edition.language)
      if (own.length === 0) continue
      count += own.length
      found += 1
      for (const hit of own.slice(0, sentHits - hits.length)) hits.push({ ...hit, partId: part.id, part: part.label, passageId: passage.id, revision: passage.revision })
    }
  }
  return { count, passages: found, hits }
})
