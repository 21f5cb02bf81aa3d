import type { DeliveryReportView } from '#shared/delivery'
import { deliveryReport } from '#store/delivery-report'
import { idParam, route } from '../../../../utils/route'

export default route((event, { database }): Promise<DeliveryReportView> => deliveryReport(database, idParam(event)))
