import type { Disposition, Standing } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, mayReference, maybeText, references, text } from '../../kernel/database/columns'

export interface DecisionRow {
  id: string
  /** The inspection whose finding it answers; null where it is about pieces that none asks about. */
  inspectionId: string | null
  lotId: string
  /** The decision that it comes after; null also for the first on pieces that no inspection asks about. Each has at most one that follows, so two people cannot both decide anew. */
  followsId: string | null
  signedAt: string
  signedById: string
}

/** At most one decision an inspection and lot, and one after each decision: the database refuses a second. */
export const DecisionEntity = new EntitySchema<DecisionRow>({
  name: 'decision',
  columns: {
    id,
    inspectionId: { type: 'text', nullable: true, foreignKey: { target: 'inspection', name: 'FK_888f01a507a886a47ce700d0bba' } },
    lotId: { type: 'text', foreignKey: { target: 'lot', name: 'FK_decision_lot' } },
    followsId: { type: 'text', nullable: true, foreignKey: { target: 'decision', name: 'FK_decision_follows' } },
    signedAt: text,
    signedById: references('person'),
  },
  uniques: [
    { name: 'decision_inspection', columns: ['inspectionId', 'lotId'] },
    { name: 'decision_follows', columns: ['followsId'] },
  ],
  checks: [{ name: 'decision_origin', expression: '"inspection_id" IS NULL OR "follows_id" IS NULL' }],
  indices: [
    { name: 'decision_lot', columns: ['lotId'] },
    { name: 'decision_first', columns: ['lotId'], unique: true, where: '"inspection_id" IS NULL AND "follows_id" IS NULL' },
  ],
})

export interface DecisionPartRow {
  decisionId: string
  position: number
  containerId: string | null
  /** Where the pieces were and in which standing, of a decision on pieces in any standing; null: what was on hold. */
  placeId: string | null
  standing: Standing | null
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
    placeId: maybeText,
    standing: maybeText,
    quantity: int,
    disposition: text,
    reason: text,
  },
  indices: [{ name: 'decision_part_reason', columns: ['reason'] }],
})
