import { quantityText } from '@nemawashi/core'
import { typedQuantity } from '../../format/format'
import type { Part } from '@nemawashi/contract'

/** A line of goods as it is typed. */
export interface GoodsLine {
  readonly key: number
  partId: string | null
  /** The part in words, where it was filled in and not chosen. */
  partWords: string
  unit: string
  /** Whether each piece of the part has a serial number. */
  isSerial: boolean
  /** How much of the part is in a usual container; null where there is none. */
  packQuantity: number | null
  supplierLot: string
  quantity: string
  /** How much is in each container, as numbers with blanks between them. */
  containers: string
  /** Serial numbers, as they are typed. */
  serials: string
  /** The day it is due; empty for none. */
  dueOn: string
}
let nextKey = 0
export const goodsLine = (fields: Partial<Omit<GoodsLine, 'key'>> = {}): GoodsLine => ({
  partId: null,
  partWords: '',
  unit: '',
  isSerial: false,
  packQuantity: null,
  supplierLot: '',
  quantity: '',
  containers: '',
  serials: '',
  dueOn: '',
  ...fields,
  key: nextKey++,
})

/** A line as it is filled in from what is known of it already. */
export const knownLine = (
  part: {
    readonly partId: string
    readonly partCode: string
    readonly partName: string
    readonly unit: string
    readonly tracking: Part['tracking']
    readonly packQuantity: number | null
  },
  quantity: number,
  supplierLot = '',
): GoodsLine =>
  goodsLine({
    partId: part.partId,
    partWords: `${part.partCode} · ${part.partName}`,
    unit: part.unit,
    isSerial: part.tracking === 'serial',
    packQuantity: part.packQuantity,
    quantity: quantityText(quantity, part.unit),
    supplierLot,
  })

/** In whole steps of the unit. */
export const quantityOf = ({ quantity, unit }: Pick<GoodsLine, 'quantity' | 'unit'>) => typedQuantity(quantity, unit)
export const isBlankLine = ({ partId, supplierLot, quantity }: GoodsLine) => !partId && !supplierLot && !quantity

/**
 * What a purchase order says of the lines of a delivery, line by line: pieces still open before it, and by how many it goes beyond them. The
 * lines of one part share what is open of it, in their order; null where the order does not know the part.
 */
export function againstOrder(
  lines: readonly { readonly partId: string | null; readonly quantity: number }[],
  order: { readonly lines: readonly { readonly partId: string; readonly open: number }[] } | null,
): ({ readonly open: number; readonly beyond: number } | null)[] {
  const left = new Map<string, number>()
  for (const { partId, open } of order?.lines ?? []) left.set(partId, (left.get(partId) ?? 0) + open)
  return lines.map(({ partId, quantity }) => {
    const open = partId === null ? undefined : left.get(partId)
    if (partId === null || open === undefined) return null
    const taken = Number.isFinite(quantity) ? quantity : 0
    left.set(partId, Math.max(0, open - taken))
    return { open, beyond: Math.max(0, taken - open) }
  })
}
