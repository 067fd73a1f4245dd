import { CoreError } from '../../errors'
import { binomialMass } from '../chance/probabilityMass'

/** Chain sampling ChSP-1: accept on none; on one, when the lots before it had none. */
export interface ChainPlan {
  readonly sampleSize: number
  /** How many lots before must have been free of nonconforming pieces for one to be accepted. */
  readonly lotsBefore: number
}

/**
 * Probability of acceptance of ChSP-1, as a function of the fraction nonconforming: P(0) + P(1)·P(0)^i.
 * Shape: plan → (p 0..1 → 0..1). Source: H. F. Dodge, Chain Sampling Inspection Plan, Industrial Quality Control 11 (1955).
 * @throws {CoreError} `sample_size_invalid`, `clearance_invalid`; the result: `fraction_invalid`.
 */
export function chainAcceptance({ sampleSize, lotsBefore }: ChainPlan): (fraction: number) => number {
  if (!Number.isSafeInteger(sampleSize) || sampleSize < 1)
    throw new CoreError('sample_size_invalid', `Received a sample size of ${sampleSize}. It is a whole number, 1 or more.`, {
      received: sampleSize,
      field: 'sampleSize',
    })
  if (!Number.isSafeInteger(lotsBefore) || lotsBefore < 1)
    throw new CoreError('clearance_invalid', `Received ${lotsBefore} lots before. It is a whole number, 1 or more.`, {
      received: lotsBefore,
      field: 'lotsBefore',
    })
  return (fraction) => {
    if (!(fraction >= 0 && fraction <= 1))
      throw new CoreError('fraction_invalid', `Received the fraction ${fraction}. It lies from 0 to 1.`, { received: fraction })
    const none = binomialMass(0, sampleSize, fraction, 1 - fraction)
    return none + binomialMass(1, sampleSize, fraction, 1 - fraction) * none ** lotsBefore
  }
}
