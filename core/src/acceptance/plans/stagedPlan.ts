import { CoreError } from '../../errors'
import { checkLotSize } from '../../numeric/lotSize'
import { acceptanceInSeries, acceptancePerUnit, tailOfLots } from '../chance/acceptanceProbability'
import { binomialMass, hypergeometricMasses, poissonMass } from '../chance/probabilityMass'

/** One stage of a plan. The numbers count what was found in this stage and all before it. */
export interface Stage {
  /** Pieces that this stage adds. */
  readonly sampleSize: number
  /** Accept up to this many found so far; null where this stage cannot accept. */
  readonly accept: number | null
  /** Not accepted from this many found so far. */
  readonly reject: number
}

/** What the sample is drawn from. */
export type Population =
  /** A long series with this fraction nonconforming (binomial, type B curve). */
  | { readonly kind: 'series'; readonly fraction: number }
  /** One lot with a whole number of nonconforming units (hypergeometric, type A curve). */
  | { readonly kind: 'lot'; readonly lotSize: number; readonly nonconforming: number }
  /** Nonconformities, on the average so many per unit (Poisson). */
  | { readonly kind: 'perUnit'; readonly nonconformities: number }

export interface StagedAcceptance {
  /** Probability of acceptance, 0..1. */
  readonly accepted: number
  /** Average sample number without curtailment: a stage that is begun is finished. */
  readonly expectedSize: number
  readonly acceptedByStage: readonly number[]
  readonly rejectedByStage: readonly number[]
}

/** Beyond this a rejection number is a typing error; the counts below it are all kept in mind at once. */
const largestReject = 10_000_000

/**
 * Refuses stages that could not be carried out.
 * @throws {CoreError} `sample_size_invalid`, `acceptance_number_invalid`, `acceptance_not_below_rejection` (Ac ≥ Re),
 * `stages_shrink` (a later stage with smaller numbers, or one that can never be reached); each names the stage.
 */
export function checkStages(stages: readonly Stage[]): void {
  if (stages.length === 0) throw new CoreError('sample_size_invalid', 'Received a plan without a stage. It has at least one.', { received: 0 })
  stages.forEach(({ sampleSize, accept, reject }, i) => {
    const stage = i + 1
    if (!Number.isSafeInteger(sampleSize) || sampleSize < 1) {
      throw new CoreError('sample_size_invalid', `Stage ${stage}: received a sample size of ${sampleSize}. It is a whole number, 1 or more.`, {
        received: sampleSize,
        stage,
        field: 'sampleSize',
      })
    }
    const isAcceptValid = accept === null ? i < stages.length - 1 : Number.isSafeInteger(accept) && accept >= 0
    if (!isAcceptValid || !Number.isSafeInteger(reject) || reject > largestReject) {
      throw new CoreError(
        'acceptance_number_invalid',
        `Stage ${stage}: received accept ${accept ?? 'none'}, reject ${reject}. They are whole numbers, the rejection number at most ${largestReject}, and the last stage accepts some count.`,
        { received: accept, reject, stage, field: 'accept' },
      )
    }
    if ((accept ?? -1) >= reject) {
      throw new CoreError('acceptance_not_below_rejection', `Stage ${stage}: Ac ${accept}, Re ${reject}. The second is greater than the first.`, {
        accept,
        reject,
        stage,
        field: 'reject',
      })
    }
    const before = stages[i - 1]
    if (before && (reject < before.reject || (accept ?? -1) < (before.accept ?? -1))) {
      throw new CoreError(
        'stages_shrink',
        `Stage ${stage} has smaller numbers than stage ${stage - 1}. Counts add up over the stages, so they never fall.`,
        {
          stage,
          accept,
          reject,
          field: 'accept',
        },
      )
    }
    if (before && before.reject - (before.accept ?? -1) < 2) {
      throw new CoreError('stages_shrink', `Stage ${stage} is never reached: stage ${stage - 1} already decides on every count.`, {
        stage,
        field: 'reject',
      })
    }
  })
}

/** Far above the least double, so that factors between neighbouring masses lose no accuracy on the way. */
const safeStart = 1e-250

