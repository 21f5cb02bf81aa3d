import { fileSafe } from '#core/runsheet/file-name'
import { reportForm } from '#press/report-forms'
import type { DeliveryChangesView } from '#shared/delivery'
import { deliveryChanges, deliveryReport } from '#store/delivery-report'
import type { Place } from './place'

/** What a delivery has otherwise than an earlier one: `since`, or the one before it. */
export function changesIn(_: Place, { deliveryId, since }: { readonly deliveryId: string, readonly since?: string }): Promise<DeliveryChangesView> {
  return deliveryChanges(deliveryId, since)
}

/** The report of a delivery as a file, in one of the forms of `press/report-forms`. */
export async function reportFile({ database }: Place, { deliveryId, form }: { readonly deliveryId: string, readonly form: string }): Promise<{ readonly name: string, readonly text: string }> {
  const { report } = await deliveryReport(database, deliveryId)
  return { name: `${fileSafe(report.title)}-${report.delivery!.number}-report.${form}`, text: await reportForm(form)!.write(report) }
}
