import type { DeliveryProgress } from '#shared/delivery'
import { progressOf } from '#store/deliveries'
import { idParam, route } from '../../../utils/route'

export default route((event): Promise<DeliveryProgress> => progressOf(idParam(event)))
