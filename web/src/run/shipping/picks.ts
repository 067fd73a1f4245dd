import { quantityText } from '@nemawashi/core'
import { typedQuantity } from '../../format/format'
import type { Dispatch, Pickable } from '@nemawashi/contract'

/** What is to be taken from where, while it is chosen. */
export interface Pick {
  readonly key: number
  id: string | null
  from: Pickable | null
  quantity: string
}

/** The most that one dispatch is picked from. */
export const maxPicks = 100

let nextKey = 0
export const blankPick = (): Pick => ({ key: nextKey++, id: null, from: null, quantity: '' })

export const isChosen = ({ from }: Pick): boolean => from !== null

/** Picks as the server takes them. */
export const pickBodies = (picks: readonly Pick[]) =>
  picks.map(({ from, quantity }) => ({
    lotId: from?.lotId ?? '',
    containerId: from?.containerId ?? null,
    placeId: from?.placeId ?? '',
    quantity: typedQuantity(quantity, from?.unit ?? 'piece'),
  }))

/** Where what is planned can be taken from, the oldest first; less than is planned where no more is free. */
export function suggestPicks(lines: Dispatch['lines'], free: readonly Pickable[]): Pick[] {
  const left = new Map<string, number>()
  for (const { partCode, quantity, picked } of lines) left.set(partCode, (left.get(partCode) ?? 0) + quantity - picked)
  const oldest = [...free].sort((a, b) => (a.since < b.since ? -1 : a.since > b.since ? 1 : a.code < b.code ? -1 : 1))
  return oldest.flatMap((from) => {
    const open = left.get(from.partCode) ?? 0
    const quantity = Math.min(open, from.quantity)
    if (quantity <= 0) return []
    left.set(from.partCode, open - quantity)
    return [{ ...blankPick(), id: from.id, from, quantity: quantityText(quantity, from.unit) }]
  })
}
