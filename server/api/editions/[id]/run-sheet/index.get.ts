import type { DeliveryDesk } from '#shared/delivery'
import { encoderName } from '#press/ffmpeg'
import { deliveryDesk } from '#store/deliveries'
import { postEvent } from '#store/events'
import { deliveryFolder } from '#store/folders'
import { bringUpToDate } from '#store/summaries'
import { finder, knownDamageOf } from '../../../../utils/delivered-files'
import { idParam, route } from '../../../../utils/route'

export default route(async (event, { database, storage, work }): Promise<DeliveryDesk> => {
  const id = idParam(event)
  const find = finder()
  return deliveryDesk(database, await bringUpToDate(database, id, work.summarise), await encoderName(), (deliveryId, file) =>
    knownDamageOf({ storage, folder: deliveryFolder(deliveryId) }, file, find, () => postEvent(database, id, { kind: 'delivery', deliveryId })))
})
