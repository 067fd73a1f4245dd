import type { Area } from '../kernel/area'
import { DecisionEntity, DecisionPartEntity } from './decisionEntities'
import { BalanceEntity, ContainerEntity, HoldEntity, LotEntity, LotUseEntity, MovementEntity, OccasionEntity } from './entities'
import { verifyLedger } from './verifyLedger'

/** Lots, containers, and the ledger of what is where in which standing. */
export const stock: Area = {
  name: 'stock',
  entities: [OccasionEntity, LotEntity, LotUseEntity, ContainerEntity, MovementEntity, BalanceEntity, HoldEntity, DecisionEntity, DecisionPartEntity],
  subjects: {
    lot: { table: 'lot', column: 'code' },
  },
  finds: [
    {
      kind: 'lot',
      sql: `SELECT l.id, l.code AS title, p.code || ' · supplier lot ' || l.supplier_lot AS detail FROM lot l JOIN part p ON p.id = l.part_id
          WHERE l.code LIKE ? ESCAPE '\\' OR l.supplier_lot LIKE ? ESCAPE '\\' ORDER BY l.created_at DESC LIMIT 6`,
    },
  ],
  verify: verifyLedger,
}
