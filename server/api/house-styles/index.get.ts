import type { HouseStyleSummary } from '#shared/api'
import { houseStyles } from '#store/editions'
import { route } from '../../utils/route'

export default route((_, { database }): Promise<HouseStyleSummary[]> => houseStyles(database))
