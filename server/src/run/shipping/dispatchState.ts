import { dispatchTransitions, canTransition, type DispatchState } from '@nemawashi/core'
import { ServerError } from '../../kernel/base/serverError'
import { type DispatchRow } from './entities'

export const dispatchWords = 'dispatch'

const stateWords = {
  planned: 'is only planned',
  picked: 'is picked already',
  sent: 'is on its way already',
  cancelled: 'is cancelled already',
} as const

/** What a dispatch comes to by an act. @throws {ServerError} `not_picked`, `already_picked`, `already_sent` where its state does not allow it. */
export function assertTransition({ code, state }: DispatchRow, act: keyof typeof dispatchTransitions): DispatchState {
  if (canTransition(dispatchTransitions, act, state)) return dispatchTransitions[act].to
  const error = { planned: 'not_picked', picked: 'already_picked', sent: 'already_sent', cancelled: 'already_sent' } as const
  throw new ServerError(error[state], `${code} ${stateWords[state]}.`, { state })
}
