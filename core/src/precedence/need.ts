import { CoreError } from '../errors'

/** Whether what a control point asks may be changed on the spot: never, or by a person with the right, for a reason that is kept. */
export const needs = ['fixed', 'adaptable'] as const
export type Need = (typeof needs)[number]

export const needWords: Readonly<Record<Need, string>> = {
  fixed: 'no: it is always asked as it stands',
  adaptable: 'yes: an engineer may change it or drop a line, with a reason',
}

/** A sample that somebody sets by hand: none drops the line. */
export interface AdaptedSample {
  readonly sampleSize: number
  readonly accept: number
}

/**
 * Refuses a sample that cannot be: more pieces than the lot has, fewer than were answered already, or an acceptance number Ac that a
 * sample of that size would always meet.
 * @throws {CoreError} `sample_size_invalid`, `acceptance_number_invalid`.
 */
export function checkAdapted({ sampleSize, accept }: AdaptedSample, { lotSize, answered }: { lotSize: number; answered: number }): void {
  const facts = { received: sampleSize, lotSize, answered }
  if (!Number.isSafeInteger(sampleSize) || sampleSize < 0 || sampleSize > lotSize) {
    const said = `Received a sample size n of ${sampleSize}. It is a whole number from 0 (the line is dropped) to the lot size ${lotSize}.`
    throw new CoreError('sample_size_invalid', said, facts)
  }
  if (sampleSize < answered) {
    const said = `${answered} pieces of this line are answered already: a sample size n of ${sampleSize} would leave answers out.`
    throw new CoreError('sample_size_invalid', said, facts)
  }
  if (!Number.isSafeInteger(accept) || accept < 0 || (sampleSize > 0 && accept >= sampleSize)) {
    const said = `Received an acceptance number Ac of ${accept}. It is a whole number from 0 to below the sample size n, ${sampleSize}.`
    throw new CoreError('acceptance_number_invalid', said, { ...facts, received: accept, sampleSize })
  }
}
