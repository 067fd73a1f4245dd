import { dispatchesFound } from './dispatchRepository'
import { ordersFound } from './orderRepository'
import { deliveriesFound } from './repository'
import { transfersFound } from './transferRepository'
import type { Area } from '../kernel/area'
import {
  CustomerReturnEntity,
  DeliveryCorrectionEntity,
  DeliveryEntity,
  DispatchEntity,
  DispatchLineEntity,
  DispatchPickEntity,
  TransferEntity,
} from './entities'
import { ExpectedDeliveryEntity, ExpectedLineEntity } from './expectedEntities'
import { expectedFound } from './expectedRepository'
import { DeliveryPaperEntity } from './paperEntities'
import { PurchaseLineEntity, PurchaseOrderEntity } from './purchaseEntities'
import { purchasesFound } from './purchaseRepository'
import { OrderStepEntity, ProductionOrderEntity, StepReportEntity } from './orderEntities'
import { FeedEventEntity, NoticeEntity } from './feedEntities'
import { emptyingInbox } from './inbox'
import { hearForNotices, telling } from './notices'
import { runRoutes } from './routes'
import { lookingAtTheClock } from './stepClock'

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
