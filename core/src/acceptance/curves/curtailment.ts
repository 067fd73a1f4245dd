import { acceptanceInSeries, tailOfLots } from '../chance/acceptanceProbability'
import { binomialMass, hypergeometricMasses, poissonMass } from '../chance/probabilityMass'
import { checkPopulation, checkStages, type Population, type Stage } from '../plans/stagedPlan'
import { acceptancePerUnit } from '../design/twoPointDesign'

/** Largest count at the end of the stage that still passes it. */
function passesUpTo(stages: readonly Stage[], i: number): number {
  const stage = stages[i] as Stage
  return i === stages.length - 1 ? stage.reject - 1 : (stage.accept ?? -1)
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
const mostSummed = 4000

/**
 * Mean number of units until `bad` nonconformities were found, n at most: Σ P(fewer than `bad` after t units), t = 0 … n − 1. Of many
 * units the sum is an integral with the first terms of Euler and Maclaurin; the terms left out are below 1e-9 of it, as the rate then
 * changes little from unit to unit.
 */
function unitsUntil(n: number, bad: number, rate: number): number {
  if (rate === 0) return n
  const goesOn = (t: number) => acceptancePerUnit(t * rate, bad - 1)
  if (n <= mostSummed || rate > 0.05) {
    let sum = 0
    for (let t = 0; t < n; t++) {
      const share = goesOn(t)
      sum += share
      if (share < 1e-18 && t * rate > bad) break
    }
    return sum
  }
  let integral = 0
  for (let k = 0; k < bad; k++) {
    const share = 1 - acceptancePerUnit(n * rate, k)
    integral += share
    if (share < 1e-18) break
  }
  const slope = (t: number) => -rate * poissonMass(bad - 1, t * rate)
  return integral / rate - (goesOn(n) - 1) / 2 + (slope(n) - (bad === 1 ? -rate : 0)) / 12
}

function unitStage(size: number, rate: number): StagePopulation {
  // Nonconformities have no most a unit, so only the end of the stage accepts.
  return { mass: (k) => poissonMass(k, size * rate), draws: (n, bad) => unitsUntil(n, bad, rate) }
}

function stageOf(population: Population, size: number, drawn: number, found: number): StagePopulation {
  if (population.kind === 'series') return seriesStage(size, population.fraction)
  if (population.kind === 'perUnit') return unitStage(size, population.nonconformities)
  return lotStage(population.lotSize - drawn, population.nonconforming - found, size)
}

/**
 * Average number of pieces looked at when inspection ends as soon as the result is certain: the rejection number is reached, or the
 * pieces left in the stage could not bring the count above the acceptance number.
 * Shape: Stage[], Population → pieces. In closed form, so that its time does not grow with the sample; nonconformities per unit as
 * `unitsUntil` says. Source: definition.
 * @throws {CoreError} as `stagedAcceptance`.
 */
export function curtailedSize(stages: readonly Stage[], population: Population): number {
  checkStages(stages)
  checkPopulation(
    population,
    stages.reduce((sum, stage) => sum + stage.sampleSize, 0),
  )
  let going = new Map([[0, 1]])
  let drawn = 0
  let expected = 0
  for (const [i, { sampleSize, accept, reject }] of stages.entries()) {
    const top = passesUpTo(stages, i)
    const next = new Map<number, number>()
    for (const [found, weight] of going) {
      const stage = stageOf(population, sampleSize, drawn, found)
      const good = found <= top ? sampleSize - (top - found) : Infinity
      // The whole stage nonconforming would still pass: it is not begun.
      if (good <= 0) continue
      expected += weight * stage.draws(sampleSize, reject - found, good)
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
