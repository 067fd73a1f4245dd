import type { Arrival, FrequencyRule } from '../acceptance/frequency/frequencyRule'
import type { SamplingRule } from '../acceptance/rules/samplingRule'
import type { JudgedLot } from '../acceptance/switching/switching'
import type { HoldExtent, PointSubject, UnitKind } from '../ledger/occasions'
import type { Moment } from '../precedence/moments'
import type { LimitedLine } from '../precedence/question'
import type { Reach, Subject } from '../precedence/whichApply'

/** A line of a plan, as far as it decides on pieces and minutes. */
export interface RuledLine extends LimitedLine {
  readonly characteristicId: string
  readonly sampling: SamplingRule
  readonly minutesPerPiece: number | null
  readonly isRequired: boolean
  readonly isDecisive: boolean
}

/** A control point as a rehearsal sees it. */
export interface RuledPoint extends Reach {
  readonly operationId: string
  readonly moment: Moment
  readonly subject: PointSubject
  /** After how many pieces or minutes it asks again, where its moment has an interval. */
  readonly every: number | null
  readonly frequency: FrequencyRule
  readonly isGate: boolean
  readonly holds: HoldExtent
}

/** Control points, and what the plans ask that hang at them. */
export interface Rules {
  readonly points: readonly RuledPoint[]
  readonly plans: ReadonlyMap<string, readonly RuledLine[]>
}

/** What was found on a line of a plan, as the switching rules see it. */
export interface JudgedLine extends Omit<JudgedLot, 'accept'> {
  readonly planId: string
  readonly characteristicId: string
}

/** Something that happened to pieces at an operation; the id is what a random share is drawn from. */
export interface PastOccasion extends Subject, Arrival {
  /** The happening: the lines of a delivery share it, and the load is looked at once for them. */
  readonly occasionId: string
  readonly operationId: string
  readonly moment: Moment
  /** Of a step that runs or is confirmed: pieces (or minutes, where time came up) of it before and after; null elsewhere. */
  readonly counted: { readonly before: number; readonly after: number } | null
  /** What the pieces were told apart by: how many were in each container, one for each serial number. */
  readonly units: readonly { readonly kind: UnitKind; readonly quantity: number }[]
  /** Plans that were not accepted there; whatever else was asked is taken to have been. */
  readonly failed: readonly string[]
  /** Lines with switching rules as they were judged there, where that was not simply accepted with nothing found. */
  readonly judged: readonly JudgedLine[]
  /** Inspections that were opened for it in fact. */
  readonly opened: number
}

/** A control point that reaches an occasion, and none that asks the same is narrower. */
export interface Here {
  readonly point: RuledPoint
  readonly occasion: PastOccasion
  readonly subject: PointSubject
}
