/** A check of a running step that is finished: how many pieces of the step had been made when it came up, and how it ended. */
export interface RunCheck {
  readonly code: string
  readonly done: number
  readonly isAcceptable: boolean
  /** Pieces that it put on hold of what was made before it, whatever was decided on them since. */
  readonly held: number
}

/** What was made since the last check that conformed. */
export interface MadeSince<C extends RunCheck> {
  /** The last check of the same control point that conformed; null where none did: since the beginning of the step. */
  readonly lastGood: C | null
  /** Pieces of the step that had been made by then. */
  readonly since: number
  readonly quantity: number
  /** Checks after it that did not conform, and what they held. */
  readonly failed: readonly C[]
  readonly heldBefore: number
  /** What is still to be held: none of it twice, and no more than there is. */
  readonly toHold: number
}

/**
 * What a nonconforming piece of a run puts in doubt: everything made since the last check that conformed. What an earlier failing check of the same
 * stretch held is not held twice: it has a decision of its own.
 * Shape: checks of the same control point at the step that came up before this one, in any order; pieces made by now that went on (`good` since a
 * count, as a function of it), free pieces on the line, and what this check holds already, in whole steps of the unit → MadeSince. Source: common
 * practice (containment back to the last known good).
 */
export function madeSince<C extends RunCheck>(
  checks: readonly C[],
  { goodSince, free, held }: { readonly goodSince: (done: number) => number; readonly free: number; readonly held: number },
): MadeSince<C> {
  const inOrder = checks.toSorted((a, b) => a.done - b.done)
  const lastGood = inOrder.findLast(({ isAcceptable }) => isAcceptable) ?? null
  const since = lastGood?.done ?? 0
  const failed = inOrder.slice(lastGood === null ? 0 : inOrder.indexOf(lastGood) + 1)
  const quantity = goodSince(since)
  const heldBefore = failed.reduce((sum, check) => sum + check.held, 0)
  return { lastGood, since, quantity, failed, heldBefore, toHold: Math.max(0, Math.min(free, quantity - heldBefore - held)) }
}

/**
 * Where to look first when something went wrong between two counts of a run and did not go away: in the middle, then in the half that is left.
 * Shape: pieces made at the last look that conformed and at the first that did not → the piece to look at first (null where none is between), and how
 * many looks find where it began at most, ⌈log₂⌉ of the pieces between. Source: bisection, common practice.
 */
export function looksBackwards(conformedAt: number, failedAt: number): { readonly first: number | null; readonly most: number } {
  const between = failedAt - conformedAt
  if (between <= 1) return { first: null, most: 0 }
  return { first: conformedAt + Math.floor(between / 2), most: Math.ceil(Math.log2(between)) }
}
