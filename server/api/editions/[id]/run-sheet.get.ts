import type { DeliveryDesk } from '#shared/api'
import { encoderName } from '#press/ffmpeg'
import { deliveryDesk } from '#store/deliveries'
import { scoreEdition } from '#store/score'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { library }): Promise<DeliveryDesk> =>
  deliveryDesk(library.index, await scoreEdition(idParam(event)), await encoderName()))
