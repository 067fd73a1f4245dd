import { partList } from './repository'
import { endpoints, type Part } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Routes } from '../../kernel/routes'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { loadAt, requireFreeCode, requireReference, saveNext } from '../../kernel/work/versioned'
import { OperationEntity, PartEntity, RoutingStepEntity } from './entities'
import { requireNothingRests } from './restsRepository'
import { familyRows, placeRows } from './rows'

const { parts } = endpoints.define

type PartInput = Omit<Part, 'id' | 'version'>

export async function loadPart(reader: Reader, id: string): Promise<Part> {
  const row = await reader.findOneBy(PartEntity, { id })
  if (!row) throw new ServerError('not_found', `There is no part with the id ${id}.`)
  const steps = await reader.find(RoutingStepEntity, { where: { partId: id }, order: { position: 'ASC' } })
  return { ...row, operationIds: steps.map((step) => step.operationId) }
}

/** A routing runs from receiving to shipping, each operation once. */
async function checkRouting(work: Work, operationIds: readonly string[]): Promise<void> {
  const kinds: string[] = []
  for (const id of operationIds) {
    const operation = await work.manager.findOneBy(OperationEntity, { id })
    if (!operation) throw new ServerError('reference_unknown', `The operation ${id} does not exist.`, { field: 'operationIds', received: id })
    kinds.push(operation.kind)
  }
  const isRepeated = new Set(operationIds).size < operationIds.length
  const lateReceiving = kinds.lastIndexOf('receiving') > kinds.findIndex((kind) => kind !== 'receiving') && kinds.some((kind) => kind !== 'receiving')
  const earlyShipping =
    kinds.includes('shipping') && kinds.indexOf('shipping') < kinds.findLastIndex((kind) => kind !== 'shipping' && kind !== 'return')
  if (isRepeated || (lateReceiving && kinds.includes('receiving')) || earlyShipping) {
    throw new ServerError('routing_order', `The routing is ${kinds.join(', ')}: an operation stands in it once, receiving first, shipping last.`, {
      field: 'operationIds',
      kinds,
    })
  }
}

async function check(work: Work, input: PartInput, exceptId: string | null): Promise<void> {
  await requireFreeCode(work, PartEntity, 'part', input.code, exceptId)
  await requireReference(work, familyRows, 'family', input.familyId, 'familyId')
  await requireReference(work, placeRows, 'place', input.putAwayPlaceId, 'putAwayPlaceId')
  await checkRouting(work, input.operationIds)
  if (input.tracking === 'serial' && input.unit !== 'piece' && input.unit !== 'bar')
    throw new ServerError('input_invalid', `Pieces with serial numbers are counted one by one; received ${input.unit}. Count it in pieces or bars.`, {
      field: 'unit',
      received: input.unit,
    })
}

async function writeRouting(work: Work, partId: string, operationIds: readonly string[]): Promise<void> {
  await work.manager.delete(RoutingStepEntity, { partId })
  for (const [position, operationId] of operationIds.entries()) await work.manager.insert(RoutingStepEntity, { partId, position, operationId })
}

export function partRoutes(routes: Routes): void {
  routes.list(parts.list, partList)
  routes.read(parts.get, async (reader, { params }) => loadPart(reader, params.id))
  routes.change(parts.create, async (work, { body }) => {
    const input: PartInput = body
    await check(work, input, null)
    const { operationIds, ...fields } = input
    const id = work.newId()
    await work.manager.insert(PartEntity, { ...fields, id, version: 1 })
    await writeRouting(work, id, operationIds)
    work.audit({ action: 'created', subject: 'part', subjectId: id, after: input })
    return { ...input, id, version: 1 }
  })
  routes.change(parts.update, async (work, { params, body }) => {
    const { version, operationIds, ...fields } = body
    const current = await loadAt(work, PartEntity, 'part', params.id, version)
    await check(work, { ...fields, operationIds }, params.id)
    if (fields.unit !== current.unit) await requireNothingRests(work, 'part unit', 'unit', current)
    if (fields.tracking !== current.tracking) await requireNothingRests(work, 'part tracking', 'tracking', current)
    const before = (await loadPart(work.manager, params.id)).operationIds
    await writeRouting(work, params.id, operationIds)
    await saveNext(work, PartEntity, 'part', 'changed', current, fields)
    if (before.join() !== operationIds.join())
      work.audit({ action: 'routing changed', subject: 'part', subjectId: params.id, before, after: operationIds })
    return loadPart(work.manager, params.id)
  })
}
