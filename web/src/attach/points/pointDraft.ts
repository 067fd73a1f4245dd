import {
  momentsOf,
  usualConsequence,
  type AnswerPlace,
  type FrequencyRule,
  type HoldExtent,
  type KeptFrom,
  type Moment,
  type Need,
  type OnFailure,
  type OperationKind,
  type PointSubject,
  type WhenConforming,
} from '@nemawashi/core'
import type { ControlPoint } from '@nemawashi/contract'

/** A control point as it is being written: which plan, when, for which part or family, from or for whom, how often, by whom, whether it is a gate. */
export interface PointDraft {
  operationId: string
  moment: Moment
  every: number | null
  planId: string | null
  partId: string | null
  familyId: string | null
  supplierId: string | null
  customerId: string | null
  supplierGroup: string | null
  contract: string | null
  frequency: FrequencyRule
  responsible: string
  dueHours: number | null
  holdPlaceId: string | null
  subject: PointSubject
  holds: HoldExtent
  isGate: boolean
  onFailure: OnFailure
  whenConforming: WhenConforming
  advice: string
  followPlanId: string | null
  answeredAt: AnswerPlace
  tells: string[]
  keepsFrom: KeptFrom
  setsAside: boolean
  need: Need
  validFrom: string | null
  validUntil: string | null
}

/** What a control point says, to be changed. */
export function draftOf(point: ControlPoint): PointDraft {
  const { operationId, moment, every, planId, partId, familyId, supplierId, customerId, supplierGroup, contract, subject } = point
  const { frequency, responsible, dueHours, holdPlaceId, holds, isGate, onFailure, need, validFrom, validUntil } = point
  const { whenConforming, advice, followPlanId, answeredAt, tells, keepsFrom, setsAside } = point
  const consequence = { onFailure, whenConforming, advice, followPlanId, answeredAt, tells, keepsFrom, setsAside }
  const where = { operationId, moment, every, planId, partId, familyId, supplierId, customerId, supplierGroup, contract, subject }
  return { ...where, ...consequence, frequency, responsible, dueHours, holdPlaceId, holds, isGate, need, validFrom, validUntil }
}

/** A new one: what mostly is wanted at an operation of this kind. */
export function newDraft(operationId: string, kind: OperationKind, partId: string, planId: string | null): PointDraft {
  return {
    operationId,
    moment: momentsOf[kind][0],
    every: null,
    planId,
    partId,
    familyId: null,
    supplierId: null,
    customerId: null,
    supplierGroup: null,
    contract: null,
    subject: 'lot',
    holds: 'all',
    frequency: { kind: 'everyArrival' },
    responsible: '',
    dueHours: null,
    holdPlaceId: null,
    isGate: true,
    onFailure: 'hold',
    ...usualConsequence,
    tells: [],
    need: 'fixed',
    validFrom: null,
    validUntil: null,
  }
}

/** Field names of a control point as they stand on the form. */
export const pointFields: Readonly<Record<string, string>> = {
  operationId: 'at',
  moment: 'when',
  every: 'every',
  planId: 'plan',
  partId: 'part',
  familyId: 'family',
  supplierId: 'supplier',
  customerId: 'customer',
  supplierGroup: 'group of suppliers',
  contract: 'contract',
  frequency: 'how often',
  responsible: 'responsible',
  dueHours: 'due after, h',
  holdPlaceId: 'hold place',
  subject: 'looks at',
  holds: 'holds',
  isGate: 'gate',
  onFailure: 'when not accepted',
  whenConforming: 'when accepted',
  advice: 'advice when not accepted',
  followPlanId: 'follow-up plan',
  answeredAt: 'answered',
  tells: 'notify when not accepted',
  keepsFrom: 'blocks',
  setsAside: 'segregates nonconforming pieces',
  need: 'sample may be changed',
  validFrom: 'in force from',
  validUntil: 'in force until',
  inPlaceOf: 'in place of',
}
