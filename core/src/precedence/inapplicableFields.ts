import type { HoldExtent, PointSubject } from '../ledger/occasions'
import { usualConsequence, type Consequence } from './consequence'
import { stepBlocked, type Moment, type OperationKind } from './moments'

/** What a control point may say that means something at some operations, for some subjects, and nothing at others. */
export interface Conditional extends Pick<Consequence, 'keepsFrom' | 'setsAside'> {
  readonly holds: HoldExtent
}
const defaults: Conditional = { ...usualConsequence, holds: 'all' }

export interface Standpoint {
  readonly moment: Moment
  readonly subject: PointSubject
  readonly isGate: boolean
}

/**
 * Which of it has no effect: a load has neither a sample that could be held nor pieces that could be set aside; goods are let into a store
 * on hold only by a gate that would keep them from being put away.
 */
export function inapplicableFields(kind: OperationKind, { moment, subject, isGate }: Standpoint): readonly (keyof Conditional)[] {
  const mayBeStored = isGate && stepBlocked(kind, moment) === 'putAway'
  return [...(subject === 'load' ? (['holds', 'setsAside'] as const) : []), ...(mayBeStored ? [] : (['keepsFrom'] as const))]
}

/** The same without what has no effect. */
export function onlyApplicable<Said extends Standpoint & Conditional>(kind: OperationKind, said: Said): Said {
  return { ...said, ...Object.fromEntries(inapplicableFields(kind, said).map((field) => [field, defaults[field]])) }
}

/** What was said and has no effect; null for nothing. */
export function findInapplicable(kind: OperationKind, said: Standpoint & Conditional): keyof Conditional | null {
  return inapplicableFields(kind, said).find((field) => said[field] !== defaults[field]) ?? null
}
