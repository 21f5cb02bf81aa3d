import type { DeliveryChangesView } from '#shared/delivery'
import { deliveryChanges } from '#store/delivery-report'
import type { Place } from './place'

/** What a delivery has otherwise than an earlier one: `since`, or the one before it. */
export function changesIn(_: Place, { deliveryId, since }: { readonly deliveryId: string, readonly since?: string }): Promise<DeliveryChangesView> {
  return deliveryChanges(deliveryId, since)
}
