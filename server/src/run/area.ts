import { dispatchesFound } from './shipping/dispatchRepository'
import { ordersFound } from './production/orderRepository'
import { deliveriesFound } from './receiving/repository'
import { transfersFound } from './moving/transferRepository'
import type { Area } from '../kernel/area'
import {
  CustomerReturnEntity,
  DeliveryCorrectionEntity,
  DeliveryEntity,
  DispatchEntity,
  DispatchLineEntity,
  DispatchPickEntity,
  TransferEntity,
} from './receiving/entities'
import { ExpectedDeliveryEntity, ExpectedLineEntity } from './receiving/expectedEntities'
import { expectedFound } from './receiving/expectedRepository'
import { DeliveryPaperEntity } from './receiving/paperEntities'
import { PurchaseLineEntity, PurchaseOrderEntity } from './purchasing/purchaseEntities'
import { purchasesFound } from './purchasing/purchaseRepository'
import { OrderStepEntity, ProductionOrderEntity, StepReportEntity } from './production/orderEntities'
import { FeedEventEntity, NoticeEntity } from './feed/feedEntities'
import { emptyingInbox } from './feed/inbox'
import { hearForNotices, telling } from './feed/notices'
import { runRoutes } from './routes'
import { lookingAtTheClock } from './production/stepClock'

/** What happens to lots on their way. */
export const run: Area = {
  name: 'run',
  entities: [
    DeliveryCorrectionEntity,
    DeliveryEntity,
    DeliveryPaperEntity,
    ExpectedDeliveryEntity,
    ExpectedLineEntity,
    PurchaseOrderEntity,
    PurchaseLineEntity,
    ProductionOrderEntity,
    OrderStepEntity,
    StepReportEntity,
    DispatchEntity,
    DispatchLineEntity,
    DispatchPickEntity,
    CustomerReturnEntity,
    TransferEntity,
    FeedEventEntity,
    NoticeEntity,
  ],
  routes: runRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
    'expected delivery': { table: 'expected_delivery', column: 'code' },
    'purchase order': { table: 'purchase_order', column: 'order_number' },
    'production order': { table: 'production_order', column: 'code' },
    dispatch: { table: 'dispatch', column: 'code' },
    'feed event': { table: 'feed_event', column: 'key' },
    transfer: { table: 'transfer', column: 'code' },
    notice: { table: 'notice', column: 'about' },
    'customer return': { table: 'customer_return', column: 'code' },
  },
  hears: hearForNotices,
  jobs: [telling(), emptyingInbox(), lookingAtTheClock()],
  finds: [deliveriesFound, expectedFound, purchasesFound, ordersFound, dispatchesFound, transfersFound],
}
