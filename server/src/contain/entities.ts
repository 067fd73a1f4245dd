import type { Disposition } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, references, text } from '../kernel/columns'

export interface DecisionRow {
  id: string
  inspectionId: string
  signedAt: string
  signedById: string
  meaning: string
}

/** At most one decision an inspection: the database refuses a second. */
export const DecisionEntity = new EntitySchema<DecisionRow>({
  name: 'decision',
  columns: { id, inspectionId: { ...references('inspection'), unique: true }, signedAt: text, signedById: references('person'), meaning: text },
})

export interface DecisionPartRow {
  decisionId: string
  position: number
  containerId: string | null
  quantity: number
  disposition: Disposition
  reason: string
}
export const DecisionPartEntity = new EntitySchema<DecisionPartRow>({
  name: 'decision_part',
  columns: {
    decisionId: { ...references('decision'), primary: true },
    position: { type: 'integer', primary: true },
    containerId: mayReference('container'),
    quantity: int,
    disposition: text,
    reason: text,
  },
})
