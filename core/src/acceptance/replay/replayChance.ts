import { compareDecimal, type Decimal } from '../../tolerance/decimal'
import type { Limits } from '../../tolerance/limits'
import { furtherMasses } from './furtherPieces'
import { describeVariables } from '../variables/describeVariables'
import { judgeVariables, type VariablesPlan } from '../variables/judgeVariables'
import { hypergeometricMasses } from '../chance/probabilityMass'
import type { Stage } from '../plans/stagedPlan'

/** How likely a lot passes, and how many pieces are looked at on the average. */
export interface StagedChance {
  readonly accepted: number
  readonly expectedSize: number
}

/**
 * A plan of stages over recorded pieces: the recorded ones are taken first, in an order by chance, and what a stage wants beyond them is
 * estimated from all of them. Every stage decides as it would have, on what was found by then.
 * Shape: Stage[], m recorded, d nonconforming among them → StagedChance. Source: hypergeometric, then beta-binomial as in `furtherMasses`.
 */
export function chanceOfRecorded(stages: readonly Stage[], recorded: number, nonconforming: number): StagedChance {
  let going = new Map([[0, 1]])
  let drawn = 0
  let accepted = 0
  let expectedSize = 0
  for (const [i, { sampleSize, accept, reject }] of stages.entries()) {
    const top = i === stages.length - 1 ? reject - 1 : (accept ?? -1)
    const fromRecorded = Math.max(0, Math.min(sampleSize, recorded - drawn))
    const further = sampleSize - fromRecorded
    const isUsedUp = drawn + fromRecorded === recorded
    const massOf = fromRecorded > 0 ? hypergeometricMasses(recorded - drawn, fromRecorded) : null
    const next = new Map<number, number>()
    const add = (count: number, share: number) => {
      if (count <= top) accepted += share
      else if (count < reject && i < stages.length - 1) next.set(count, (next.get(count) ?? 0) + share)
    }
    for (const [found, weight] of going) {
      expectedSize += weight * sampleSize
      const least = massOf === null ? 0 : Math.max(0, fromRecorded - (recorded - drawn - (nonconforming - found)))
      const most = massOf === null ? 0 : Math.min(fromRecorded, nonconforming - found, reject - 1 - found)
      for (let k = least; k <= most; k++) {
        const share = weight * (massOf === null ? 1 : massOf(k, nonconforming - found))
        if (share === 0) continue
        const count = found + k
        if (further === 0) {
          add(count, share)
          continue
        }
        if (!isUsedUp || count >= reject) continue
        // All recorded pieces are drawn: what is found beyond theirs came from pieces that were estimated before.
        const masses = furtherMasses(count, Math.max(recorded, drawn), further, reject - 1 - count)
        masses.forEach((mass, more) => add(count + more, share * mass))
      }
    }
    going = next
    drawn += sampleSize
  }
  return { accepted: Math.min(1, accepted), expectedSize }
}

/**
 * A plan by variables over recorded values: the share of samples that pass, among all runs of n successive readings (the last ones go on
 * with the first). Fewer recorded readings than n are judged as they are.
 * Shape: plan, values, limits → { accepted 0..1, isWhole: all were taken }; null where too few values differ.
 */
export function chanceOfValues(
  plan: VariablesPlan,
  values: readonly Decimal[],
  limits: Limits,
): { readonly accepted: number; readonly isWhole: boolean; readonly reasoning: string } | null {
  const first = values[0]
  if (values.length < 3 || first === undefined || values.every((value) => compareDecimal(value, first) === 0)) return null
  const numbers = values.map(Number)
  const open = { lower: limits.lower === null ? null : Number(limits.lower), upper: limits.upper === null ? null : Number(limits.upper) }
  const size = Math.min(plan.sampleSize, numbers.length)
  const judge = (count: number, mean: number, deviation: number) => judgeVariables({ ...plan, sampleSize: count }, open, { count, mean, deviation })
  // Sums about the first value: readings lie close together, far from 0.
  const origin = numbers[0] as number
  const sums = (count: number, from: number) => {
    let sum = 0
    let squares = 0
    for (let i = 0; i < count; i++) {
      const off = (numbers[(from + i) % numbers.length] as number) - origin
      sum += off
      squares += off * off
    }
    return { sum, squares }
  }
  let { sum, squares } = sums(size, 0)
  if (size === numbers.length) {
    const verdict = judge(size, origin + sum / size, Math.sqrt(Math.max(0, squares - (sum * sum) / size) / (size - 1)))
    return {
      accepted: verdict.isAcceptable ? 1 : 0,
      isWhole: true,
      reasoning: `${describeVariables(verdict)} → ${verdict.isAcceptable ? 'acceptable' : 'not acceptable'}`,
    }
  }
  let passed = 0
  for (let from = 0; from < numbers.length; from++) {
    // Every so often the sums are taken anew, so that rounding does not add up.
    if (from % 512 === 0) ({ sum, squares } = sums(size, from))
    const variance = Math.max(0, squares - (sum * sum) / size) / Math.max(1, size - 1)
    const isFlat = plan.method === 's' && (size < 2 || !(variance > 1e-24 * (1 + origin * origin)))
    const mean = origin + sum / size
    const isInside = (open.lower === null || mean >= open.lower) && (open.upper === null || mean <= open.upper)
    if (isFlat ? isInside : judge(size, mean, Math.sqrt(variance)).isAcceptable) passed += 1
    const leaving = (numbers[from] as number) - origin
    const coming = (numbers[(from + size) % numbers.length] as number) - origin
    sum += coming - leaving
    squares += coming * coming - leaving * leaving
  }
  return {
    accepted: passed / numbers.length,
    isWhole: false,
    reasoning: `of ${numbers.length} samples of ${size} successive readings ${passed} pass`,
  }
}
