import type { Limits } from './limits'

/** Where the parts of a tolerance strip stand, as fractions of its width (0 left, 1 right). */
export interface StripScale {
  readonly lower: number | null
  readonly upper: number | null
  readonly nominal: number | null
  /** Place of a value; values off the ruler are kept at its end. */
  place(value: number): number
}

/** How much ruler is shown beyond a limit, as a share of the tolerance zone. */
const margin = 0.35

/**
 * Lays the tolerance strip out: from below the lower limit to above the upper one. A one-sided zone runs off the open side.
 * Shape: Limits → StripScale. Drawing only: doubles are exact enough for pixels.
 */
export function stripScale(limits: Limits): StripScale {
  const lower = limits.lower === null ? null : Number(limits.lower)
  const upper = limits.upper === null ? null : Number(limits.upper)
  const nominal = limits.nominal === null ? null : Number(limits.nominal)
  const only = lower ?? upper ?? nominal ?? 0
  const span =
    lower !== null && upper !== null
      ? upper - lower || Math.abs(only) * 0.1 || 1
      : Math.abs((nominal ?? only) - only) * 2 || Math.abs(only) * 0.2 || 1
  const start = lower !== null ? lower - margin * span : only - span
  const end = upper !== null ? upper + margin * span : only + span
  const place = (value: number) => Math.min(1, Math.max(0, (value - start) / (end - start)))
  return {
    lower: lower === null ? null : place(lower),
    upper: upper === null ? null : place(upper),
    nominal: nominal === null ? null : place(nominal),
    place,
  }
}
