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
export const precedence: readonly Level[] = goods.flatMap((of) => whose.map((from): Level => `${of}${from}`))

/** A condition of a reach that a subject does not meet. */
export const reachMisses = ['part', 'family', 'supplier', 'customer', 'group', 'contract'] as const
export type Miss = (typeof reachMisses)[number]

export interface Applied<T extends Reach> {
  readonly point: T
  readonly level: Level
  /** It reaches the subject, and none that asks the same is narrower. */
  readonly opens: boolean
  /** The narrower level that goes before it. */
  readonly givesWayTo: Level | null
  /** Conditions that are not met; empty where it reaches the subject. */
  readonly misses: readonly Miss[]
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

function missesOf(reach: Reach, subject: Subject): Miss[] {
  const misses: Miss[] = []
  if (reach.partId !== null && reach.partId !== subject.partId) misses.push('part')
  if (reach.familyId !== null && reach.familyId !== subject.familyId) misses.push('family')
  if (reach.supplierId !== null && reach.supplierId !== subject.supplierId) misses.push('supplier')
  if (reach.customerId !== null && reach.customerId !== subject.customerId) misses.push('customer')
  if (reach.supplierGroup !== null && reach.supplierGroup !== subject.supplierGroup) misses.push('group')
  if (reach.contract !== null && reach.contract !== subject.contract) misses.push('contract')
  return misses
}

/**
 * What becomes of every control point on an occasion. Those that ask the same plan ask the same question: of them the most specific
 * opens and the wider ones give way. Different plans all open. The order in which the points are given decides nothing.
 * Shape: Reach[], Subject → one Applied for each, in their order.
 */
export function considerPoints<T extends Reach>(points: readonly T[], subject: Subject): Applied<T>[] {
  const seen = points.map((point) => ({ point, rank: rankOf(point), misses: missesOf(point, subject) }))
  const narrowest = new Map<string, number>()
  for (const { point, rank, misses } of seen)
    if (misses.length === 0) narrowest.set(point.planId, Math.min(rank, narrowest.get(point.planId) ?? rank))
  return seen.map(({ point, rank, misses }) => {
    const level = levelOf(point)
    if (misses.length > 0) return { point, level, opens: false, givesWayTo: null, misses }
    const least = narrowest.get(point.planId) as number
    return { point, level, opens: rank === least, givesWayTo: rank === least ? null : (precedence[least] as Level), misses }
  })
}

/** The same for the points that reach the subject; the others are left out. */
export function whichApply<T extends Reach>(points: readonly T[], subject: Subject): Applied<T>[] {
  return considerPoints(points, subject).filter(({ misses }) => misses.length === 0)
}
