import {
  endpoints,
  type AnswerList,
  type CountUnit,
  type FinerStanding,
  type Family,
  type FaultCode,
  type GaugeKind,
  type ImportanceClass,
  type Operation,
  type Partner,
  type Place,
  type Reason,
} from '@nemawashi/contract'
import type { Routes } from '../../kernel/routes'
import {
  AnswerListEntity,
  CountUnitEntity,
  FinerStandingEntity,
  FamilyEntity,
  FaultCodeEntity,
  GaugeKindEntity,
  ImportanceClassEntity,
  OperationEntity,
  PartnerEntity,
  PlaceEntity,
  ReasonEntity,
} from './entities'
import { master } from './masterRoutes'
import { masterColumns } from './repository'

const { define } = endpoints

export function masterRoutes(routes: Routes): void {
  master<Family>(routes, define.families, FamilyEntity, 'family', masterColumns.families)
  master<Partner>(routes, define.partners, PartnerEntity, 'partner', masterColumns.partners, { resting: { field: 'kind', property: 'partner kind' } })
  master<Place>(routes, define.places, PlaceEntity, 'place', masterColumns.places, { resting: { field: 'purpose', property: 'place purpose' } })
  master<AnswerList>(routes, define.answerLists, AnswerListEntity, 'answer list', masterColumns.answerLists)
  master<FaultCode>(routes, define.faultCodes, FaultCodeEntity, 'fault code', masterColumns.faultCodes)
  master<Reason>(routes, define.reasons, ReasonEntity, 'reason', masterColumns.reasons)
  master<ImportanceClass>(routes, define.classes, ImportanceClassEntity, 'class', masterColumns.classes)
  master<CountUnit>(routes, define.countUnits, CountUnitEntity, 'unit of count', masterColumns.countUnits)
  master<GaugeKind>(routes, define.gaugeKinds, GaugeKindEntity, 'gauge kind', masterColumns.gaugeKinds)
  master<FinerStanding>(routes, define.finerStandings, FinerStandingEntity, 'finer standing', masterColumns.finerStandings)
  master<Operation>(routes, define.operations, OperationEntity, 'operation', masterColumns.operations, {
    resting: { field: 'kind', property: 'operation kind' },
  })
}
