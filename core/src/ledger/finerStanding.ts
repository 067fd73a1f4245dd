import type { Standing } from './standings'

/** What can be done with pieces that are free: used in an order, picked for a customer, sent to them. */
export const freeSteps = ['use', 'pick', 'ship'] as const
export type FreeStep = (typeof freeSteps)[number]

export const freeStepWords: Readonly<Record<FreeStep, string>> = {
  use: 'issued to an order',
  pick: 'picked for a dispatch',
  ship: 'sent to a customer',
}

/** Standings that a plant may tell apart more finely: of pieces that are in the plant, and not lost. */
export const refinable = ['released', 'onHold', 'quarantined', 'inRework', 'rejected'] as const satisfies readonly Standing[]
export type Refinable = (typeof refinable)[number]

/** A standing that a plant has named for itself: which of its standings it is a kind of, and the steps that it allows. */
export interface FinerStanding {
  readonly standing: Refinable
  readonly mayUse: boolean
  readonly mayPick: boolean
  readonly mayShip: boolean
  readonly countsForPlanning: boolean
}

/** Whether pieces in a standing may take a step: a finer standing only takes away from what its standing allows. */
export function allowsStep(standing: Standing, finer: FinerStanding | null, step: FreeStep): boolean {
  if (standing !== 'released') return false
  if (finer === null || finer.standing !== standing) return true
  return { use: finer.mayUse, pick: finer.mayPick, ship: finer.mayShip }[step]
}

/**
 * The finer standing of what lies at a spot: that of its container before that of its lot, and only while the pieces are in the standing that it
 * is a kind of.
 */
export function finerAt<T extends Pick<FinerStanding, 'standing'> & { readonly containerId: string | null }>(
  given: readonly T[],
  spot: { readonly containerId: string | null; readonly standing: Standing },
): T | null {
  const here = given.filter(({ standing, containerId }) => standing === spot.standing && (containerId === null || containerId === spot.containerId))
  return here.find(({ containerId }) => containerId !== null) ?? here[0] ?? null
}
