import { quantityText } from '@nemawashi/core'
import { typedQuantity } from '../format/format'
import type { Disposition } from '@nemawashi/core'

/** One row of a decision while it is being made. Quantities are text until they are sent: what is typed is never lost to a number. */
export interface SplitDraft {
  readonly key: number
  readonly containerId: string | null
  readonly containerLabel: string | null
  quantity: string
  disposition: Disposition
  reason: string
}

export interface Held {
  readonly containerId: string | null
  readonly containerLabel: string | null
  readonly quantity: number
}

/** How far a container's rows are from what is held in it: 0 adds up, positive is left over, negative too many, NaN unreadable. */
export function gapOf(held: Held, rows: readonly SplitDraft[], unit: string): number {
  const stepsOf = (typed: string) => {
    const steps = typedQuantity(typed, unit)
    return Number.isSafeInteger(steps) ? steps : Number.NaN
  }
  return held.quantity - rows.filter((row) => row.containerId === held.containerId).reduce((sum, row) => sum + stepsOf(row.quantity), 0)
}

/**
 * The rows that a decision begins with: all of it released where the finding is acceptable, but what is set aside of the fullest container is
 * to be quarantined; all of it quarantined where it is not.
 */
export function firstRows(held: readonly Held[], isAcceptable: boolean, setAside: number, unit: string): Omit<SplitDraft, 'key'>[] {
  const row = ({ containerId, containerLabel }: Held, quantity: number, disposition: Disposition) => ({
    containerId,
    containerLabel,
    quantity: quantityText(quantity, unit),
    disposition,
    reason: '',
  })
  if (!isAcceptable) return held.map((share) => row(share, share.quantity, 'quarantine'))
  const fullest = held.reduce<Held | null>((most, share) => (most !== null && most.quantity >= share.quantity ? most : share), null)
  return held.flatMap((share) => {
    const apart = share === fullest ? Math.min(setAside, share.quantity) : 0
    return [
      ...(share.quantity > apart ? [row(share, share.quantity - apart, 'release')] : []),
      ...(apart > 0 ? [{ ...row(share, apart, 'quarantine'), reason: 'found nonconforming' }] : []),
    ]
  })
}
