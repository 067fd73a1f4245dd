import { isOpen, type InspectionState } from './inspectionStates'

/** Who is at an inspection: nobody, or the person who took it or began it. */
export interface Claim {
  readonly state: InspectionState
  readonly holderId: string | null
}

/** What becomes of an inspection that somebody wants to take: it is theirs then, it is theirs already, another has it, or it is closed. */
export type Taking = 'free' | 'own' | 'taken' | 'closed'

export function takingOf({ state, holderId }: Claim, personId: string): Taking {
  if (!isOpen(state)) return 'closed'
  if (holderId === null) return 'free'
  return holderId === personId ? 'own' : 'taken'
}