/** P(k found in a stage), k = 0 … most, for a series or for nonconformities: the same whatever the stages before found. */
function sharedMasses(population: Exclude<Population, { kind: 'lot' }>, size: number, most: number): Float64Array {
  const masses = new Float64Array(most + 1)
  const isSeries = population.kind === 'series'
  const mean = isSeries ? 0 : size * population.nonconformities
  const p = isSeries ? population.fraction : 0
  const first = isSeries ? binomialMass(0, size, p, 1 - p) : poissonMass(0, mean)
  const last = isSeries ? Math.min(most, size) : most
  if (first > safeStart) {
    // Neighbouring masses follow from each other by one factor.
    const odds = p / (1 - p)
    masses[0] = first
    for (let k = 1; k <= last; k++) masses[k] = (masses[k - 1] as number) * (isSeries ? ((size - k + 1) / k) * odds : mean / k)
    return masses
  }
  for (let k = 0; k <= last; k++) masses[k] = isSeries ? binomialMass(k, size, p, 1 - p) : poissonMass(k, mean)
  return masses
}

/** The same from what is left of a lot, written into `masses`; `massOf` is that of the stage. */
function lotMasses(
  massOf: (x: number, nonconforming: number) => number,
  rest: number,
  size: number,
  left: number,
  most: number,
  masses: Float64Array,
): void {
  masses.fill(0, 0, most + 1)
  const first = Math.max(0, size - (rest - left))
  const last = Math.min(most, size, left)
  if (first > last) return
  let mass = massOf(first, left)
  const isSafe = mass > safeStart
  for (let k = first; k <= last; k++) {
    masses[k] = isSafe ? mass : massOf(k, left)
    mass *= ((size - k) * (left - k)) / ((k + 1) * (rest - left - size + k + 1))
  }
}

/** @throws {CoreError} `fraction_invalid`, `quantity_invalid`, `sample_size_invalid` (the stages together exceed the lot). */
export function checkPopulation(population: Population, total: number): void {
  if (population.kind === 'series' && !(population.fraction >= 0 && population.fraction <= 1)) {
    throw new CoreError('fraction_invalid', `Received the fraction ${population.fraction}. It lies from 0 to 1.`, { received: population.fraction })
  }
  if (population.kind === 'perUnit' && !(population.nonconformities >= 0 && population.nonconformities < Infinity)) {
    throw new CoreError('fraction_invalid', `Received ${population.nonconformities} nonconformities per unit. It is 0 or more.`, {
      received: population.nonconformities,
    })
  }
  if (population.kind !== 'lot') return
  const { lotSize, nonconforming } = population
  checkLotSize(lotSize)
  if (!Number.isSafeInteger(nonconforming) || nonconforming < 0 || nonconforming > lotSize) {
    throw new CoreError('quantity_invalid', `Received ${nonconforming} nonconforming units in a lot of ${lotSize}.`, {
      received: nonconforming,
      lotSize,
    })
  }
  if (total > lotSize) {
    throw new CoreError('sample_size_invalid', `The stages take ${total} pieces, the lot has ${lotSize}.`, {
      received: total,
      lotSize,
      field: 'sampleSize',
    })
  }
}

/**
 * Probability of acceptance and average sample number of a single, double or multiple plan. On the last stage every count below
 * the rejection number passes: where a gap is left between the two numbers (reduced inspection) the lot is accepted and normal
 * inspection comes back.
 * Shape: Stage[1..], Population → StagedAcceptance. Source: recursion over the counts that go on, as in MIL-STD-105E, 11.1 and
 * Schilling and Neubauer, Acceptance Sampling in Quality Control, chapter 6.
 * @throws {CoreError} as `checkStages`, `fraction_invalid`, `quantity_invalid`, `sample_size_invalid`.
 */
export function stagedAcceptance(stages: readonly Stage[], population: Population): StagedAcceptance {
  checkStages(stages)
  checkPopulation(
    population,
    stages.reduce((sum, stage) => sum + stage.sampleSize, 0),
  )
  return walkStages(stages, population)
}

