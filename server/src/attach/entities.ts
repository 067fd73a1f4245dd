import type { OnFailure } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, id, int, mayReference, references, text, uniqueText } from '../kernel/columns'

export interface ControlPointRow {
  id: string
  code: string
  operationId: string
  planId: string
  partId: string | null
  familyId: string | null
  supplierId: string | null
  holdPlaceId: string | null
  isGate: boolean
  /** What becomes of the pieces when the inspection fails: they are held, or it is only noted. */
  onFailure: OnFailure
  state: 'active' | 'retired'
  version: number
}

export const ControlPointEntity = new EntitySchema<ControlPointRow>({
  name: 'control_point',
  columns: {
    id,
    code: uniqueText,
    operationId: references('operation'),
    planId: references('plan'),
    partId: mayReference('part'),
    familyId: mayReference('family'),
    supplierId: mayReference('partner'),
    holdPlaceId: mayReference('place'),
    isGate: flag,
    onFailure: { type: 'text', default: 'hold' },
    state: text,
    version: int,
  },
  checks: [{ name: 'control_point_reach', expression: '("part_id" IS NULL) <> ("family_id" IS NULL)' }],
  indices: [
    { name: 'control_point_part', columns: ['partId'] },
    { name: 'control_point_family', columns: ['familyId'] },
  ],
})
