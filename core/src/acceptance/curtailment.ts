import { poissonMass } from './probabilityMass'
import { checkStages, type Population, type Stage } from './stagedPlan'

/** Largest count at the end of the stage that still passes it. */
function passesUpTo(stages: readonly Stage[], i: number): number {
  const stage = stages[i] as Stage
  return i === stages.length - 1 ? stage.reject - 1 : (stage.accept ?? -1)
}

/**
 * Average number of pieces looked at when inspection ends as soon as the result is certain: the rejection number is reached, or the
 * pieces left in the stage could not bring the count above the acceptance number.
 * Shape: Stage[], Population → pieces. Piece by piece, exact for the three populations. Source: definition.
 * @throws {CoreError} as `checkStages`.
 */
export function curtailedSize(stages: readonly Stage[], population: Population): number {
  checkStages(stages)
  const most = (stages.at(-1) as Stage).reject
  const shares = new Float64Array(most)
  shares[0] = 1
  let drawn = 0
  let expected = 0
  const steps = population.kind === 'perUnit' ? Array.from({ length: most }, (_, k) => poissonMass(k, population.nonconformities)) : null
  stages.forEach(({ sampleSize, reject }, i) => {
    const top = passesUpTo(stages, i)
    for (let left = sampleSize; left > 0; left--) {
      // From the highest count down, so that the shares move on in place.
      for (let count = reject - 1; count >= 0; count--) {
        const share = shares[count] as number
        if (share === 0) continue
        // A unit adds one at most when units are counted; nonconformities have no most, so only the end of the stage accepts.
        if (steps === null && count + left <= top) {
          shares[count] = 0
          continue
        }
        expected += share
        if (steps !== null) {
          shares[count] = share * (steps[0] as number)
          for (let k = 1; count + k < reject; k++) shares[count + k] = (shares[count + k] as number) + share * (steps[k] as number)
          continue
        }
        const p = chanceOfNext(population, count, drawn)
        shares[count] = share * (1 - p)
        if (count + 1 < reject) shares[count + 1] = (shares[count + 1] as number) + share * p
      }
      drawn += 1
    }
    for (let count = 0; count <= Math.min(top, most - 1); count++) shares[count] = 0
  })
  return expected
}

/** Probability that the next piece is nonconforming, when so many were found among those drawn. */
function chanceOfNext(population: Population, found: number, drawn: number): number {
  if (population.kind === 'lot') return Math.max(0, (population.nonconforming - found) / (population.lotSize - drawn))
  return population.kind === 'series' ? population.fraction : 0
}
