import { isOnTheWay, leftOpenOf, pointById, releasedRevision, samePoint, pointList, pointFilters, routingOf, pointsOn } from './repository'
import { checkFrequencyRule, considerPoints, isMomentOf, momentWords, sayApplied, type Applied } from '@nemawashi/core'
import { endpoints, type ControlPoint, type Flow, type FlowPoint } from '@nemawashi/contract'
import { FamilyEntity, OperationEntity, PartEntity, PartnerEntity, PlaceEntity, PlanEntity } from '../define/entities'
import { loadPart } from '../define/parts'
import { loadLines } from '../define/planLines'
import type { Reader } from '../kernel/database'
import type { Routes } from '../kernel/routes'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, requireReference, saveNext } from '../kernel/versioned'
import { ControlPointEntity, OpenStopEntity, type ControlPointRow, type OpenStopRow } from './entities'

const { attach } = endpoints
const words = 'control point'

async function loadPoint(reader: Reader, id: string): Promise<ControlPoint> {
  const point = await pointById(reader, id)
  if (!point) throw new ServerError('not_found', `There is no control point with the id ${id}.`)
  return point
}

type PointInput = Omit<ControlPointRow, 'id' | 'code' | 'state' | 'version'>

async function check(work: Work, input: PointInput): Promise<void> {
  if (input.partId !== null && input.familyId !== null) {
    throw new ServerError('input_invalid', 'A control point is for one part, for one family, or for every part: give one of the two, or none.', {
      field: 'partId',
    })
  }
  checkFrequencyRule(input.frequency)
  if (input.subject === 'load' && input.holds === 'sample')
    throw new ServerError('input_invalid', 'A load has no sample that could be held: a gate on it holds all that it brought.', { field: 'holds' })
  await requireReference(work, PartEntity, 'part', input.partId, 'partId')
  await requireReference(work, FamilyEntity, 'family', input.familyId, 'familyId')
  await requireReference(work, PartnerEntity, 'supplier', input.supplierId, 'supplierId')
  await requireReference(work, PartnerEntity, 'customer', input.customerId, 'customerId')
  await requireReference(work, PlaceEntity, 'place', input.holdPlaceId, 'holdPlaceId')
  const operation = await work.manager.findOneBy(OperationEntity, { id: input.operationId })
  if (!operation) throw new ServerError('reference_unknown', `The operation ${input.operationId} does not exist.`, { field: 'operationId' })
  if (!isMomentOf(operation.kind, input.moment)) {
    throw new ServerError('moment_not_there', `${operation.name} has no moment "${momentWords[input.moment]}".`, {
      field: 'moment',
      kind: operation.kind,
      received: input.moment,
    })
  }
  if (input.subject === 'load' && operation.kind !== 'receiving')
    throw new ServerError('moment_not_there', `${operation.name} sees no load: loads come at receiving.`, { field: 'subject', kind: operation.kind })
  if (!(await isOnTheWay(work.manager, input))) {
    throw new ServerError('not_on_the_way', `Nothing that this control point is for passes ${operation.name}: it would never open.`, {
      field: 'operationId',
      operation: operation.name,
    })
  }
  const plan = await work.manager.findOneBy(PlanEntity, { id: input.planId })
  if (!plan) throw new ServerError('reference_unknown', `The plan ${input.planId} does not exist.`, { field: 'planId' })
  const revision = await releasedRevision(work.manager, input.planId)
  if (revision?.state !== 'released') {
    throw new ServerError('nothing_released', `The plan ${plan.code} has no released revision (it is ${revision?.state ?? 'empty'}).`, {
      field: 'planId',
      plan: plan.code,
    })
  }
}

async function requireUnattached(work: Work, input: PointInput, exceptId: string | null): Promise<void> {
  const same = await samePoint(work.manager, input)
  if (same && same.id !== exceptId)
    throw new ServerError('already_exists', `${same.code} hangs this plan there already, for the same part, partner and moment.`, { code: same.code })
}

