import type { CallOf, Endpoint, ReplyOf } from '@nemawashi/contract'
import { useThing } from '../../shell/queries'

const waitingMs = 5_000

/**
 * One thing of Run that asks again by itself while it waits for somebody else: a check that is recorded, a decision, or a check that comes up by the
 * clock of a step. Nobody at the page would tell it.
 */
export function useWaiting<E extends Endpoint>(endpoint: E, input: () => CallOf<E>, waits: (thing: ReplyOf<E>) => boolean) {
  return useThing(endpoint, input, (thing) => (thing !== undefined && waits(thing) ? waitingMs : null))
}
