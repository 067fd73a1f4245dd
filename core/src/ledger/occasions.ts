/** What can happen to lots on their way. */
export const occasionKinds = [
  'deliveryAnnounced',
  'deliveryRegistered',
  'delivery',
  'orderReleased',
  'stepStarted',
  'stepReported',
  'stepConfirmed',
  'transfer',
  'dispatch',
  'return',
] as const
export type OccasionKind = (typeof occasionKinds)[number]

/**
 * Whether an event is about a part of a lot, whose pieces it sets apart from the rest: what is looked at, held and decided there is these pieces
 * and no others. A delivery and a step are about all of their lot.
 */
export const setsApart = (kind: OccasionKind) => kind === 'dispatch' || kind === 'return' || kind === 'transfer'

/** Whether a delivery is only told of: nothing of it is in stock. */
export const isBeforeReceipt = (kind: OccasionKind) => kind === 'deliveryAnnounced' || kind === 'deliveryRegistered'

/** Where a lot came from, or what load is looked at: what happened, its number, who it came from (of a dispatch, who it goes to), and what others call it. */
export interface Origin {
  readonly originKind: OccasionKind
  readonly originCode: string
  readonly supplierName: string
  readonly supplierLot: string
  readonly orderNumber: string
}

/** In words: `D-000004 from Ridge Metals, their lot 7-12, order 4711`, `made with W-000002, order 88`, `S-000003 to Kite, order 5`. */
export function describeOrigin({ originKind, originCode, supplierName, supplierLot, orderNumber }: Origin): string {
  const order = orderNumber === '' ? '' : `, order ${orderNumber}`
  if (originKind === 'dispatch') return `${originCode} to ${supplierName}${order}`
  if (isBeforeReceipt(originKind)) return `${originCode} from ${supplierName}${order}, not received yet`
  if (originKind !== 'delivery') return `made with ${originCode}${order}`
  const lot = supplierLot === '' ? '' : `, their lot ${supplierLot}`
  return `${originCode} from ${supplierName}${lot}${order}`
}

/** What an inspection looks at. */
export const subjectKinds = ['load', 'line', 'lot', 'container', 'serial', 'run'] as const
export type SubjectKind = (typeof subjectKinds)[number]

/**
 * What a control point looks at: each lot, once the load that they come on (vehicle, seal, packing), or each container or serial number of
 * a lot by itself.
 */
export const pointSubjects = ['lot', 'load', 'container', 'serial'] as const satisfies readonly SubjectKind[]
export type PointSubject = (typeof pointSubjects)[number]

/** What pieces of a lot are told apart by. A lot that is not told apart so is looked at whole: nothing passes for want of a label. */
export const unitKinds = ['container', 'serial'] as const satisfies readonly PointSubject[]
export type UnitKind = (typeof unitKinds)[number]
export const isUnitKind = (subject: SubjectKind): subject is UnitKind => (unitKinds as readonly SubjectKind[]).includes(subject)

export const subjectWords: Readonly<Record<PointSubject, string>> = {
  lot: 'each lot',
  load: 'the load, once',
  container: 'each container of a lot',
  serial: 'each piece, by its serial number',
}

/** What a gate holds: all that came, or no more than the sample. */
export const holdExtents = ['all', 'sample'] as const
export type HoldExtent = (typeof holdExtents)[number]
