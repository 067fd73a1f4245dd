import type { Gauge } from '@nemawashi/contract'
import { EntitySchema } from 'typeorm'
import { maybeText, references, text } from '../kernel/database/columns'
import { named } from '../define/masters/entities'

/** One gauge of the plant, known by the code that is written on it. */
export const GaugeEntity = new EntitySchema<Gauge>({
  name: 'gauge',
  columns: {
    ...named,
    kindId: references('gauge_kind'),
    maker: text,
    serialNumber: text,
    resolution: maybeText,
    unit: maybeText,
    lower: maybeText,
    upper: maybeText,
    calibratedOn: maybeText,
    intervalMonths: { type: 'integer', nullable: true },
    state: text,
    stateReason: text,
    stateSince: text,
    dueOn: maybeText,
  },
  checks: [{ name: 'gauge_state_known', expression: `"state" IN ('inUse', 'locked', 'retired')` }],
  indices: [
    { name: 'gauge_kind_of', columns: ['kindId'] },
    { name: 'gauge_due', columns: ['dueOn'] },
  ],
})
