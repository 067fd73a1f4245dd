import type { Acceptance } from './judgeReading'
import { bandEdges } from './marginalBand'

/** Where the parts of a tolerance strip stand, as fractions of its width (0 left, 1 right). */
export interface StripScale {
  readonly lower: number | null
  readonly upper: number | null
  readonly nominal: number | null
  /** Marginal bands, each from its left to its right end. */
  readonly bands: readonly { readonly from: number; readonly to: number }[]
  /** Place of a value; values off the ruler are kept at its end. */
  place(value: number): number
  /** Whether a value lies left of the ruler (−1), right of it (1) or on it (0). */
  beyond(value: number): -1 | 0 | 1
}

/** How much ruler is shown beyond a limit, as a share of the tolerance zone. */
const margin = 0.35

/**
 * Lays the tolerance strip out: from below the lower limit to above the upper one. A one-sided zone runs off the open side.
 * Shape: Acceptance → StripScale. Drawing only: doubles are exact enough for pixels.
 */
export function stripScale(limits: Acceptance): StripScale {
  const lower = limits.lower === null ? null : Number(limits.lower)
  const upper = limits.upper === null ? null : Number(limits.upper)
  const nominal = limits.nominal === null ? null : Number(limits.nominal)
  const only = lower ?? upper ?? nominal ?? 0
  const span =
    lower !== null && upper !== null
      ? upper - lower || Math.abs(only) * 0.1 || 1
      : Math.abs((nominal ?? only) - only) * 2 || Math.abs(only) * 0.2 || 1
  const edges = limits.band ? bandEdges(limits, limits.band) : null
  const width = (edge: string | null | undefined, limit: number) => (edge === null || edge === undefined ? 0 : Math.abs(Number(edge) - limit))
  const start = lower !== null ? lower - Math.max(margin * span, 1.3 * width(edges?.outerLower, lower)) : only - span
  const end = upper !== null ? upper + Math.max(margin * span, 1.3 * width(edges?.outerUpper, upper)) : only + span
  const place = (value: number) => Math.min(1, Math.max(0, (value - start) / (end - start)))
  return {
    lower: lower === null ? null : place(lower),
    upper: upper === null ? null : place(upper),
    nominal: nominal === null ? null : place(nominal),
    bands: [
      [edges?.outerLower, edges?.innerLower],
      [edges?.innerUpper, edges?.outerUpper],
    ].flatMap(([from, to]) => (from && to ? [{ from: place(Number(from)), to: place(Number(to)) }] : [])),
    place,
    beyond: (value) => (value < start ? -1 : value > end ? 1 : 0),
  }
}
