import type { InspectionLine } from '@nemawashi/contract'

/** An answer that is about to be kept; with what an instrument sent, where it was not typed. */
export interface DoubtedAnswer {
  readonly piece: number
  readonly value: string
  readonly sentValueId?: string
}

/** A value outside the limits that waits for "that is what I measured". */
export interface Doubt {
  readonly line: InspectionLine
  readonly values: readonly DoubtedAnswer[]
  /** All values that will be stored when it is confirmed, the doubted ones among them. */
  readonly all: readonly DoubtedAnswer[]
}
