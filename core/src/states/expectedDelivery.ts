import type { StateMachine } from './stateMachine'

/** The life of a delivery that is told of before its receipt is posted: on its way, at the dock, and received or turned away. */
export const expectedStates = ['announced', 'registered', 'received', 'turnedAway'] as const
export type ExpectedState = (typeof expectedStates)[number]

export const expectedStateWords: Readonly<Record<ExpectedState, string>> = {
  announced: 'announced',
  registered: 'at the dock',
  received: 'received',
  turnedAway: 'refused',
}

/** Receiving in one step goes past the dock without a word: what is announced can be received as it is. */
export const expectedTransitions = {
  register: { from: ['announced'], to: 'registered' },
  receive: { from: ['announced', 'registered'], to: 'received' },
  refuse: { from: ['announced', 'registered'], to: 'turnedAway' },
} as const satisfies StateMachine<ExpectedState>
