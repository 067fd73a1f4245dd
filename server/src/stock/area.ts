import { lotsFound, unitsFound } from './ledger/repository'
import type { Area } from '../kernel/area'
import { DecisionEntity, DecisionPartEntity } from './holds/decisionEntities'
import {
  BalanceEntity,
  ContainerEntity,
  HoldEntity,
  LotEntity,
  LotStandingEntity,
  LotUseEntity,
  MovementEntity,
  OccasionEntity,
  PutAwayRuleEntity,
} from './ledger/entities'
import { verifyLedger } from './ledger/ledgerRepository'

/** Lots, containers, and the ledger of what is where in which standing. */
export const stock: Area = {
  name: 'stock',
  entities: [
    OccasionEntity,
    LotEntity,
    LotUseEntity,
    ContainerEntity,
    MovementEntity,
    BalanceEntity,
    HoldEntity,
    LotStandingEntity,
    DecisionEntity,
    DecisionPartEntity,
    PutAwayRuleEntity,
  ],
  subjects: {
    lot: { table: 'lot', column: 'code' },
    'put-away rule': { table: 'put_away_rule', column: 'name' },
  },
  searchProviders: [lotsFound, ...unitsFound],
  verify: verifyLedger,
}
