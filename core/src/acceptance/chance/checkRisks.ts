import { CoreError } from '../../errors'

/** Two points that a plan has to meet: good lots are accepted, poor ones are not. Fractions 0..1. */
export interface TwoPoints {
  /** Quality that should pass (producer's point). */
  readonly goodFraction: number
  /** α: share of good lots that may be turned away. */
  readonly producersRisk: number
  /** Quality that should not pass (consumer's point). */
  readonly poorFraction: number
  /** β: share of poor lots that may pass. */
  readonly consumersRisk: number
}

export function checkRisk(name: string, risk: number, field: string): void {
  if (risk > 0 && risk < 1) return
  throw new CoreError('risk_invalid', `Received a ${name} of ${risk}. It is a share between 0 and 1, e.g. 0.05 for 5 of 100 lots.`, {
    received: risk,
    field,
  })
}

/**
 * Refuses points that no plan could meet. Rates (nonconformities per unit) may exceed 1.
 * @throws {CoreError} `risk_invalid` (outside 0–1, or α + β ≥ 1), `fraction_invalid`, `qualities_reversed` (p1 ≥ p2).
 */
export function checkTwoPoints({ goodFraction, producersRisk, poorFraction, consumersRisk }: TwoPoints, isRate = false): void {
  for (const [field, fraction] of [
    ['goodFraction', goodFraction],
    ['poorFraction', poorFraction],
  ] as const) {
    if (fraction > 0 && fraction < (isRate ? Infinity : 1)) continue
    throw new CoreError(
      'fraction_invalid',
      `Received the quality ${fraction}. It is ${isRate ? 'a rate above 0' : 'a fraction between 0 and 1'}, e.g. 0.01 for ${isRate ? '1 nonconformity per 100 units' : '1 %'}.`,
      { received: fraction, field },
    )
  }
  checkRisk("producer's risk", producersRisk, 'producersRisk')
  checkRisk("consumer's risk", consumersRisk, 'consumersRisk')
  if (producersRisk + consumersRisk >= 1) {
    throw new CoreError(
      'risk_invalid',
      `The two risks ${producersRisk} and ${consumersRisk} add up to ${producersRisk + consumersRisk}: tossing a coin would do. Together they are less than 1.`,
      { producersRisk, consumersRisk, field: 'consumersRisk' },
    )
  }
  if (goodFraction >= poorFraction) {
    throw new CoreError('qualities_reversed', `The good quality ${goodFraction} is not below the poor one ${poorFraction}. Exchange them.`, {
      goodFraction,
      poorFraction,
      field: 'poorFraction',
    })
  }
}