/** The same for plans and populations that were checked before: the inner loop of every curve. */
export function walkStages(stages: readonly Stage[], population: Population): StagedAcceptance {
  const [only] = stages
  if (stages.length === 1 && only) {
    const accepted = acceptedAtOnce(only, population)
    return { accepted, expectedSize: only.sampleSize, acceptedByStage: [accepted], rejectedByStage: [1 - accepted] }
  }
  const acceptedByStage: number[] = []
  const rejectedByStage: number[] = []
  let going = new Float64Array([1])
  let drawn = 0
  let expectedSize = 0
  stages.forEach(({ sampleSize, accept, reject }, i) => {
    const isLast = i === stages.length - 1
    if (isLast) {
      const { reached, passed } = lastStage(going, sampleSize, reject, population, drawn)
      expectedSize += reached * sampleSize
      acceptedByStage.push(passed)
      rejectedByStage.push(Math.max(0, reached - passed))
      return
    }
    const top = accept ?? -1
    let reached = 0
    let below = 0
    const next = new Float64Array(reject)
    const masses = population.kind === 'lot' ? new Float64Array(reject) : sharedMasses(population, sampleSize, reject - 1)
    const rest = population.kind === 'lot' ? population.lotSize - drawn : 0
    const massOf = population.kind === 'lot' ? hypergeometricMasses(rest, sampleSize) : null
    for (let found = 0; found < going.length; found++) {
      const weight = going[found] as number
      if (weight === 0) continue
      reached += weight
      if (population.kind === 'lot' && massOf) lotMasses(massOf, rest, sampleSize, population.nonconforming - found, reject - 1 - found, masses)
      for (let k = 0; found + k < reject; k++) next[found + k] = (next[found + k] as number) + weight * (masses[k] as number)
    }
    let passed = 0
    for (let count = 0; count < reject; count++) {
      below += next[count] as number
      if (count > top) continue
      passed += next[count] as number
      next[count] = 0
    }
    expectedSize += reached * sampleSize
    acceptedByStage.push(passed)
    rejectedByStage.push(Math.max(0, reached - below))
    going = next
    drawn += sampleSize
  })
  const accepted = Math.min(
    1,
    acceptedByStage.reduce((sum, share) => sum + share, 0),
  )
  return { accepted, expectedSize, acceptedByStage, rejectedByStage }
}

/** What comes of a last stage, which ends it one way or the other: for each count that it begins with, one tail. */
function lastStage(
  going: Float64Array,
  sampleSize: number,
  reject: number,
  population: Population,
  drawn: number,
): { reached: number; passed: number } {
  // P(at most k in the stage), k = 0 … Re − 1.
  const upTo = population.kind === 'lot' ? null : sharedMasses(population, sampleSize, reject - 1).slice()
  if (upTo) for (let k = 1; k < upTo.length; k++) upTo[k] = (upTo[k] as number) + (upTo[k - 1] as number)
  let reached = 0
  let passed = 0
  for (let found = 0; found < going.length; found++) {
    const weight = going[found] as number
    if (weight === 0) continue
    reached += weight
    if (found >= reject) continue
    if (population.kind === 'lot')
      passed += weight * tailOfLots(population.lotSize - drawn, sampleSize, reject - 1 - found)(population.nonconforming - found)
    else passed += weight * Math.min(1, upTo?.[reject - 1 - found] ?? 1)
  }
  return { reached, passed }
}

/** P(X < Re) of one sample: the smaller tail alone, so that its time does not grow with the numbers of the plan. */
function acceptedAtOnce({ sampleSize, reject }: Stage, population: Population): number {
  if (population.kind === 'series') return acceptanceInSeries(population.fraction, sampleSize, reject - 1)
  if (population.kind === 'perUnit') return acceptancePerUnit(sampleSize * population.nonconformities, reject - 1)
  return tailOfLots(population.lotSize, sampleSize, reject - 1)(population.nonconforming)
}

/** A single plan as a plan of one stage. */
export function singleStage(sampleSize: number, accept: number): readonly Stage[] {
  return [{ sampleSize, accept, reject: accept + 1 }]
}
