import { acceptanceInSeries, acceptancePerUnit, tailOfLots } from '../chance/acceptanceProbability'
import { binomialMass, hypergeometricMasses, poissonMass } from '../chance/probabilityMass'
import { checkPopulation, checkStages, type Population, type Stage } from '../plans/stagedPlan'

/**
 * Counts at the end of each stage: up to `sure` the lot is accepted whatever comes then, above `possible` it is not. Of most plans these are Ac
 * and Re − 1; a later stage may be too small, or too strict, to change anything.
 */
function certainCounts(stages: readonly Stage[]): readonly { readonly sure: number; readonly possible: number }[] {
  const counts: { sure: number; possible: number }[] = []
  for (let i = stages.length - 1; i >= 0; i--) {
    const { accept, reject } = stages[i] as Stage
    const [next] = counts
    const further = stages[i + 1]?.sampleSize ?? 0
    counts.unshift({
      sure: Math.max(accept ?? -1, Math.min(reject - 1, next === undefined ? Infinity : next.sure - further)),
      possible: Math.max(accept ?? -1, Math.min(reject - 1, next?.possible ?? Infinity)),
    })
  }
  return counts
}

/** What one stage is drawn from, once those before it are drawn: P(X ≤ c of m further pieces), and the mean number of draws to an end. */
interface StagePopulation {
  /** P(exactly k among the stage's pieces). */
  readonly mass: (k: number) => number
  /**
   * Mean number of draws until `bad` nonconforming or `good` conforming pieces were found, the stage's n at most. Infinity: that end is
   * never reached.
   */
  readonly draws: (n: number, bad: number, good: number) => number
}

/**
 * Mean of the first of two draws, T_bad and T_good, of which at most one comes within n. As t·P(T_r = t) is r/p times the probability that
 * the next one of r + 1 comes at t + 1, each part is one tail: E[T_r; T_r ≤ n] = (r/p)·P(X ≥ r + 1 in n + 1), and likewise without replacement
 * with N + 1 and D + 1. Source: definition; identities of the negative (hyper)geometric distribution.
 */
function seriesStage(size: number, fraction: number): StagePopulation {
  const q = 1 - fraction
  // P(X > c) of n pieces, summed as the small tail that it mostly is: what is not of one kind is of the other.
  const beyond = (n: number, c: number, isBad: boolean) => (c >= n ? 0 : acceptanceInSeries(isBad ? q : fraction, n, n - c - 1))
  const part = (n: number, r: number, isBad: boolean) => {
    const tail = r > n ? 0 : beyond(n + 1, r, isBad)
    return tail === 0 ? 0 : (r / (isBad ? fraction : q)) * tail
  }
  return {
    mass: (k) => binomialMass(k, size, fraction, q),
    draws: (n, bad, good) => part(n, bad, true) + part(n, good, false) + n * neither(beyond(n, bad - 1, true), beyond(n, good - 1, false)),
  }
}

function neither(bad: number, good: number): number {
  return Math.max(0, 1 - bad - good)
}

function lotStage(lotSize: number, nonconforming: number, size: number): StagePopulation {
  const beyond = (N: number, units: number, n: number, c: number) => (c >= n || c >= units ? 0 : tailOfLots(N, n, n - c - 1)(N - units))
  const part = (n: number, r: number, units: number) =>
    r > n || r > units ? 0 : ((r * (lotSize + 1)) / (units + 1)) * beyond(lotSize + 1, units + 1, n + 1, r)
  const conforming = lotSize - nonconforming
  const massOf = hypergeometricMasses(lotSize, size)
  return {
    mass: (k) => (k > nonconforming || size - k > conforming ? 0 : massOf(k, nonconforming)),
    draws: (n, bad, good) =>
      part(n, bad, nonconforming) +
      part(n, good, conforming) +
      n * neither(beyond(lotSize, nonconforming, n, bad - 1), beyond(lotSize, conforming, n, good - 1)),
  }
}

/** Up to here the units are added up one by one. */
const maxSummed = 64

/** P(X = k), Poisson, and none below 0. */
const massAt = (k: number, mean: number) => (k < 0 ? 0 : poissonMass(k, mean))

