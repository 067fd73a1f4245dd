import type { GaugeObjection } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { id, json, references, text } from '../kernel/database/columns'

export interface GaugeUseRow {
  id: string
  inspectionId: string
  lineId: string
  gaugeId: string
  personId: string
  at: string
  /** What spoke against it and was waived. */
  objections: GaugeObjection[]
  /** Why it was used all the same; empty where nothing spoke against it. */
  reason: string
}
/** Which gauge was chosen for a line, by whom, and why although something spoke against it. Only added to: the latest is the one in use. */
export const GaugeUseEntity = new EntitySchema<GaugeUseRow>({
  name: 'gauge_use',
  columns: {
    id,
    inspectionId: references('inspection'),
    lineId: references('inspection_line'),
    gaugeId: references('gauge'),
    personId: references('person'),
    at: text,
    objections: json,
    reason: text,
  },
  indices: [
    { name: 'gauge_use_inspection', columns: ['inspectionId', 'lineId'] },
    { name: 'gauge_use_gauge', columns: ['gaugeId', 'at'] },
  ],
})
