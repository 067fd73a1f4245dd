import type { Area } from '../../kernel/area'
import {
  AnswerListEntity,
  CountUnitEntity,
  FamilyEntity,
  FaultCodeEntity,
  FinerStandingEntity,
  GaugeKindEntity,
  ImportanceClassEntity,
  MeasureUnitEntity,
  OperationEntity,
  PartEntity,
  PartnerEntity,
  PlaceEntity,
  ReasonEntity,
  RoutingStepEntity,
} from './entities'
import { partRoutes } from './parts'
import { definitionsFound } from './repository'
import { masterRoutes } from './routes'
import { measureUnitRoutes } from './measureUnits'

/** The plant's own lists: what there is, where, by whom, and the words that are chosen from. */
export const masters: Area = {
  name: 'define/masters',
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
    MeasureUnitEntity,
    GaugeKindEntity,
  ],
  routes(routes) {
    masterRoutes(routes)
    partRoutes(routes)
    measureUnitRoutes(routes)
  },
  subjects: {
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
    'gauge kind': { table: 'gauge_kind', column: 'code' },
    'unit of measure': { table: 'measure_unit', column: 'code' },
  },
  searchProviders: definitionsFound,
}