/** A partner is a supplier where things come from one, and a customer where they go to one. */
const asPartner = (kind: Flow['stops'][number]['kind'], partnerId: string | null) =>
  kind === 'receiving' ? { supplierId: partnerId, customerId: null } : { supplierId: null, customerId: partnerId }

/** Why it applies or does not, with the partner's name where it is for another one. */
function whyOf(entry: Applied<ControlPoint>): string {
  const [miss] = entry.misses
  const only = miss === 'supplier' ? entry.point.supplierName : miss === 'customer' ? entry.point.customerName : null
  return only === null ? sayApplied(entry) : `only for ${only}`
}

export function attachRoutes(routes: Routes): void {
  routes.list(attach.listControlPoints, pointList, pointFilters)

  routes.read(attach.getFlow, async (reader, { params, query }): Promise<Flow> => {
    const part = await loadPart(reader, params.id)
    const operations = await routingOf(reader, part.id)
    const points = await pointsOn(reader, part.id, part.familyId)
    const leftOpen = await leftOpenOf(reader, part.id)
    const stops: Flow['stops'] = []
    for (const { id, ...operation } of operations) {
      const here = points.filter((point) => point.operationId === id)
      const applied = new Map(
        considerPoints(here, { partId: part.id, familyId: part.familyId, ...asPartner(operation.kind, query.partnerId ?? null) }).map((entry) => [
          entry.point.id,
          entry,
        ]),
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
          opens: entry?.opens ?? false,
          why: entry === undefined ? '' : whyOf(entry),
        })
      }
      stops.push({ operationId: id, ...operation, points: full, leftOpen: leftOpen.get(id) ?? null })
    }
    return { stops }
  })

  routes.change(attach.leaveOpen, async (work, { params, body }) => {
    const part = await loadPart(work.manager, params.id)
    const { operationId, reason } = body
    const on = (await routingOf(work.manager, part.id)).find(({ id }) => id === operationId)
    if (!on) throw new ServerError('not_on_the_way', `${part.code} does not pass this operation.`, { field: 'operationId', received: operationId })
    const before = await work.manager.findOneBy(OpenStopEntity, { partId: part.id, operationId })
    if (reason === null && !before) work.nothingChanged()
    if (before) await work.manager.delete(OpenStopEntity, { id: before.id })
    if (reason !== null) {
      const row: OpenStopRow = { id: work.newId(), partId: part.id, operationId, reason, at: work.now, personId: work.personId ?? '' }
      await work.manager.insert(OpenStopEntity, { ...row })
    }
    if (reason !== null || before)
      work.audit({
        action: reason === null ? 'no longer left open' : 'left open',
        subject: 'part',
        subjectId: part.id,
        before: before ? { operation: on.code, reason: before.reason } : null,
        after: { operation: on.code, reason },
        ...(reason === null ? {} : { why: reason }),
      })
    return {}
  })

  routes.change(attach.createControlPoint, async (work, { body }) => {
    await check(work, body)
    await requireUnattached(work, body, null)
    const row: ControlPointRow = { ...body, id: work.newId(), code: await work.nextCode('CP'), state: 'active', version: 1 }
    await work.manager.insert(ControlPointEntity, { ...row })
    work.audit({ action: 'attached', subject: words, subjectId: row.id, after: row })
    return loadPoint(work.manager, row.id)
  })
  routes.change(attach.updateControlPoint, async (work, { params, body }) => {
    const { version, ...input } = body
    const current = await loadAt(work, ControlPointEntity, words, params.id, version)
    if (current.state === 'retired') throw new ServerError('already_retired', `${current.code} is retired.`)
    await check(work, input)
    await requireUnattached(work, input, params.id)
    await saveNext(work, ControlPointEntity, words, 'changed', current, input)
    return loadPoint(work.manager, params.id)
  })
  routes.change(attach.retireControlPoint, async (work, { params, body }) => {
    const current = await loadAt(work, ControlPointEntity, words, params.id, body.version)
    if (current.state === 'retired') throw new ServerError('already_retired', `${current.code} is retired already.`)
    await saveNext(work, ControlPointEntity, words, 'retired', current, { state: 'retired' })
    return loadPoint(work.manager, params.id)
  })
}
