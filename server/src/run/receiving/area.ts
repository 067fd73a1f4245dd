import type { Area } from '../../kernel/area'
import { DeliveryCorrectionEntity, DeliveryEntity } from './entities'
import { ExpectedDeliveryEntity, ExpectedLineEntity } from './expectedEntities'
import { expectedFound } from './expectedRepository'
import { DeliveryPaperEntity } from './paperEntities'
import { deliveriesFound } from './repository'
import { receivingRoutes } from './routes'

/** What is to come, and what has come: announced, registered, booked in, put right. */
export const receiving: Area = {
  name: 'run/receiving',
  entities: [DeliveryCorrectionEntity, DeliveryEntity, DeliveryPaperEntity, ExpectedDeliveryEntity, ExpectedLineEntity],
  routes: receivingRoutes,
  subjects: {
    delivery: { table: 'delivery', column: 'code' },
    'expected delivery': { table: 'expected_delivery', column: 'code' },
  },
  searchProviders: [deliveriesFound, expectedFound],
}
