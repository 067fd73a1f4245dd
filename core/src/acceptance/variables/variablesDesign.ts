import { normalBeyond } from '../../capability/normal'
import { CoreError } from '../../errors'
import { findRoot, firstWhole } from '../../numeric/findRoot'
import { checkTwoPoints, type TwoPoints } from '../chance/checkRisks'
import { acceptedAt, spreadNodes, type VariablesMethod } from './variablesAcceptance'

export interface VariablesDesign {
  readonly sampleSize: number
  /** Any k between the two meets both points; the plan takes their middle. */
  readonly kForConsumer: number
  readonly kForProducer: number
  readonly k: number
  readonly goodAccepted: number
  readonly poorAccepted: number
}

const largestSample = 10_000

/**
 * Smallest variables plan with one limit that meets both points: σ known in closed form, s by exact non-central t.
 * Shape: TwoPoints, method → VariablesDesign. Source: ISO 3951 in idea; for σ, n = ((zα + zβ)/(z1 − z2))².
 * @throws {CoreError} `risk_invalid`, `fraction_invalid`, `qualities_reversed`, `design_not_found`.
 */
export function variablesDesign(points: TwoPoints, method: VariablesMethod): VariablesDesign {
  checkTwoPoints(points)
  const { producersRisk, consumersRisk } = points
  const goodZ = normalBeyond(points.goodFraction)
  const poorZ = normalBeyond(points.poorFraction)
  const ks = (n: number) => {
    if (method === 'sigma') {
      const root = Math.sqrt(n)
      return { kForProducer: goodZ - normalBeyond(producersRisk) / root, kForConsumer: poorZ + normalBeyond(consumersRisk) / root }
    }
    const nodes = spreadNodes(n)
    const accepted = (z: number) => (k: number) => acceptedAt(z, Math.sqrt(n), k, nodes)
    const solve = (z: number, share: number) => {
      const high = Math.abs(z) * 60 + 60
      // So few readings that even a k far beyond any use accepts more often than this: no such plan of this size.
      return accepted(z)(high) > share ? Infinity : findRoot(accepted(z), z - 60 / Math.sqrt(n) - 60, high, share)
    }
    return { kForProducer: solve(goodZ, 1 - producersRisk), kForConsumer: solve(poorZ, consumersRisk) }
  }
  const meets = (n: number) => {
    const { kForProducer, kForConsumer } = ks(n)
    return kForConsumer <= kForProducer + 1e-12
  }
  const least = method === 's' ? 2 : 1
  const sampleSize = firstWhole(meets, least, largestSample)
  if (sampleSize === null) {
    throw new CoreError(
      'design_not_found',
      `No variables plan of up to ${largestSample} pieces tells ${points.goodFraction} from ${points.poorFraction} at these risks. Move the two qualities further apart or allow more risk.`,
      { ...points },
    )
  }
  const found = ks(sampleSize)
  const k = (found.kForProducer + found.kForConsumer) / 2
  const nodes = method === 's' ? spreadNodes(sampleSize) : null
  return {
    sampleSize,
    ...found,
    k,
    goodAccepted: acceptedAt(goodZ, Math.sqrt(sampleSize), k, nodes),
    poorAccepted: acceptedAt(poorZ, Math.sqrt(sampleSize), k, nodes),
  }
}
