import type {
  AnswerList,
  CountUnit,
  Family,
  FaultCode,
  FinerStanding,
  GaugeKind,
  ImportanceClass,
  MeasureUnitRecord,
  Operation,
  Part,
  Partner,
  Place,
  Reason,
} from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { flag, id, int, json, maybeText, mayReference, references, text, uniqueText } from '../../kernel/database/columns'

/** What every list of the plant has. */
export const named = { id, code: uniqueText, name: text, version: int }

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

export const GaugeKindEntity = new EntitySchema<GaugeKind>({
  name: 'gauge_kind',
  columns: { ...named, isAsked: flag, isWaivable: flag, isActive: flag },
})

export const MeasureUnitEntity = new EntitySchema<MeasureUnitRecord>({
  name: 'measure_unit',
  columns: { ...named, quantity: text, factor: maybeText, shift: maybeText, isActive: flag },
})

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
