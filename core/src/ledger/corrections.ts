/** What of a delivery can be put right after it was entered. */
export const correctedFields = ['quantity', 'supplierLot', 'supplier', 'orderNumber'] as const
export type CorrectedField = (typeof correctedFields)[number]

const words: Readonly<Record<CorrectedField, string>> = {
  quantity: 'quantity',
  supplierLot: "supplier's lot",
  supplier: 'supplier',
  orderNumber: 'order number',
}

/** What was put right, in words: `quantity 95 instead of 100`. */
export function sayCorrection({ field, before, after }: { readonly field: CorrectedField; readonly before: string; readonly after: string }): string {
  return `${words[field]} ${after} instead of ${before === '' ? 'nothing' : before}`
}
