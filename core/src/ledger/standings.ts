/** What may be done with a quantity. The order is the one that bars and legends use. */
export const standings = ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped', 'returned', 'shipped', 'used'] as const
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

/** Steps from one standing to another that the ledger allows. Staying in a standing while changing place is always one. */
export const nextStandings: Readonly<Record<Standing, readonly Standing[]>> = {
  onHold: ['onHold', 'released', 'quarantined', 'inRework', 'rejected', 'scrapped', 'returned'],
  released: ['released', 'onHold', 'used', 'shipped'],
  quarantined: ['quarantined', 'onHold', 'released', 'inRework', 'rejected', 'scrapped', 'returned'],
  inRework: ['inRework', 'onHold', 'scrapped'],
  rejected: ['rejected', 'scrapped', 'returned'],
  scrapped: [],
  returned: [],
  shipped: ['onHold'],
  used: [],
}
