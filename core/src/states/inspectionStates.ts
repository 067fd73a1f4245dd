import { isFinal, canTransition, type StateMachine } from './stateMachine'

/** The life of an inspection, in its order; a cancelled one ends where it was. */
export const inspectionStates = ['toDo', 'started', 'finished', 'decided', 'cancelled'] as const
export type InspectionState = (typeof inspectionStates)[number]

export const inspectionStateWords: Readonly<Record<InspectionState, string>> = {
  toDo: 'to do',
  started: 'started',
  finished: 'finished',
  decided: 'decided',
  cancelled: 'cancelled',
}

export const inspectionTransitions = {
  start: { from: ['toDo'], to: 'started' },
  finish: { from: ['toDo', 'started'], to: 'finished' },
  reopen: { from: ['finished'], to: 'started' },
  decide: { from: ['finished'], to: 'decided' },
  cancel: { from: ['toDo', 'started', 'finished'], to: 'cancelled' },
} as const satisfies StateMachine<InspectionState>

/** States in which readings are still taken. */
export function isOpen(state: InspectionState): boolean {
  return canTransition(inspectionTransitions, 'finish', state)
}

/** States after which nothing is waited for any more. */
export function isSettled(state: InspectionState): boolean {
  return isFinal(inspectionTransitions, state)
}
