/** What a control point names as its reach. Null means every one. */
export interface Reach {
  readonly id: string
  readonly planId: string
  readonly partId: string | null
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly customerId: string | null
  /** Suppliers that share a word. */
  readonly supplierGroup: string | null
  /** The contract that the order is under. */
  readonly contract: string | null
}

export interface Subject {
  readonly partId: string
  readonly familyId: string | null
  readonly supplierId: string | null
  readonly customerId: string | null
  readonly supplierGroup: string | null
  readonly contract: string | null
}

/** What a control point is for, narrowest first: in goods, and of those in whose. */
const goods = ['part', 'family', 'everyPart'] as const
const whose = ['UnderContract', 'OfPartner', 'OfGroup', ''] as const
type Goods = (typeof goods)[number]
type Whose = (typeof whose)[number]
export type Level = `${Goods}${Whose}`

/** Order of precedence, narrowest first: the goods decide, then whose they are. */
export const precedence: readonly Level[] = goods.flatMap((what) => whose.map((from): Level => `${what}${from}`))

/** A condition of a reach that a subject does not meet. */
export const scopeMismatches = ['part', 'family', 'supplier', 'customer', 'group', 'contract'] as const
export type Mismatch = (typeof scopeMismatches)[number]

export interface Applied<T extends Reach> {
  readonly point: T
  readonly level: Level
  /** It reaches the subject, and none that asks the same is narrower. */
  readonly opens: boolean
  /** The narrower level that goes before it. */
  readonly supersededBy: Level | null
  /** Conditions that are not met; empty where it reaches the subject. */
  readonly mismatches: readonly Mismatch[]
}

/** What a control point is for. */
export type Scope = Omit<Reach, 'id' | 'planId'>

function rankOf({ partId, familyId, supplierId, customerId, supplierGroup, contract }: Scope): number {
  const rankOfGoods = partId !== null ? 0 : familyId !== null ? 1 : 2
  const rankOfWhose = contract !== null ? 0 : supplierId !== null || customerId !== null ? 1 : supplierGroup !== null ? 2 : 3
  return rankOfGoods * whose.length + rankOfWhose
}

/** Where a reach stands in the order of precedence. */
export function levelOf(reach: Scope): Level {
  return precedence[rankOf(reach)] as Level
}

function mismatchesOf(reach: Reach, subject: Subject): Mismatch[] {
  const mismatches: Mismatch[] = []
  if (reach.partId !== null && reach.partId !== subject.partId) mismatches.push('part')
  if (reach.familyId !== null && reach.familyId !== subject.familyId) mismatches.push('family')
  if (reach.supplierId !== null && reach.supplierId !== subject.supplierId) mismatches.push('supplier')
  if (reach.customerId !== null && reach.customerId !== subject.customerId) mismatches.push('customer')
  if (reach.supplierGroup !== null && reach.supplierGroup !== subject.supplierGroup) mismatches.push('group')
  if (reach.contract !== null && reach.contract !== subject.contract) mismatches.push('contract')
  return mismatches
}

/**
 * What becomes of every control point on an occasion. Those that ask the same plan ask the same question: of them the most specific
 * opens and the wider ones give way. Different plans all open. The order in which the points are given decides nothing.
 * Shape: Reach[], Subject → one Applied for each, in their order.
 */
export function considerPoints<T extends Reach>(points: readonly T[], subject: Subject): Applied<T>[] {
  const seen = points.map((point) => ({ point, rank: rankOf(point), mismatches: mismatchesOf(point, subject) }))
  const narrowest = new Map<string, number>()
  for (const { point, rank, mismatches } of seen)
    if (mismatches.length === 0) narrowest.set(point.planId, Math.min(rank, narrowest.get(point.planId) ?? rank))
  return seen.map(({ point, rank, mismatches }) => {
    const level = levelOf(point)
    if (mismatches.length > 0) return { point, level, opens: false, supersededBy: null, mismatches }
    const least = narrowest.get(point.planId) as number
    return { point, level, opens: rank === least, supersededBy: rank === least ? null : (precedence[least] as Level), mismatches }
  })
}

/** The same for the points that reach the subject; the others are left out. */
export function whichApply<T extends Reach>(points: readonly T[], subject: Subject): Applied<T>[] {
  return considerPoints(points, subject).filter(({ mismatches }) => mismatches.length === 0)
}
