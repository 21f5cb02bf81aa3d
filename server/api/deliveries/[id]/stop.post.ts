import { fail } from '#core/problem'
import { endDelivery } from '#store/deliveries'
import { DeliveryRow } from '#store/models'
import { idParam, route } from '../../../utils/route'

export default route(async (event, { database }) => {
  const delivery = await DeliveryRow.findByPk(idParam(event))
  if (delivery === null || delivery.state !== 'running') fail('not-found', 'This delivery is not being made any more.')
  await endDelivery(database, delivery, 'stopped')
  return { ok: true }
})
