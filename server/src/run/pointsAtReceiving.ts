import { receivingOf } from './repository'
import { whichApply } from '@nemawashi/core'
import { ControlPointEntity, type ControlPointRow } from '../attach/entities'
import type { PartRow } from '../define/entities'
import type { Work } from '../kernel/unitOfWork'

/** Control points that open for this part from this supplier at its receiving operations. */
export async function pointsAtReceiving(work: Work, part: PartRow, supplierId: string): Promise<ControlPointRow[]> {
  const operations = await receivingOf(work.manager, part.id)
  const open: ControlPointRow[] = []
  for (const operationId of operations) {
    const points = await work.manager.findBy(ControlPointEntity, { operationId, state: 'active' })
    open.push(...whichApply(points, { partId: part.id, familyId: part.familyId, supplierId }).flatMap((entry) => (entry.opens ? [entry.point] : [])))
  }
  return open
}
