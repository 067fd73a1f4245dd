import { z } from 'zod'
import { Id, Instant } from '../wire/endpoint'

/** An earlier check of a run, as the bench names it. */
const RunCheck = z.strictObject({
  id: Id,
  code: z.string(),
  /** Pieces of the step that had been made when it came up. */
  done: z.int(),
  isAcceptable: z.boolean(),
  /** What it put on hold of what was made before it. */
  held: z.int(),
  finishedAt: Instant,
})

/** What a nonconforming piece of a run puts in doubt. Quantities are in whole steps of the unit of the part. */
export const MadeSince = z.strictObject({
  orderId: Id,
  orderCode: z.string(),
  operationName: z.string(),
  /** Pieces of the step that had been made when this check came up, and by now. */
  checkedAt: z.int(),
  done: z.int(),
  /** The last check of the same control point that conformed; null: none, since the beginning of the step. */
  lastGood: RunCheck.nullable(),
  since: z.int(),
  /** What was made since then and went on. */
  quantity: z.int(),
  failed: z.array(RunCheck),
  heldBefore: z.int(),
  /** What this check holds already, what is free on the line, and what is still to be held. */
  held: z.int(),
  free: z.int(),
  toHold: z.int(),
  /** Serial numbers that were made since then, where the step made them; the first two hundred. */
  serials: z.array(z.string()),
  /** The piece to look at first to find where it began, and how many looks that takes at most. */
  lookFirst: z.int().nullable(),
  looks: z.int(),
})
export type MadeSince = z.infer<typeof MadeSince>

/** Null where it is no check of a running step. */
export const MadeSinceReply = z.strictObject({ run: MadeSince.nullable() })
