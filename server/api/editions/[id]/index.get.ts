import { deskOf } from '#services/desk'
import type { Desk } from '#shared/api'
import { bringUpToDate } from '#store/summaries'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database, engines, work }): Promise<Desk> =>
  deskOf(database, engines, work.samplesOf, await bringUpToDate(database, idParam(event), work.summarise)))
