import { normalBelow } from '../capability/normal'
import { SignalWatch, type SignalRule } from './signals'

/** After how many points a chart rings on average. */
export interface RunLength {
  readonly mean: number
  /** Standard error where it was played; null where it was worked out exactly. */
  readonly error: number | null
}

/** Rules that go by zones alone, so that few states say all that matters of the past. */
const byZones: readonly SignalRule[] = ['beyond', 'twoOfThree', 'fourOfFive', 'eightOneSide', 'nineOneSide']
const bounds = [-Infinity, -3, -2, -1, 0, 1, 2, 3, Infinity]
/** One z in each zone between two bounds. */
const inZone = [-4, -2.5, -1.5, -0.5, 0.5, 1.5, 2.5, 4]
const seenBack = 8

/**
 * Average run length of a chart under rules, its points shifted by so many of their standard deviations (0: how often it rings for
 * nothing). Exact for rules by zones, as a Markov chain (Champ and Woodall, Technometrics 29, 1987: 91.75 for the four of Western
 * Electric); others are played, the same way each time, with the error that this leaves.
 */
export function runLength(rules: readonly SignalRule[], shift = 0): RunLength {
  return rules.every((rule) => byZones.includes(rule)) ? { mean: exact(rules, shift), error: null } : played(rules, shift)
}

function exact(rules: readonly SignalRule[], shift: number): number {
  const chance = inZone.map((_, i) => normalBelow((bounds[i + 1] as number) - shift) - normalBelow((bounds[i] as number) - shift))
  const states = new Map<string, number>()
  const pasts: (readonly number[])[] = []
  const stateOf = (past: readonly number[]) => {
    const key = signature(past)
    const known = states.get(key)
    if (known !== undefined) return known
    states.set(key, pasts.length)
    pasts.push(past)
    return pasts.length - 1
  }
  stateOf([])
  // Where a state goes with each zone; −1 where the chart rings.
  const next: number[][] = []
  for (let from = 0; from < pasts.length; from++) {
    const past = pasts[from] as readonly number[]
    next.push(inZone.map((z) => (rings(rules, [...past, z]) ? -1 : stateOf([...past, z].slice(-seenBack)))))
  }
  // The run is at least t + 1 long with the chance that is left after t points; what is left shrinks by the same share in the end.
  let left = new Float64Array(pasts.length)
  left[0] = 1
  let [mean, before, share] = [0, 1, 0]
  for (;;) {
    const total = left.reduce((a, b) => a + b, 0)
    mean += total
    const now = total / before
    if (total === 0 || (mean > 50 && Math.abs(now - share) < 1e-15) || total < 1e-14) return mean + (total * now) / (1 - now)
    ;[before, share] = [total, now]
    const after = new Float64Array(pasts.length)
    for (let from = 0; from < left.length; from++) {
      const weight = left[from] as number
      for (const [i, to] of (next[from] as number[]).entries()) if (to >= 0) after[to] = (after[to] as number) + weight * (chance[i] as number)
    }
    left = after
  }
}

function rings(rules: readonly SignalRule[], past: readonly number[]): boolean {
  const watch = new SignalWatch(rules)
  let isRinging = false
  for (const z of past) isRinging = watch.push(z).length > 0
  return isRinging
}

/** What the rules by zones can still see of a past: who was beyond one and two on which side lately, and how long it has been on one. */
function signature(past: readonly number[]): string {
  const side = Math.sign(past.at(-1) ?? 0)
  let run = 0
  while (run < past.length && Math.sign(past[past.length - 1 - run] as number) === side) run++
  const lately = past.slice(-4).map((z, i, { length }) => {
    const beyond = Math.abs(z) > 2 && i >= length - 2 ? 2 : Math.abs(z) > 1 ? 1 : 0
    return beyond * Math.sign(z)
  })
  while (lately[0] === 0 || lately[0] === -0) lately.shift()
  return `${side * run} ${lately.map((zone) => zone + 0).join()}`
}

const runs = 4000
const longestRun = 100_000

function played(rules: readonly SignalRule[], shift: number): RunLength {
  const draw = normalDraws(20_261)
  let [sum, squares] = [0, 0]
  for (let i = 0; i < runs; i++) {
    const watch = new SignalWatch(rules)
    let length = 1
    while (watch.push(draw() + shift).length === 0 && length < longestRun) length++
    sum += length
    squares += length * length
  }
  const mean = sum / runs
  return { mean, error: Math.sqrt((squares / runs - mean * mean) / runs) }
}

/** Standard normal numbers, the same after each beginning (mulberry32, Box–Muller). */
function normalDraws(seed: number): () => number {
  let state = seed
  const uniform = () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform())
}
