import { considerPoints, gapsOf, isInForce, describeApplied, describeValidity, type Applied } from '@nemawashi/core'
import { endpoints, type ControlPoint, type Flow, type FlowPoint, type Partner } from '@nemawashi/contract'
import { loadPart } from '../define/masters/parts'
import { loadLines } from '../define/plans/planLines'
import { dayOf } from '../kernel/database/plantTime'
import type { Kernel } from '../kernel/kernel'
import type { Routes } from '../kernel/routes'
import { leaveOpen } from './openStops'
import { pastOf } from './pointPast'
import { changePoint, hangPoint, replacePoint, retirePoint } from './points'
import { familyOf, leftOpenOf, pointFilters, pointList, pointsBefore, pointsOn, releasedRevision, routingOf } from './repository'
import { partnerRows } from '../define/masters/rows'

const { attach } = endpoints
/** A partner is a supplier where things come from one, and a customer where they go to one. Under a contract comes what an order says. */
function asPartner(kind: Flow['stops'][number]['kind'], partner: Partner | null) {
  const none = { supplierId: null, customerId: null, supplierGroup: null, contract: null }
  if (kind !== 'receiving') return { ...none, customerId: partner?.id ?? null }
  return { ...none, supplierId: partner?.id ?? null, supplierGroup: partner?.supplierGroup || null }
}

/** Why it applies or does not, with the partner's name where it is for another one. */
function whyOf(entry: Applied<ControlPoint>): string {
  const [mismatch] = entry.mismatches
  const { supplierName, customerName, supplierGroup, contract } = entry.point
  if (mismatch === 'group') return `only for suppliers of the group ${supplierGroup}`
  if (mismatch === 'contract') return `only under contract ${contract}`
  const only = mismatch === 'supplier' ? supplierName : mismatch === 'customer' ? customerName : null
  return only === null ? describeApplied(entry) : `only for ${only}`
}

/** Days on which nobody asks a plan that is asked before and after them, for the same part and partner. */
function gapsAt(points: readonly ControlPoint[]): Flow['stops'][number]['gaps'] {
  const groups = new Map<string, ControlPoint[]>()
  for (const point of points) {
    const { planId, moment, subject, partId, familyId, supplierId, customerId, supplierGroup, contract } = point
    const key = JSON.stringify([planId, moment, subject, partId, familyId, supplierId, customerId, supplierGroup, contract])
    groups.set(key, [...(groups.get(key) ?? []), point])
  }
  return [...groups.values()].flatMap((group) => gapsOf(group).map((gap) => ({ planCode: group[0]?.planCode ?? '', ...gap })))
}

export function attachRoutes(routes: Routes, { clock }: Kernel): void {
  routes.list(attach.listControlPoints, pointList, pointFilters)

  routes.read(attach.getFlow, async (reader, { params, query }): Promise<Flow> => {
    const part = await loadPart(reader, params.id)
    const partner = query.partnerId === undefined ? null : await partnerRows.find(reader, { id: query.partnerId })
    const operations = await routingOf(reader, part.id)
    const today = dayOf(reader, clock.now())
    const all = await pointsOn(reader, part, today)
    const points = query.lens === 'family' ? all.filter(({ partId }) => partId === null) : all
    const leftOpen = await leftOpenOf(reader, part.id)
    const stops: Flow['stops'] = []
    for (const { id, ...operation } of operations) {
      const here = points.filter((point) => point.operationId === id)
      const applied = new Map(
        considerPoints(
          here.filter((point) => isInForce(point, today)),
          { partId: part.id, familyId: part.familyId, ...asPartner(operation.kind, partner) },
        ).map((entry) => [entry.point.id, entry]),
      )
      const full: FlowPoint[] = []
      for (const point of here) {
        const revision = await releasedRevision(reader, point.planId)
        const entry = applied.get(point.id)
        full.push({
          ...point,
          planRevision: revision?.state === 'released' ? revision.revision : null,
          planState: revision?.state ?? 'draft',
          lines: revision ? await loadLines(reader, revision.id) : [],
          isInForce: entry !== undefined,
          opens: entry?.opens ?? false,
          why: entry === undefined ? `in force ${describeValidity(point)}` : whyOf(entry),
        })
      }
      stops.push({ operationId: id, ...operation, points: full, gaps: gapsAt(here), leftOpen: leftOpen.get(id) ?? null })
    }
    return { family: await familyOf(reader, part.familyId), stops, before: await pointsBefore(reader, part, today) }
  })

  routes.change(attach.leaveOpen, (work, { params, body }) => leaveOpen(work, params.id, body.operationId, body.reason))

  routes.change(attach.createControlPoint, (work, { body }) => hangPoint(work, body))
  routes.change(attach.updateControlPoint, (work, { params, body: { version, ...input } }) => changePoint(work, params.id, version, input))
  routes.change(attach.replaceControlPoint, (work, { params, body: { version, ...input } }) => replacePoint(work, params.id, version, input))
  routes.change(attach.retireControlPoint, (work, { params, body }) => retirePoint(work, params.id, body.version))
  routes.read(attach.getControlPointPast, async (reader, { params }) => ({ changes: await pastOf(reader, params.id) }))
}
