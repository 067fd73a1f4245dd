import type { Area } from '../kernel/area'
import { DecisionEntity, DecisionPartEntity } from './decisionEntities'
import { ContainerEntity, DeliveryEntity, LotEntity, MovementEntity } from './entities'
import { verifyLedger } from './verifyLedger'

/** Lots, containers, and the ledger of what is where in which standing. */
export const stock: Area = {
  name: 'stock',
  entities: [DeliveryEntity, LotEntity, ContainerEntity, MovementEntity, DecisionEntity, DecisionPartEntity],
  subjects: {
    lot: { table: 'lot', column: 'code' },
  },
  finds: [
    {
      kind: 'lot',
      sql: `SELECT l.id, l.code AS title, p.code || ' · supplier lot ' || l.supplierLot AS detail FROM lot l JOIN part p ON p.id = l.partId
          WHERE l.code LIKE ? ESCAPE '\\' OR l.supplierLot LIKE ? ESCAPE '\\' ORDER BY l.receivedAt DESC LIMIT 6`,
    },
  ],
  verify: verifyLedger,
}
