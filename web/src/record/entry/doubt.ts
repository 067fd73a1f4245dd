import type { InspectionLine } from '@nemawashi/contract'

/** A value outside the limits that waits for "that is what I measured". */
export interface Doubt {
  readonly line: InspectionLine
  readonly values: readonly { piece: number; value: string }[]
  /** All values that will be stored when it is confirmed, the doubted ones among them. */
  readonly all: readonly { piece: number; value: string }[]
}
