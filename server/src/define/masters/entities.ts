import type {
  AnswerList,
  CharacteristicFields,
  CountUnit,
  DetachedLimits,
  Family,
  FaultCode,
  FinerStanding,
  ImportanceClass,
  Operation,
  Part,
  PartTarget,
  Partner,
  Place,
  Reason,
} from '@nemawashi/contract'
import type { RevisionState, SamplingRule } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, id, int, json, maybeJson, mayReference, maybeText, references, text, uniqueText } from '../../kernel/database/columns'

const named = { id, code: uniqueText, name: text, version: int }

export const FamilyEntity = new EntitySchema<Family>({ name: 'family', columns: named })
export const PartnerEntity = new EntitySchema<Partner>({
  name: 'partner',
  columns: { ...named, kind: text, isActive: flag, supplierGroup: { type: 'text', default: '' } },
})
export const PlaceEntity = new EntitySchema<Place>({ name: 'place', columns: { ...named, purpose: text, countsForPlanning: flag } })
export const OperationEntity = new EntitySchema<Operation>({ name: 'operation', columns: { ...named, kind: text } })

export const AnswerListEntity = new EntitySchema<AnswerList>({ name: 'answer_list', columns: { ...named, answers: json, isActive: flag } })
export const FaultCodeEntity = new EntitySchema<FaultCode>({ name: 'fault_code', columns: { ...named, isActive: flag } })
export const ReasonEntity = new EntitySchema<Reason>({ name: 'reason', columns: { ...named, purpose: text, isActive: flag } })
export const ImportanceClassEntity = new EntitySchema<ImportanceClass>({ name: 'importance_class', columns: { ...named, isActive: flag } })
export const CountUnitEntity = new EntitySchema<CountUnit>({ name: 'count_unit', columns: { ...named, isActive: flag } })

export const FinerStandingEntity = new EntitySchema<FinerStanding>({
  name: 'finer_standing',
  columns: { ...named, standing: text, mayUse: flag, mayPick: flag, mayShip: flag, countsForPlanning: flag, isActive: flag },
})

export type PartRow = Omit<Part, 'operationIds'>
export const PartEntity = new EntitySchema<PartRow>({
  name: 'part',
  columns: {
    ...named,
    revision: text,
    unit: text,
    tracking: text,
    familyId: mayReference('family'),
    putAwayPlaceId: mayReference('place'),
    packQuantity: { type: 'integer', nullable: true },
    holdDays: { type: 'integer', nullable: true },
  },
})

export interface RoutingStepRow {
  partId: string
  position: number
  operationId: string
}
export const RoutingStepEntity = new EntitySchema<RoutingStepRow>({
  name: 'routing_step',
  columns: {
    partId: { ...references('part'), primary: true },
    position: { type: 'integer', primary: true },
    operationId: references('operation'),
  },
})

export interface CharacteristicRow {
  id: string
  code: string
  version: number
  /** The import that made it, so that the import can be undone as a whole. */
  importId: string | null
}
export const CharacteristicEntity = new EntitySchema<CharacteristicRow>({
  name: 'characteristic',
  columns: { id, code: uniqueText, version: int, importId: maybeText },
})

export interface CharacteristicRevisionRow extends Omit<CharacteristicFields, 'details'> {
  /** Null in revisions made before there were details. */
  details: CharacteristicFields['details'] | null
  id: string
  characteristicId: string
  revision: number
  state: RevisionState
  releasedAt: string | null
  releasedById: string | null
}
const revisionColumns = { id, revision: int, state: text, releasedAt: maybeText, releasedById: mayReference('person') }

export const CharacteristicRevisionEntity = new EntitySchema<CharacteristicRevisionRow>({
  name: 'characteristic_revision',
  columns: {
    ...revisionColumns,
    characteristicId: references('characteristic'),
    name: text,
    kind: text,
    class: text,
    method: text,
    instruction: text,
    nominal: maybeText,
    lower: maybeText,
    upper: maybeText,
    unit: maybeText,
    resolution: maybeText,
    acceptableState: maybeText,
    details: maybeJson,
  },
  uniques: [{ columns: ['characteristicId', 'revision'] }],
})

export interface PlanRow {
  id: string
  code: string
  name: string
  version: number
}
export const PlanEntity = new EntitySchema<PlanRow>({ name: 'plan', columns: named })

export interface PlanRevisionRow {
  id: string
  planId: string
  revision: number
  state: RevisionState
  releasedAt: string | null
  releasedById: string | null
  /** Day from which it is used, where one was set at its release. */
  effectiveFrom: string | null
}
export const PlanRevisionEntity = new EntitySchema<PlanRevisionRow>({
  name: 'plan_revision',
  columns: { ...revisionColumns, planId: references('plan'), effectiveFrom: maybeText },
  uniques: [{ columns: ['planId', 'revision'] }],
})

export interface PlanLineRow {
  planRevisionId: string
  position: number
  characteristicId: string
  sampling: SamplingRule
  isRequired: boolean
  isDecisive: boolean
  detached: DetachedLimits | null
  stage: string
  instruction: string
  targets: PartTarget[] | null
}
export const PlanLineEntity = new EntitySchema<PlanLineRow>({
  name: 'plan_line',
  columns: {
    planRevisionId: { ...references('plan_revision'), primary: true },
    position: { type: 'integer', primary: true },
    characteristicId: references('characteristic'),
    sampling: json,
    isRequired: flag,
    isDecisive: flag,
    detached: maybeJson,
    stage: { type: 'text', default: '' },
    instruction: { type: 'text', default: '' },
    targets: maybeJson,
  },
  indices: [{ name: 'plan_line_characteristic', columns: ['characteristicId'] }],
})