/**
 * Mean number of units until `bad` nonconformities were found, n at most: Σ P(fewer than `bad` after t units), t = 0 … n − 1. Where that share
 * changes little from unit to unit the sum is its integral, the mean of min(X, bad) in n units over λ, with the terms of Euler and Maclaurin up
 * to the third derivative; the next one is below 1e-9 of it. Else few units count. Source: definition.
 */
function unitsUntil(n: number, bad: number, rate: number): number {
  if (rate === 0) return n
  if (n <= maxSummed || bad < 100 * rate * rate) {
    const last = Math.min(n, Math.ceil((bad + 10 * Math.sqrt(bad) + 40) / rate))
    let sum = 0
    for (let t = 0; t < last; t++) sum += acceptancePerUnit(t * rate, bad - 1)
    return sum
  }
  const mean = n * rate
  const fewer = acceptancePerUnit(mean, bad - 1)
  const least = (bad > 1 ? mean * acceptancePerUnit(mean, bad - 2) : 0) + bad * (1 - fewer)
  const slopes = (at: number) => {
    const [p1, p2, p3] = [massAt(bad - 1, at), massAt(bad - 2, at), massAt(bad - 3, at)]
    return { first: -rate * p1, third: -(rate ** 3) * (p3 - 2 * p2 + p1) }
  }
  const [end, begin] = [slopes(mean), slopes(0)]
  return Math.min(n, least / rate + (1 - fewer) / 2 + (end.first - begin.first) / 12 - (end.third - begin.third) / 720)
}

function unitStage(size: number, rate: number): StagePopulation {
  // Asked again and again where several counts go on.
  const masses = new Map<number, number>()
  const mass = (k: number) => {
    const known = masses.get(k) ?? poissonMass(k, size * rate)
    masses.set(k, known)
    return known
  }
  // Nonconformities have no most a unit, so only the end of the stage accepts.
  return { mass, draws: (n, bad) => unitsUntil(n, bad, rate) }
}

function stageOf(population: Exclude<Population, { kind: 'perUnit' }>, size: number, drawn: number, found: number): StagePopulation {
  if (population.kind === 'series') return seriesStage(size, population.fraction)
  return lotStage(population.lotSize - drawn, population.nonconforming - found, size)
}

/**
 * Average number of pieces looked at when inspection ends as soon as the result is certain: the rejection number is reached, or the
 * pieces left in the stage could not bring the count above the acceptance number.
 * Shape: Stage[], Population → pieces. In closed form, so that its time does not grow with the sample; nonconformities per unit agree with the sum
 * over the units to 1e-9 of it. Source: definition.
 * @throws {CoreError} as `stagedAcceptance`.
 */
export function curtailedSize(stages: readonly Stage[], population: Population): number {
  checkStages(stages)
  checkPopulation(
    population,
    stages.reduce((sum, stage) => sum + stage.sampleSize, 0),
  )
  const certain = certainCounts(stages)
  let going = new Map([[0, 1]])
  let drawn = 0
  let expected = 0
  for (const [i, { sampleSize, accept, reject }] of stages.entries()) {
    const { sure, possible } = certain[i] as (typeof certain)[number]
    const next = new Map<number, number>()
    const units = population.kind === 'perUnit' ? unitStage(sampleSize, population.nonconformities) : null
    for (const [found, weight] of going) {
      const stage = population.kind === 'perUnit' ? (units as StagePopulation) : stageOf(population, sampleSize, drawn, found)
      const good = found <= sure ? sampleSize - (sure - found) : Infinity
      const bad = possible + 1 - found
      // Nothing that the stage finds would change the result: it is not begun. A unit can hold any number of nonconformities.
      if (bad <= 0 || (units === null && good <= 0)) continue
      expected += weight * stage.draws(sampleSize, bad, good)
      if (i === stages.length - 1) continue
      for (let count = Math.max(found, (accept ?? -1) + 1); count < reject; count++) {
        const share = weight * stage.mass(count - found)
        if (share > 0) next.set(count, (next.get(count) ?? 0) + share)
      }
    }
    going = next
    drawn += sampleSize
  }
  return expected
}
