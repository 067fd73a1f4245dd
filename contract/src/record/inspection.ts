import {
  answerPlaces,
  characteristicKinds,
  countings,
  needs,
  occasionKinds,
  onFailures,
  spotAnswerers,
  stockUnits,
  subjectKinds,
  whenConformings,
  keptFroms,
} from '@nemawashi/core'
import { z } from 'zod'
import { Assignment, Day } from './assignments'
import { Decision } from '../contain/contain'
import { CharacteristicDetails, ClassCode } from '../define/characteristic'
import { Id, Instant, Version, words } from '../wire/endpoint'
import { operationKinds } from '../define/masters'
import { Evidence } from './evidence'
import { GaugeUse } from './gaugeUse'
import { LineReason, SeverityNow, Stage, VariablesPlan } from '../define/sampling'
import { BalanceRow, InspectionState, verdicts } from '../stock/stock'

export const Mark = z.enum(['conforming', 'marginal', 'nonconforming', 'notJudged'])

/** A control point that asks what another one asks, too. */
export const AlsoFor = z.strictObject({ pointCode: z.string(), planName: z.string(), sampleSize: z.int() })
export type AlsoFor = z.infer<typeof AlsoFor>

/** A line of the plan that another inspection asks in its stead. */
export const LeftOut = z.strictObject({ name: z.string(), inspectionId: Id, code: z.string() })
export type LeftOut = z.infer<typeof LeftOut>

/** The plan of another control point that asks the same of the first pieces. */
export const SharedPlan = z.strictObject({
  planName: z.string(),
  sampleSize: z.int(),
  accept: z.int(),
  stages: z.array(Stage).nullable(),
  variables: VariablesPlan.nullable(),
})

export type SharedPlan = z.infer<typeof SharedPlan>

export const InspectionLine = z.strictObject({
  id: Id,
  position: z.int(),
  code: z.string(),
  revision: z.int(),
  name: z.string(),
  kind: z.enum(characteristicKinds),
  class: ClassCode,
  method: z.string(),
  instruction: z.string(),
  nominal: z.string().nullable(),
  lower: z.string().nullable(),
  upper: z.string().nullable(),
  unit: z.string().nullable(),
  resolution: z.string().nullable(),
  acceptableState: z.string().nullable(),
  details: CharacteristicDetails,
  /** Stage of the build at which the line is looked at; empty where the plan says none. */
  stage: z.string(),
  sampleSize: z.int(),
  accept: z.int(),
  /** Stages of a double or multiple plan; null for a single one. */
  stages: z.array(Stage).nullable(),
  /** Set when mean and standard deviation decide. */
  variables: VariablesPlan.nullable(),
  counting: z.enum(countings),
  /** Which inspection it got by the history of its line; null where its rule does not switch. */
  severity: SeverityNow.nullable(),
  /** Control points that ask the same of the same pieces, and with how large a sample: it is asked once for all of them. */
  alsoFor: z.array(AlsoFor),
  /** Plans of others that ask the same with another sample: each is judged on its own first pieces. */
  shared: z.array(SharedPlan),
  /** Pieces and Ac that it was opened with, where somebody changed them; null where they stand. */
  adaptedFrom: z.strictObject({ sampleSize: z.int(), accept: z.int(), reason: z.string(), byName: z.string(), at: Instant }).nullable(),
  /** Why the sample is what it is, in words. */
  samplingReasoning: z.string(),
  isRequired: z.boolean(),
  isDecisive: z.boolean(),
})
export type InspectionLine = z.infer<typeof InspectionLine>

