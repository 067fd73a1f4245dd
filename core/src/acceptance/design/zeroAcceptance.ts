import { CoreError } from '../../errors'
import { firstWhole } from '../../numeric/findRoot'
import { checkRisk } from '../chance/checkRisks'
import { checkLotSize } from '../../numeric/lotSize'
import { hypergeometricMasses } from '../chance/probabilityMass'

/** Probabilities this close to a risk meet it: ties count, and the last bits of a double do not. */
export const tie = 1e-12

/**
 * Smallest sample of a lot that, accepting on none found, passes a lot with D nonconforming units at most β of the time.
 * Shape: N, 1 ≤ D ≤ N, 0 < β < 1 → whole n ≤ N. Exact (hypergeometric). Source: definition; ISO 2859-2 in idea.
 * @throws {CoreError} `lot_size_invalid`, `quantity_invalid`, `risk_invalid`.
 */
export function zeroAcceptanceSize(lotSize: number, nonconforming: number, consumersRisk: number): number {
  checkLotSize(lotSize)
  checkRisk("consumer's risk", consumersRisk, 'consumersRisk')
  if (!Number.isSafeInteger(nonconforming) || nonconforming < 1 || nonconforming > lotSize) {
    throw new CoreError('quantity_invalid', `Received ${nonconforming} nonconforming units in a lot of ${lotSize}.`, {
      received: nonconforming,
      lotSize,
    })
  }
  // With more than N − D drawn, one nonconforming unit at least is among them.
  const holds = (n: number) => n > lotSize - nonconforming || hypergeometricMasses(lotSize, n)(0, nonconforming) <= consumersRisk * (1 + tie)
  return firstWhole(holds, 1, lotSize) as number
}

/**
 * The same for a long series: smallest n with (1 − p)^n ≤ β.
 * Shape: 0 < p < 1, 0 < β < 1 → whole n. Source: definition.
 * @throws {CoreError} `fraction_invalid`, `risk_invalid`.
 */
export function zeroAcceptanceSizeInSeries(fraction: number, consumersRisk: number): number {
  checkRisk("consumer's risk", consumersRisk, 'consumersRisk')
  if (!(fraction > 0 && fraction < 1)) {
    throw new CoreError('fraction_invalid', `Received the limiting quality ${fraction}. It is a fraction between 0 and 1.`, { received: fraction })
  }
  return Math.max(1, Math.ceil((Math.log(consumersRisk) / Math.log1p(-fraction)) * (1 - tie)))
}

/** Units that a lot of the limiting quality holds at least: a share of the lot, rounded up, one at least. */
export function limitingUnits(lotSize: number, limitingPercent: number): number {
  return Math.min(lotSize, Math.max(1, Math.ceil(Number(((lotSize * limitingPercent) / 100).toPrecision(12)))))
}
