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

/** States in which readings are still taken. */
export function isOpen(state: InspectionState): boolean {
  return state === 'toDo' || state === 'started'
}

/** States after which nothing is waited for any more. */
export function isSettled(state: InspectionState): boolean {
  return state === 'decided' || state === 'cancelled'
}
