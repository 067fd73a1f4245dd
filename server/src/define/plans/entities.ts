import type { DetachedLimits, PartTarget } from '@nemawashi/contract'
import type { RevisionState, SamplingRule } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, json, maybeJson, maybeText, references } from '../../kernel/database/columns'
import { revisionColumns } from '../library/entities'
import { named } from '../masters/entities'

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
