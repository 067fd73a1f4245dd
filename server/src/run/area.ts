import { dispatchesFound } from './dispatchRepository'
import { ordersFound } from './orderRepository'
import { deliveriesFound } from './repository'
import { transfersFound } from './transferRepository'
import type { Area } from '../kernel/area'
import { CustomerReturnEntity, DeliveryCorrectionEntity, DeliveryEntity, DispatchEntity, DispatchPickEntity, TransferEntity } from './entities'
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
    ProductionOrderEntity,
    OrderStepEntity,
    StepReportEntity,
    DispatchEntity,
    DispatchPickEntity,
    CustomerReturnEntity,
    TransferEntity,
    FeedEventEntity,
    NoticeEntity,
  ],
  routes: runRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
    'production order': { table: 'production_order', column: 'code' },
    dispatch: { table: 'dispatch', column: 'code' },
    'feed event': { table: 'feed_event', column: 'key' },
    transfer: { table: 'transfer', column: 'code' },
    notice: { table: 'notice', column: 'about' },
    'customer return': { table: 'customer_return', column: 'code' },
  },
  hears: hearForNotices,
  jobs: [telling(), emptyingInbox(), lookingAtTheClock()],
  finds: [deliveriesFound, ordersFound, dispatchesFound, transfersFound],
}
