import { z } from 'zod'
import { GaugeObjection } from '../equip/equip'
import { Id, Instant } from '../wire/endpoint'
import { Day } from './assignments'

/** The gauge that was chosen for a line, and why it was although something spoke against it (empty where nothing did). */
export const GaugeUse = z.strictObject({
  lineId: Id,
  gaugeId: Id,
  code: z.string(),
  name: z.string(),
  dueOn: Day.nullable(),
  objections: z.array(GaugeObjection),
  reason: z.string(),
  byName: z.string(),
  at: Instant,
  /** Whether it sends its values by itself. */
  isSending: z.boolean(),
})
export type GaugeUse = z.infer<typeof GaugeUse>
