import { switchingOf } from '../acceptance/switching/switchingOf'
import type { FrequencyRule } from '../acceptance/frequency/frequencyRule'
import type { Rules } from './pastOccasion'

const isEarned = ({ kind, fullAfterFailure = 0 }: FrequencyRule) => fullAfterFailure > 0 || kind === 'certificateOnly' || kind === 'earnedSkipping'

/**
 * Whether what is played depends on what was found: frequencies that are earned or lost, severities that switch. Of what nobody looked at then
 * nobody knows what would have been found.
 */
export function restsOnFindings({ points, plans }: Rules): boolean {
  return points.some(
    ({ frequency, planId }) => isEarned(frequency) || (plans.get(planId) ?? []).some(({ sampling }) => switchingOf(sampling) !== null),
  )
}
