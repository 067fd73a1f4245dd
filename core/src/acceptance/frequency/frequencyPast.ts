import { isDue, type FrequencyRule, type PastArrival } from './frequencyRule'

/** An arrival as it was, and whether the rule would have looked at it. */
export interface Retried {
  readonly arrival: PastArrival
  readonly wouldBe: boolean
}

/**
 * Arrivals of the past under another rule, in their order. What the rule looks at is taken to have been accepted, unless it was looked at and
 * was not: what passed by then says nothing of itself.
 * Shape: rule, PastArrival[] of one history → Retried[] of the same length.
 * @throws {CoreError} as `checkFrequencyRule`.
 */
export function retryFrequency(rule: FrequencyRule, arrivals: readonly PastArrival[]): Retried[] {
  const before: PastArrival[] = []
  return arrivals.map((arrival) => {
    const { isDue: wouldBe } = isDue(rule, arrival, before)
    before.push({ ...arrival, isInspected: wouldBe, isAccepted: wouldBe ? (arrival.isAccepted ?? true) : null })
    return { arrival, wouldBe }
  })
}
