import { CoreError } from '../errors'

/**
 * Where a monotone function crosses a level, by bisection down to neighbouring doubles: slow by a factor of a few, and never wrong.
 * Shape: (f, low, high, level) with f(low) and f(high) on different sides of the level → x in low..high.
 * @throws {CoreError} `no_crossing` (gives the values at both ends).
 */
export function findRoot(f: (x: number) => number, low: number, high: number, level = 0): number {
  let a = low
  let b = high
  const atLow = f(a) - level
  const atHigh = f(b) - level
  if (atLow === 0) return a
  if (atHigh === 0) return b
  if (!(atLow * atHigh < 0)) {
    throw new CoreError('no_crossing', `The level ${level} is not reached between ${low} and ${high}.`, { low, high, level, atLow, atHigh })
  }
  const isRising = atHigh > 0
  for (let i = 0; i < 200; i++) {
    const middle = a + (b - a) / 2
    if (middle <= Math.min(a, b) || middle >= Math.max(a, b)) break
    const value = f(middle) - level
    if (value === 0) return middle
    if (value > 0 === isRising) b = middle
    else a = middle
  }
  return a + (b - a) / 2
}

/** Smallest whole number in low..high at which a condition holds that stays true once it is; null when it never does. */
export function firstWhole(holds: (n: number) => boolean, low: number, high: number): number | null {
  if (low > high) return null
  let from = low
  let step = 1
  // Doubling steps first: most answers lie near the start, and a condition can be dear to work out far away.
  let to = low
  while (!holds(to)) {
    if (to === high) return null
    from = to + 1
    to = Math.min(high, to + step)
    step *= 2
  }
  while (from < to) {
    const middle = Math.floor((from + to) / 2)
    if (holds(middle)) to = middle
    else from = middle + 1
  }
  return to
}

/**
 * The highest point of a function with one peak in low..high: a coarse grid finds the hill, golden sections the top.
 * Shape: → { x, value }. The value is exact to about 1e-15 relative; x to about 1e-8 of the range, as the top is flat.
 */
export function highestPoint(f: (x: number) => number, low: number, high: number, steps = 200): { readonly x: number; readonly value: number } {
  let best = 0
  for (let i = 1; i <= steps; i++) if (f(low + ((high - low) * i) / steps) > f(low + ((high - low) * best) / steps)) best = i
  const golden = (Math.sqrt(5) - 1) / 2
  let a = low + ((high - low) * Math.max(0, best - 1)) / steps
  let b = low + ((high - low) * Math.min(steps, best + 1)) / steps
  for (let i = 0; i < 90; i++) {
    const left = b - golden * (b - a)
    const right = a + golden * (b - a)
    if (f(left) < f(right)) a = left
    else b = right
  }
  const x = (a + b) / 2
  return { x, value: f(x) }
}
