import type { RemovedEdition } from '#shared/api'
import { removedEditions } from '#store/removed'
import { route } from '../../utils/route'

/** Editions that can be put back. */
export default route((_, { database }): Promise<RemovedEdition[]> => removedEditions(database))
