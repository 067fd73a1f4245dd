import type { AnswerPlace, FrequencyRule, HoldExtent, KeptFrom, Moment, Need, OnFailure, PointSubject, WhenConforming } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, id, int, json, mayReference, maybeText, references, text, uniqueText } from '../kernel/database/columns'

export interface ControlPointRow {
  id: string
  code: string
  operationId: string
  /** When at the operation it asks. */
  moment: Moment
  /** After how many pieces or minutes it asks again, where its moment has an interval. */
  every: number | null
  planId: string
  partId: string | null
  familyId: string | null
  supplierId: string | null
  customerId: string | null
  /** Suppliers that share this word, and the contract that an order is under; null for every one. */
  supplierGroup: string | null
  contract: string | null
  /** What is looked at: each lot, or the load that they come on, once. */
  subject: PointSubject
  /** What a gate holds: all of it, or no more than the sample. */
  holds: HoldExtent
  /** Which arrivals are looked at at all. */
  frequency: FrequencyRule
  /** Who is to do it; empty where nobody is named. */
  responsible: string
  /** Hours after the occasion in which it is to be done; null where no day is set. */
  dueHours: number | null
  holdPlaceId: string | null
  isGate: boolean
  /** What becomes of the pieces when the inspection fails: they are held, or it is only noted. */
  onFailure: OnFailure
  /** What becomes of what it finds conforming. */
  whenConforming: WhenConforming
  /** What to do when it is not acceptable; and the plan that is asked then in addition. */
  advice: string
  followPlanId: string | null
  /** Where its lines are answered. */
  answeredAt: AnswerPlace
  /** People who are told when it is not acceptable. */
  tells: readonly string[]
  /** What a gate keeps goods from that lie here. */
  keepsFrom: KeptFrom
  /** Whether nonconforming pieces of the sample are set aside. */
  setsAside: boolean
  /** Whether somebody may change its samples or drop its lines, with a reason. */
  need: Need
  /** The first and the last day on which it is in force; null for no such day. */
  validFrom: string | null
  validUntil: string | null
  /** By hand: it hangs nowhere, and stands for one inspection that somebody opened. */
  state: 'active' | 'retired' | 'byHand'
  version: number
}

export const ControlPointEntity = new EntitySchema<ControlPointRow>({
  name: 'control_point',
  columns: {
    id,
    code: uniqueText,
    operationId: references('operation'),
    moment: { type: 'text', default: 'arrival' },
    every: { type: 'integer', nullable: true },
    planId: references('plan'),
    partId: mayReference('part'),
    familyId: mayReference('family'),
    supplierId: mayReference('partner'),
    customerId: mayReference('partner'),
    supplierGroup: maybeText,
    contract: maybeText,
    subject: { type: 'text', default: 'lot' },
    holds: { type: 'text', default: 'all' },
    frequency: { ...json, default: '{"kind":"everyArrival"}' },
    responsible: { type: 'text', default: '' },
    dueHours: { type: 'real', nullable: true },
    holdPlaceId: mayReference('place'),
    isGate: flag,
    onFailure: { type: 'text', default: 'hold' },
    whenConforming: { type: 'text', default: 'decide' },
    advice: { type: 'text', default: '' },
    followPlanId: maybeText,
    answeredAt: { type: 'text', default: 'bench' },
    tells: { ...json, default: '[]' },
    keepsFrom: { type: 'text', default: 'putAway' },
    setsAside: { ...flag, default: false },
    need: { type: 'text', default: 'fixed' },
    validFrom: maybeText,
    validUntil: maybeText,
    state: text,
    version: int,
  },
  checks: [{ name: 'control_point_reach', expression: '"part_id" IS NULL OR "family_id" IS NULL' }],
  indices: [
    { name: 'control_point_part', columns: ['partId'] },
    { name: 'control_point_family', columns: ['familyId'] },
    { name: 'control_point_operation', columns: ['operationId', 'moment', 'partId', 'familyId'] },
  ],
})

export interface OpenStopRow {
  id: string
  partId: string
  operationId: string
  reason: string
  at: string
  personId: string
}
/** Why nothing is checked at an operation of a part: somebody looked, and left it open. */
export const OpenStopEntity = new EntitySchema<OpenStopRow>({
  name: 'open_stop',
  columns: { id, partId: references('part'), operationId: references('operation'), reason: text, at: text, personId: references('person') },
  uniques: [{ name: 'open_stop_place', columns: ['partId', 'operationId'] }],
})
