import { gaugeStates, type GaugeObjection as CoreObjection, type GaugeState } from '@nemawashi/core'
import { z } from 'zod'
import { base, engineer, Name, Code } from '../define/masters'
import { ById, endpoint, Id, Instant, listEndpoint, mayCall, Version, words, type Role } from '../wire/endpoint'
import { gaugeKeepers } from './gaugeKeepers'
import { instruments } from './instruments'

const Decimal = z.string().trim().max(40, 'at most 40 characters')
const Day = z.iso.date('write a day as year-month-day')

/** What speaks against using a gauge for a line, as the core says it. */
export const GaugeObjection: z.ZodType<CoreObjection, CoreObjection> = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.enum(['retired', 'locked', 'neverCalibrated']) }),
  z.strictObject({ kind: z.enum(['wrongKind', 'otherQuantity']), asked: z.string(), actual: z.string() }),
  z.strictObject({ kind: z.literal('overdue'), dueOn: z.string() }),
  z.strictObject({ kind: z.literal('tooCoarse'), resolution: z.string(), tolerance: z.string(), unit: z.string() }),
  z.strictObject({ kind: z.literal('outOfRange'), limit: z.string(), lower: z.string().nullable(), upper: z.string().nullable(), unit: z.string() }),
])

const gauge = {
  kindId: Id,
  maker: words(60, 0),
  /** The number that its maker gave it. */
  serialNumber: words(60, 0),
  /** The smallest step that it shows; null where it shows no number, as a go and no-go gauge. */
  resolution: Decimal.nullable(),
  /** What it shows its numbers in; null where it shows none. */
  unit: z.string().max(20).nullable(),
  /** From what to what it measures; null where that is open. */
  lower: Decimal.nullable(),
  upper: Decimal.nullable(),
  calibratedOn: Day.nullable(),
  /** Months from one calibration to the next; null where it needs none. */
  intervalMonths: z.int('write a whole number').min(1, 'at least 1').max(600, 'at most 600').nullable(),
}
const gaugeState = {
  state: z.enum(gaugeStates),
  /** Why it is locked or retired; empty while it is in use. */
  stateReason: z.string(),
  /** Since when its state is what it is. */
  stateSince: Instant,
  /** The last day on which it is good; null where it needs no calibration or had none. */
  dueOn: Day.nullable(),
}
export const Gauge = z.strictObject({ ...base, ...gauge, ...gaugeState })
export type Gauge = z.infer<typeof Gauge>

/** `kind`: what its kind is called; `usedAt`: when it was chosen last. */
export const GaugeRow = Gauge.extend({ kind: z.string(), usedAt: Instant.nullable() })
export type GaugeRow = z.infer<typeof GaugeRow>

/** Whether somebody may bring a gauge to a state: whoever measures with it may lock it. */
export const maySetGaugeState = (roles: readonly Role[], state: GaugeState): boolean =>
  state === 'locked' ? mayCall(equip.setGaugeState, roles) : gaugeKeepers.some((role) => roles.includes(role))

/** How a gauge stands to its calibration: over it, due within a month, one of the two, or good for longer (also where it needs none). */
export const dueStates = ['overdue', 'soon', 'due', 'good'] as const

/** An inspection in which a gauge measured, as the list of what would be in doubt with it. */
export const GaugeUseRow = z.strictObject({
  id: Id,
  inspectionId: Id,
  code: z.string(),
  characteristic: z.string(),
  partName: z.string(),
  lotId: Id.nullable(),
  lotCode: z.string(),
  values: z.int(),
  at: Instant,
  byName: z.string(),
  /** Why it was used although something spoke against it; empty where nothing did. */
  reason: z.string(),
})
export type GaugeUseRow = z.infer<typeof GaugeUseRow>

export const equip = {
  ...instruments,
  listGauges: listEndpoint('/api/v1/gauges', 'The register of gauges', GaugeRow, {
    state: z.enum(gaugeStates).optional(),
    due: z.enum(dueStates).optional(),
    kind: z.string().max(80).optional().describe('What their kind is called'),
  }),
  getGauge: endpoint('GET', '/api/v1/gauges/:id', { access: 'signedIn', summary: 'A gauge of the register', params: ById, reply: Gauge }),
  createGauge: endpoint('POST', '/api/v1/gauges', {
    access: engineer,
    summary: 'Put a gauge into the register',
    body: z.strictObject({ code: Code, name: Name, ...gauge }),
    reply: Gauge,
  }),
  updateGauge: endpoint('PUT', '/api/v1/gauges/:id', {
    access: engineer,
    summary: 'Change what the register says of a gauge: also that it was calibrated',
    params: ById,
    body: z.strictObject({ code: Code, name: Name, version: Version, ...gauge }),
    reply: Gauge,
  }),
  setGaugeState: endpoint('POST', '/api/v1/gauges/:id/state', {
    access: ['inspector', ...gaugeKeepers],
    summary: 'Lock a gauge so that nobody measures with it, unlock it, or retire it; with a reason. An inspector only locks',
    params: ById,
    body: z.strictObject({ version: Version, state: z.enum(gaugeStates), reason: words(500, 3) }),
    reply: Gauge,
  }),
  listGaugeUses: listEndpoint('/api/v1/gauge-uses', 'What a gauge measured, latest first: what is in doubt when it is', GaugeUseRow, {
    gaugeId: Id.optional().describe('Of which gauge; of all where none is said'),
    since: Instant.optional().describe('What it was chosen for at this time or later'),
  }),
}
