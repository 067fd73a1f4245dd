import { checkLotSize, momentsOf, sampleFor, stepBlocked, type PastArrival, type SamplingRule } from '@nemawashi/core'
import type { Considered, Operation, endpoints, Rehearsal } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { z } from 'zod'
import { releasedRevision } from '../attach/repository'
import { OperationEntity, PartEntity, PartnerEntity, PlaceEntity, PlanEntity } from '../define/entities'
import { loadLines } from '../define/planLines'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { considerAt, type ConsideredPoint } from '../record/consider'
import { arrivalAt } from '../record/considerRepository'

type Query = z.output<(typeof endpoints.attach.rehearse)['query']>

async function linesOf(reader: Reader, planId: string, quantity: number): Promise<Considered['lines']> {
  const revision = await releasedRevision(reader, planId)
  if (revision?.state !== 'released') return []
  return (await loadLines(reader, revision.id)).map(({ name, sampling }) => {
    const { sampleSize, accept, reject, reasoning } = sampleFor(sampling as SamplingRule, quantity)
    return { name, sampleSize, accept, reject, reasoning }
  })
}

async function shown(reader: Reader, operation: Operation, { quantity, at }: { quantity: number; at: string }, considered: ConsideredPoint) {
  const { point, level, givesWayTo, misses, due } = considered
  const plan = await reader.findOneBy(PlanEntity, { id: point.planId })
  const place = point.holdPlaceId === null ? null : await reader.findOneBy(PlaceEntity, { id: point.holdPlaceId })
  const opens = due?.isDue ?? false
  return {
    pointId: point.id,
    code: point.code,
    moment: point.moment,
    planName: plan?.name ?? '',
    level,
    givesWayTo,
    misses: [...misses],
    due,
    opens,
    isGate: point.isGate,
    blocks: point.isGate ? stepBlocked(operation.kind, point.moment) : null,
    holdPlaceName: place?.name ?? null,
    responsible: point.responsible,
    dueAt: opens && point.dueHours !== null ? new Date(Date.parse(at) + point.dueHours * 3_600_000).toISOString() : null,
    lines: opens ? await linesOf(reader, point.planId, quantity) : [],
  } satisfies Considered
}

/**
 * Plays lots that come to an operation one after another, without writing: what would open for each, by the same rules as in earnest. Each
 * that opens is taken to be accepted, so that the next is judged by it.
 * @throws {ServerError} `not_found`, `reference_unknown`; {CoreError} `lot_size_invalid` and as `sampleFor`.
 */
export async function rehearse(reader: Reader, query: Query, now: Date): Promise<Rehearsal> {
  const { quantity, lots, partnerId = null } = query
  checkLotSize(quantity)
  const operation = await reader.findOneBy(OperationEntity, { id: query.operationId })
  const part = await reader.findOneBy(PartEntity, { id: query.partId })
  if (!operation || !part) throw new ServerError('not_found', 'There is no such operation or part.', { field: operation ? 'partId' : 'operationId' })
  if (partnerId !== null && !(await reader.findOneBy(PartnerEntity, { id: partnerId })))
    throw new ServerError('reference_unknown', `The partner ${partnerId} does not exist.`, { field: 'partnerId' })
  const at = query.at ?? now.toISOString()
  const isBought = operation.kind === 'receiving'
  const before = new Map<string, PastArrival[]>()
  const played: Rehearsal['lots'] = []
  for (let number = 1; number <= lots; number++) {
    const considered: Considered[] = []
    for (const moment of momentsOf[operation.kind]) {
      const coming = {
        operationId: operation.id,
        moment,
        part,
        supplierId: isBought ? partnerId : null,
        customerId: isBought ? null : partnerId,
        quantity,
        at,
      }
      for (const entry of await considerAt(reader, coming, v7, before)) {
        considered.push(await shown(reader, operation, coming, entry))
        if (entry.due === null) continue
        const { isDue } = entry.due
        const arrival = arrivalAt(entry.drawId, at, quantity)
        before.set(entry.point.id, [...(before.get(entry.point.id) ?? []), { ...arrival, isInspected: isDue, isAccepted: isDue ? true : null }])
      }
    }
    played.push({ number, considered })
  }
  return { operationName: operation.name, lots: played }
}