export const Reading = z.strictObject({
  id: Id,
  lineId: Id,
  piece: z.int(),
  /** Decimal text for a measured line, O or X for a judged one, a code, a count or a note; null for an answer that was withdrawn. */
  value: z.string().nullable(),
  /** As it was entered, where that was in another unit. */
  entered: z.string().nullable(),
  mark: Mark,
  typedAt: Instant,
  recordedByName: z.string(),
  /** Who inspected, where that was another than who recorded it. */
  inspectedByName: z.string().nullable(),
  /** With which gauge; null where none was named. */
  gaugeCode: z.string().nullable(),
  /** Whether the gauge sent it by itself; otherwise somebody typed it. */
  isSent: z.boolean(),
  /** How many answers stood in this cell before; all are kept. */
  corrections: z.int(),
})
export type Reading = z.infer<typeof Reading>

export const ReadingInput = z.strictObject({
  id: Id,
  lineId: Id,
  piece: z.int(),
  value: z.string().max(200).nullable(),
  typedAt: Instant,
  isConfirmedOutside: z.boolean(),
  corrects: Id.nullable(),
  /** The gauge that it was measured with: one that was chosen for the line. */
  gaugeId: Id.nullable().default(null),
  /** Who inspected, where that was another than who types. */
  inspectedById: Id.nullable().default(null),
  /** What its gauge sent, where the value was not typed; it stands for one reading. */
  sentValueId: Id.nullable().default(null),
})
export type ReadingInput = z.input<typeof ReadingInput>

export const Finding = z.strictObject({
  verdict: z.enum(verdicts),
  lines: z.array(
    z.strictObject({
      name: z.string(),
      inspected: z.int(),
      blank: z.int(),
      nonconforming: z.int(),
      counting: z.enum(countings),
      accept: z.int(),
      isDecisive: z.boolean(),
      verdict: z.enum(verdicts),
      isComplete: z.boolean().default(true),
      because: LineReason,
    }),
  ),
})
export type Finding = z.infer<typeof Finding>

/** Why a line that need not be answered was left blank, wholly or in part. */
export const LineSkip = z.strictObject({ lineId: Id, reason: words(200, 3) })
export type LineSkip = z.infer<typeof LineSkip>

/** An inspection as another one names it. */
const OtherInspection = z.strictObject({ id: Id, code: z.string(), planName: z.string(), state: InspectionState })

