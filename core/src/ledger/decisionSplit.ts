import { CoreError } from '../errors'
import { quantityText, stockUnitOf } from './stockUnits'
import type { Disposition } from './standings'

const unitSteps = (unit: string) => (stockUnitOf(unit).places === 0 ? '' : ` of steps of ${unit}`)

export interface SplitRow {
  readonly containerId: string | null
  readonly quantity: number
  readonly disposition: Disposition
}

export interface HeldQuantity {
  readonly containerId: string | null
  readonly quantity: number
}

/**
 * Refuses a decision whose quantities are not exactly what is held, container by container.
 * @param unit of the part, for the words
 * @throws {CoreError} `quantity_invalid` (gives the row), `split_does_not_add_up` (gives held, decided and the container).
 */
export function checkSplit(held: readonly HeldQuantity[], rows: readonly SplitRow[], unit = 'piece'): void {
  const format = (quantity: number) => quantityText(quantity, unit)
  rows.forEach((row, index) => {
    if (!Number.isSafeInteger(row.quantity) || row.quantity < 1) {
      throw new CoreError(
        'quantity_invalid',
        `Row ${index + 1} decides on ${row.quantity}. A quantity is a whole number${unitSteps(unit)}, 1 or more.`,
        {
          received: row.quantity,
          row: index,
        },
      )
    }
  })
  const ids = new Set([...held, ...rows].map((entry) => entry.containerId))
  const sum = (entries: readonly HeldQuantity[], id: string | null) =>
    entries.reduce((total, entry) => total + (entry.containerId === id ? entry.quantity : 0), 0)
  for (const id of ids) {
    const isHeld = sum(held, id)
    const decided = sum(rows, id)
    if (isHeld !== decided) {
      const gap = decided < isHeld ? `${format(isHeld - decided)} are left without a decision` : `that is ${format(decided - isHeld)} too many`
      throw new CoreError('split_does_not_add_up', `${format(isHeld)} are on hold, ${format(decided)} were decided on: ${gap}.`, {
        containerId: id,
        held: isHeld,
        decided,
      })
    }
  }
}
