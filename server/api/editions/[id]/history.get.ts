import { historyQuerySchema, type HistoryQuery } from '#shared/schemas'
import { historyOf } from '#store/edits'
import { idParam, queryOf, route } from '../../../utils/route'

const query = queryOf<HistoryQuery>(historyQuerySchema)

/** What a window can undo and redo next. */
export default route(event => historyOf(idParam(event), query(event).window))
