import { quantityText } from './stockUnits'

/** What of a delivery can be put right after it was entered. */
export const correctedFields = ['quantity', 'supplierLot', 'supplier', 'orderNumber'] as const
export type CorrectedField = (typeof correctedFields)[number]

const words: Readonly<Record<CorrectedField, string>> = {
  quantity: 'quantity',
  supplierLot: "supplier's lot",
  supplier: 'supplier',
  orderNumber: 'order number',
}

/** What was put right, in words: `quantity 95 instead of 100`. A quantity is kept in whole steps of the unit of the part. */
export function describeCorrection(
  { field, before, after }: { readonly field: CorrectedField; readonly before: string; readonly after: string },
  unit = 'piece',
): string {
  const format = (value: string) => (field === 'quantity' ? quantityText(Number(value), unit) : value)
  return `${words[field]} ${format(after)} instead of ${before === '' ? 'nothing' : format(before)}`
}
