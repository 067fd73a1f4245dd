import type { StateMachine } from './stateMachine'

/** The life of a revision, whatever it is one of: drafted, released now or from a day on, in the end retired. */
export const revisionStates = ['draft', 'scheduled', 'released', 'retired'] as const
export type RevisionState = (typeof revisionStates)[number]

export const revisionTransitions = {
  release: { from: ['draft'], to: 'released' },
  schedule: { from: ['draft'], to: 'scheduled' },
  takeEffect: { from: ['scheduled'], to: 'released' },
  /** By hand, or because another one is released in its place. */
  retire: { from: ['scheduled', 'released'], to: 'retired' },
  discard: { from: ['draft'], to: null },
} as const satisfies StateMachine<RevisionState>