export const Inspection = z.strictObject({
  id: Id,
  code: z.string(),
  state: InspectionState,
  version: Version,
  /** A lot, or the load of a delivery: of no one part and lot, unless one of its lots is asked for. */
  subjectKind: z.enum(subjectKinds),
  partId: Id.nullable(),
  partCode: z.string(),
  partName: z.string(),
  partRevision: z.string(),
  unit: z.enum(stockUnits),
  lotId: Id.nullable(),
  lotCode: z.string(),
  /** What is written on the container or piece that it looks at; null where it looks at all of the lot. */
  unitLabel: z.string().nullable(),
  supplierLot: z.string(),
  supplierName: z.string(),
  /** Where the lot came from: a delivery or a production order. */
  originKind: z.enum(occasionKinds),
  originId: Id,
  originCode: z.string(),
  orderNumber: z.string(),
  planCode: z.string(),
  planName: z.string(),
  planRevision: z.int(),
  operationName: z.string(),
  operationKind: z.enum(operationKinds),
  lotSize: z.int(),
  isGate: z.boolean(),
  holds: z.boolean(),
  onFailure: z.enum(onFailures),
  /** What follows from its finding, beside the hold. */
  whenConforming: z.enum(whenConformings),
  /** What a gate keeps its pieces from. */
  keepsFrom: z.enum(keptFroms),
  /** Nonconforming pieces that were found and are set aside: they cannot be released. */
  setAside: z.int(),
  advice: z.string(),
  answeredAt: z.enum(answerPlaces),
  /** Who, beside those at the bench, may record it: whoever stands where it is asked; null: nobody. */
  spotAnswerer: z.enum(spotAnswerers).nullable(),
  openedAt: Instant,
  /** By when it is to be done, as its control point says; null: by no time. */
  dueAt: Instant.nullable(),
  /** Who opened it by hand, and why; null where a control point asked for it. */
  openedByName: z.string().nullable(),
  openReason: z.string().nullable(),
  startedAt: Instant.nullable(),
  startedByName: z.string().nullable(),
  finishedAt: Instant.nullable(),
  finishedByName: z.string().nullable(),
  lines: z.array(InspectionLine),
  readings: z.array(Reading),
  /** Gauges that were chosen, the latest of a line last; and the lines that are measured with none but a chosen one. */
  gauges: z.array(GaugeUse),
  wantsGauge: z.array(Id),
  evidence: z.array(Evidence),
  finding: Finding,
  balances: z.array(BalanceRow),
  /** What it holds now, container by container: what a decision on it divides. */
  held: z.array(z.strictObject({ containerId: Id.nullable(), containerLabel: z.string().nullable(), quantity: z.int() })),
  /** Nonconforming pieces that were found, where every piece was looked at; the others may be released though the lot failed. Null: not all were. */
  sorted: z.int().nullable(),
  otherOpenInspections: z.array(z.string()),
  /** The inspection one of whose answers asked for this one; and those that answers here asked for. */
  skips: z.array(LineSkip),
  follows: OtherInspection.nullable(),
  followUps: z.array(OtherInspection),
  assignment: Assignment,
  /** Whether an engineer may change its samples or drop its lines. */
  need: z.enum(needs),
  leftOut: z.array(LeftOut),
  /** Lines that somebody dropped, and why. */
  dropped: z.array(z.strictObject({ name: z.string(), sampleSize: z.int(), reason: z.string(), byName: z.string(), at: Instant })),
  decision: Decision.nullable(),
  /** Lots of a load that nobody decided on yet. */
  toDecide: z.array(z.strictObject({ id: Id, code: z.string() })),
  /** Every decision on the lot, the latest last. */
  decisions: z.array(Decision),
  cancelledAt: Instant.nullable(),
  cancelledByName: z.string().nullable(),
  cancelReason: z.string().nullable(),
})
export type Inspection = z.infer<typeof Inspection>

/** An inspection that somebody opens by hand. */
export const HandOpening = z.strictObject({
  planId: Id,
  /** Where it is looked at: its values join those that are measured there. */
  operationId: Id,
  /** One container or serial number of the lot; null for all of it that is in the plant. */
  containerId: Id.nullable(),
  /** Whether the pieces that are free wait for the decision. */
  isHolding: z.boolean(),
  reason: words(500, 3),
})
export type HandOpening = z.infer<typeof HandOpening>

export const InspectionRow = z.strictObject({
  id: Id,
  code: z.string(),
  state: InspectionState,
  planName: z.string(),
  partCode: z.string(),
  partName: z.string(),
  lotCode: z.string(),
  /** What is written on the container or piece that it looks at; null where it looks at all of the lot. */
  unitLabel: z.string().nullable(),
  supplierName: z.string(),
  lotSize: z.int(),
  isGate: z.boolean(),
  holds: z.boolean(),
  openedAt: Instant,
  dueAt: Instant.nullable(),
  responsible: z.string(),
  operationName: z.string(),
  finishedAt: Instant.nullable(),
  verdict: z.enum(verdicts).nullable(),
  answered: z.int(),
  asked: z.int(),
  /** The largest sample, and how many lines ask; null where there are no lines. */
  sampleMost: z.int().nullable(),
  lineCount: z.int().nullable(),
  /** Minutes that it is planned with; null where the library says nothing of how long its lines take. */
  minutes: z.int().nullable(),
  /** For whom and for which day it is planned, and who has it. */
  assignedName: z.string().nullable(),
  day: Day.nullable(),
  holderName: z.string().nullable(),
  /** Which of the inspections of its lot or load it is, in the order of their numbers, and of how many. */
  number: z.int(),
  ofLot: z.int(),
})
export type InspectionRow = z.infer<typeof InspectionRow>
