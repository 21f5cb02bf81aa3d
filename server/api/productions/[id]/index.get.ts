import type { ProductionView } from '#shared/api'
import { productionOf } from '#store/editions'
import { idParam, route } from '../../../utils/route'

/** A production and its editions, by its own id or that of one of them. */
export default route((event): Promise<ProductionView> => productionOf(idParam(event)))
