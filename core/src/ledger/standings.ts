/** What may be done with a quantity. The order is the one that bars and legends use. */
export const standings = [
  'onHold',
  'released',
  'quarantined',
  'inRework',
  'rejected',
  'scrapped',
  'returned',
  'shipped',
  'used',
  'notArrived',
] as const
export type Standing = (typeof standings)[number]

export const standingWords: Readonly<Record<Standing, string>> = {
  onHold: 'on hold',
  released: 'released',
  quarantined: 'quarantined',
  inRework: 'in rework',
  rejected: 'rejected',
  scrapped: 'scrapped',
  returned: 'returned',
  shipped: 'shipped',
  used: 'used',
  notArrived: 'never arrived',
}

/** What a decision can do with a quantity on hold, and the standing it leads to. */
export const dispositions = ['release', 'concession', 'quarantine', 'returnToSupplier', 'scrap'] as const
export type Disposition = (typeof dispositions)[number]

export const dispositionWords: Readonly<Record<Disposition, string>> = {
  release: 'release',
  concession: 'use as is (concession)',
  quarantine: 'quarantine',
  returnToSupplier: 'return to supplier',
  scrap: 'scrap',
}

export const standingAfter: Readonly<Record<Disposition, Standing>> = {
  release: 'released',
  concession: 'released',
  quarantine: 'quarantined',
  returnToSupplier: 'returned',
  scrap: 'scrapped',
}

/** What a movement of the ledger was for. */
export const movementKinds = [
  'received',
  'putAway',
  'transferred',
  'held',
  'cancelled',
  'made',
  'scrappedAtStep',
  'setAsideAtStep',
  'issued',
  'picked',
  'shipped',
  'cameBack',
  'corrected',
  'setApart',
  ...dispositions,
] as const
export type MovementKind = (typeof movementKinds)[number]

export const movementWords: Readonly<Record<MovementKind, string>> = {
  ...dispositionWords,
  received: 'received',
  putAway: 'put away',
  transferred: 'taken to another place',
  held: 'held for an inspection',
  cancelled: 'freed: its inspection was cancelled',
  made: 'made',
  scrappedAtStep: 'scrapped at the step',
  setAsideAtStep: 'set aside at the step, to be reworked',
  issued: 'issued to an order',
  picked: 'picked for a dispatch',
  shipped: 'shipped',
  cameBack: 'came back from the customer',
  corrected: 'corrected: entered wrongly',
  setApart: 'told apart from the rest of the lot',
}

/** What a signed decision says on its seal: one disposition for all, several, or none where nothing was held. */
export type SealMeaning = Disposition | 'split' | 'noted'
export const sealMeanings = [...dispositions, 'split', 'noted'] as const

export const sealWords: Readonly<Record<SealMeaning, string>> = {
  release: 'released',
  concession: 'concession',
  quarantine: 'quarantined',
  returnToSupplier: 'returned',
  scrap: 'scrapped',
  split: 'split',
  noted: 'noted',
}

export function sealMeaning(rows: readonly { readonly disposition: Disposition }[]): SealMeaning {
  const [first, ...others] = new Set(rows.map((row) => row.disposition))
  if (first === undefined) return 'noted'
  return others.length > 0 ? 'split' : first
}

/**
 * What becomes of the pieces when an inspection that is no gate fails: what is still there is held, of a run what was made since the last check that
 * conformed, or nothing.
 */
export const onFailures = ['hold', 'holdMade', 'note'] as const
export type OnFailure = (typeof onFailures)[number]

/** Steps from one standing to another that the ledger allows. Staying in a standing while changing place is always one. */
export const nextStandings: Readonly<Record<Standing, readonly Standing[]>> = {
  onHold: ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped', 'returned', 'notArrived'],
  released: ['released', 'onHold', 'quarantined', 'scrapped', 'returned', 'used', 'shipped', 'notArrived'],
  quarantined: ['quarantined', 'onHold', 'released', 'inRework', 'rejected', 'scrapped', 'returned'],
  inRework: ['inRework', 'onHold', 'scrapped'],
  rejected: ['rejected', 'onHold', 'quarantined', 'scrapped', 'returned'],
  scrapped: ['quarantined'],
  returned: [],
  shipped: ['onHold'],
  used: [],
  // What was taken out by mistake is put back.
  notArrived: ['onHold', 'released'],
}
