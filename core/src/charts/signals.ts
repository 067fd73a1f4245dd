/** Patterns that a chart in control seldom shows, by how far points are from the centre, in their standard deviations. */
export const signalRules = {
  beyond: 'one point beyond three standard deviations',
  twoOfThree: 'two of three in a row beyond two standard deviations on one side',
  fourOfFive: 'four of five in a row beyond one standard deviation on one side',
  eightOneSide: 'eight in a row on one side of the centre',
  nineOneSide: 'nine in a row on one side of the centre',
  sixTrend: 'six in a row steadily rising or falling',
  fourteenAlternating: 'fourteen in a row going up and down in turns',
  fifteenWithin: 'fifteen in a row within one standard deviation',
  eightOutside: 'eight in a row, none within one standard deviation',
} as const
export type SignalRule = keyof typeof signalRules

/** Sets of rules as they were published, and the limits alone. */
export const signalSets = {
  limits: { words: 'Beyond a limit (Shewhart 1931)', rules: ['beyond'] },
  westernElectric: { words: 'Western Electric (1956)', rules: ['beyond', 'twoOfThree', 'fourOfFive', 'eightOneSide'] },
  nelson: {
    words: 'Nelson (1984)',
    rules: ['beyond', 'nineOneSide', 'sixTrend', 'fourteenAlternating', 'twoOfThree', 'fourOfFive', 'fifteenWithin', 'eightOutside'],
  },
} as const satisfies Record<string, { words: string; rules: readonly SignalRule[] }>
export type SignalSet = keyof typeof signalSets

/** A rule that a point completes, and the points that it is made of. */
export interface Signal {
  readonly rule: SignalRule
  /** Where the completing point stands, from 0. */
  readonly at: number
  /** All points of the pattern, the completing one included. */
  readonly points: readonly number[]
}

const none: readonly Signal[] = []

/**
 * Watches points as they come: each costs the same, however many came before, as only counts are kept. A point on a bound is not beyond it
 * and not within it; a point on the centre breaks a run. Source: Western Electric, Statistical Quality Control Handbook (1956); Nelson,
 * J. Qual. Technol. 16 (1984).
 */
export class SignalWatch {
  private count = 0
  private last = NaN
  private side = 0
  private direction = 0
  /** How many points up to the last one: on one side, steadily in one direction, up and down in turns, within one, none within one. */
  private readonly run = { side: 0, trend: 0, turns: 0, within: 0, outside: 0 }
  /** Which of the last points were beyond a bound, above and below: the last one is the lowest bit. */
  private readonly above = { two: 0, one: 0 }
  private readonly below = { two: 0, one: 0 }

  constructor(private readonly rules: readonly SignalRule[]) {}

  /** @returns the rules that this point completes; none for most points. */
  push(z: number): readonly Signal[] {
    this.take(z)
    const at = this.count++
    let signals: Signal[] | null = null
    for (const rule of this.rules) if (this.completes(rule, z)) (signals ??= []).push({ rule, at, points: this.pointsOf(rule, z, at) })
    return signals ?? none
  }

  private take(z: number): void {
    const { run, above, below, last } = this
    const side = Math.sign(z)
    run.side = side === 0 ? 0 : side === this.side ? run.side + 1 : 1
    this.side = side
    const direction = z > last ? 1 : z < last ? -1 : 0
    run.trend = direction === 0 ? 1 : direction === this.direction ? run.trend + 1 : 2
    run.turns = direction === 0 ? 1 : direction === -this.direction ? run.turns + 1 : 2
    this.direction = direction
    this.last = z
    run.within = Math.abs(z) < 1 ? run.within + 1 : 0
    run.outside = Math.abs(z) > 1 ? run.outside + 1 : 0
    above.two = ((above.two << 1) | Number(z > 2)) & 0b111
    above.one = ((above.one << 1) | Number(z > 1)) & 0b11111
    below.two = ((below.two << 1) | Number(z < -2)) & 0b111
    below.one = ((below.one << 1) | Number(z < -1)) & 0b11111
  }

  private completes(rule: SignalRule, z: number): boolean {
    const made = madeOf[rule]
    if ('bound' in made) return this.some(made.bound, z, made.needed)
    return made.run === null ? Math.abs(z) > 3 : this.run[made.run] >= made.length
  }

  /** Whether so many of those looked at are beyond the bound on the side of the last one, which is itself. */
  private some(bound: 'two' | 'one', z: number, needed: number): boolean {
    const bits = (z < 0 ? this.below : this.above)[bound]
    return (bits & 1) === 1 && onesIn(bits) >= needed
  }

  private pointsOf(rule: SignalRule, z: number, at: number): number[] {
    const made = madeOf[rule]
    if ('length' in made) return Array.from({ length: made.length }, (_, i) => at - made.length + 1 + i)
    const bits = (z < 0 ? this.below : this.above)[made.bound]
    return [4, 3, 2, 1, 0].filter((i) => (bits >> i) & 1).map((i) => at - i)
  }
}

/** What a rule is made of: so many points of a run (of none: the point alone), or so many of the last ones beyond a bound. */
type Made =
  | { readonly run: 'side' | 'trend' | 'turns' | 'within' | 'outside' | null; readonly length: number }
  | { readonly bound: 'two' | 'one'; readonly needed: number }

const madeOf: Readonly<Record<SignalRule, Made>> = {
  beyond: { run: null, length: 1 },
  twoOfThree: { bound: 'two', needed: 2 },
  fourOfFive: { bound: 'one', needed: 4 },
  eightOneSide: { run: 'side', length: 8 },
  nineOneSide: { run: 'side', length: 9 },
  sixTrend: { run: 'trend', length: 6 },
  fourteenAlternating: { run: 'turns', length: 14 },
  fifteenWithin: { run: 'within', length: 15 },
  eightOutside: { run: 'outside', length: 8 },
}

function onesIn(bits: number): number {
  let count = 0
  for (let rest = bits; rest > 0; rest >>= 1) count += rest & 1
  return count
}

/** All signals of a chart, in the order of their points. */
export function signalsOf(z: readonly number[], rules: readonly SignalRule[]): Signal[] {
  const watch = new SignalWatch(rules)
  const signals: Signal[] = []
  for (const value of z) signals.push(...watch.push(value))
  return signals
}
