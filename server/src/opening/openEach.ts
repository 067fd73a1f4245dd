import type { Work } from '../kernel/work/unitOfWork'
import { evaluateEach, type ArrivalContext, type ConsideredPoint } from './evaluatePoints'
import { holdLot } from '../stock/holds/holds'
import { unitsOf, type Here } from '../stock/units/units'
import { openTogether, type Hold, type Opening } from './openTogether'

/**
 * Opens what is asked of pieces of a lot that are here: of them as one, and of each container or serial number among them.
 * @param where which of them came, where that is not all that is released
 */
export async function openEach(
  work: Work,
  arrival: Omit<ArrivalContext, 'subject'>,
  lotId: string,
  openingOf: (considered: ConsideredPoint) => Opening,
  { hold = holdLot, where = {} }: { hold?: Hold; where?: Here } = {},
): Promise<void> {
  const units = await unitsOf(work.manager, lotId, where)
  for (const group of await evaluateEach(work.manager, arrival, units, work.newId)) {
    const entries = group.map(({ unit, ...entry }) => ({
      ...entry,
      opening: { ...openingOf(entry.considered), containerId: unit?.containerId ?? null },
    }))
    await openTogether(work, entries, hold)
  }
}
