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
  let shares = new Float64Array(most)
  shares[0] = 1
  let drawn = 0
  let expected = 0
  const steps = population.kind === 'perUnit' ? Array.from({ length: most }, (_, k) => poissonMass(k, population.nonconformities)) : []
  stages.forEach(({ sampleSize, reject }, i) => {
    const top = passesUpTo(stages, i)
    for (let left = sampleSize; left > 0; left--) {
      const next = new Float64Array(most)
      for (let count = 0; count < reject; count++) {
        const share = shares[count] as number
        // A unit adds one at most when units are counted; nonconformities have no most, so only the end of the stage accepts.
        const isCertain = population.kind === 'perUnit' ? false : count + left <= top
        if (share === 0 || isCertain) continue
        expected += share
        if (population.kind === 'perUnit') {
          for (let k = 0; count + k < reject; k++) next[count + k] = (next[count + k] as number) + share * (steps[k] as number)
          continue
        }
        const p = population.kind === 'series' ? population.fraction : (population.nonconforming - count) / (population.lotSize - drawn)
        next[count] = (next[count] as number) + share * (1 - p)
        if (count + 1 < reject) next[count + 1] = (next[count + 1] as number) + share * p
      }
      shares = next
      drawn += 1
    }
    for (let count = 0; count <= Math.min(top, most - 1); count++) shares[count] = 0
  })
  return expected
}
