import type { ShelfEntry } from '#shared/api'
import { shelf } from '#services/shelf'
import { route } from '../../utils/route'

/** The shelf: every edition, the one changed last first. */
export default route((_, { database, work }): Promise<ShelfEntry[]> => shelf(database, work.summarise, work.samplesOf))
