import { dispositionWords, frees, type Disposition } from '@nemawashi/core'
import { amount } from '../format/format'

interface Row {
  readonly quantity: number
  readonly disposition: Disposition
}

/** The rows of a decision in one line: `8 pieces: quarantine, 2 pieces: scrap`. */
export function summaryWords(rows: readonly Row[], unit: string): string {
  const sums = new Map<Disposition, number>()
  for (const { disposition, quantity } of rows) sums.set(disposition, (sums.get(disposition) ?? 0) + (quantity || 0))
  if (sums.size === 0) return 'The finding is noted; nothing moves.'
  return [...sums].map(([disposition, quantity]) => `${amount(quantity, unit)}: ${dispositionWords[disposition]}`).join(', ')
}

/** What happens once it is signed. */
export function thenWords(rows: readonly Row[], unit: string, waitsFor: readonly string[]): string {
  if (rows.length === 0) return 'Then the finding is noted; nothing moves.'
  const sum = (wanted: (disposition: Disposition) => boolean) =>
    rows.filter(({ disposition }) => wanted(disposition)).reduce((total, { quantity }) => total + (quantity || 0), 0)
  const free = sum(frees)
  const parts = [
    ...(free > 0 && waitsFor.length > 0 ? [`${amount(free, unit)} stay on hold until ${waitsFor.join(', ')} is decided`] : []),
    ...(free > 0 && waitsFor.length === 0 ? [`${amount(free, unit)} may be put away and used`] : []),
    ...(sum((disposition) => disposition === 'quarantine') > 0 ? ['quarantined pieces go to the quarantine and can be decided on again'] : []),
    ...(sum((disposition) => disposition === 'scrap' || disposition === 'returnToSupplier') > 0
      ? ['what is scrapped or returned leaves the stock']
      : []),
  ]
  return `Then ${parts.join('; ')}. The seal stands in the passport and cannot be taken back; a later decision can follow it.`
}
