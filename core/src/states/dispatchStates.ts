import type { StateMachine } from './stateMachine'

/** The life of a dispatch: planned, picked and at the door, sent or called off. What is picked at once was never planned. */
export const dispatchStates = ['planned', 'picked', 'sent', 'cancelled'] as const
export type DispatchState = (typeof dispatchStates)[number]

export const dispatchTransitions = {
  pick: { from: ['planned'], to: 'picked' },
  send: { from: ['picked'], to: 'sent' },
  cancel: { from: ['planned', 'picked'], to: 'cancelled' },
} as const satisfies StateMachine<DispatchState>
