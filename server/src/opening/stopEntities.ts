import type { SwitchReason } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, int, json, mayReference, maybeText, references, text } from '../kernel/database/columns'

export interface AcceptanceStopRow {
  id: string
  planId: string
  operationId: string
  partId: string
  partnerId: string | null
  characteristicId: string
  /** The inspection that led to it, when, and what it rests on. */
  inspectionId: string
  at: string
  because: SwitchReason
  /** Null while it stands: a person let acceptance begin again, or the inspection was opened again. */
  endedAs: 'answered' | 'reopened' | null
  endedAt: string | null
  endedById: string | null
  reason: string
  version: number
}
/** Inspection of a line is discontinued by its history: nothing is accepted by sample until a person answers. */
export const AcceptanceStopEntity = new EntitySchema<AcceptanceStopRow>({
  name: 'acceptance_stop',
  columns: {
    id,
    planId: references('plan'),
    operationId: references('operation'),
    partId: references('part'),
    partnerId: mayReference('partner'),
    characteristicId: references('characteristic'),
    inspectionId: references('inspection'),
    at: text,
    because: json,
    endedAs: maybeText,
    endedAt: maybeText,
    endedById: mayReference('person'),
    reason: text,
    version: int,
  },
  indices: [
    { name: 'acceptance_stop_history', columns: ['planId', 'operationId', 'partId', 'characteristicId'] },
    { name: 'acceptance_stop_open', columns: ['endedAt', 'at', 'id'] },
  ],
})
