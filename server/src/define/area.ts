import { definitionsFound } from './masters/masterRepository'
import type { Area } from '../kernel/area'
import { characteristicRoutes } from './library/characteristics'
import {
  AnswerListEntity,
  CharacteristicEntity,
  CharacteristicRevisionEntity,
  CountUnitEntity,
  FinerStandingEntity,
  FamilyEntity,
  FaultCodeEntity,
  ImportanceClassEntity,
  OperationEntity,
  PartEntity,
  PartnerEntity,
  PlaceEntity,
  PlanEntity,
  PlanLineEntity,
  PlanRevisionEntity,
  ReasonEntity,
  RoutingStepEntity,
} from './masters/entities'
import { libraryRoutes } from './library/library'
import { masterRoutes } from './masters/masterRoutes'
import { partRoutes } from './masters/parts'
import { planExchangeRoutes } from './plans/planExchange'
import { takeAllEffect } from './plans/planSchedule'
import { planRoutes } from './plans/plans'

/** What is inspected and how: characteristics, plans, and the plant's own lists. */
export const define: Area = {
  name: 'define',
  entities: [
    FamilyEntity,
    PartnerEntity,
    PlaceEntity,
    OperationEntity,
    PartEntity,
    RoutingStepEntity,
    AnswerListEntity,
    FaultCodeEntity,
    ReasonEntity,
    CountUnitEntity,
    FinerStandingEntity,
    ImportanceClassEntity,
    CharacteristicEntity,
    CharacteristicRevisionEntity,
    PlanEntity,
    PlanRevisionEntity,
    PlanLineEntity,
  ],
  routes(routes, kernel) {
    masterRoutes(routes)
    partRoutes(routes)
    libraryRoutes(routes, kernel)
    characteristicRoutes(routes)
    planRoutes(routes, kernel)
    planExchangeRoutes(routes, kernel)
  },
  subjects: {
    plan: { table: 'plan', column: 'code' },
    characteristic: { table: 'characteristic', column: 'code' },
    part: { table: 'part', column: 'code' },
    partner: { table: 'partner', column: 'code' },
    place: { table: 'place', column: 'code' },
    operation: { table: 'operation', column: 'code' },
    family: { table: 'family', column: 'code' },
    'answer list': { table: 'answer_list', column: 'code' },
    'fault code': { table: 'fault_code', column: 'code' },
    reason: { table: 'reason', column: 'code' },
    class: { table: 'importance_class', column: 'code' },
    'finer standing': { table: 'finer_standing', column: 'code' },
    'unit of count': { table: 'count_unit', column: 'code' },
  },
  finds: definitionsFound,
  jobs: [{ words: 'putting plans into effect', everyMs: 5 * 60_000, run: takeAllEffect }],
}
