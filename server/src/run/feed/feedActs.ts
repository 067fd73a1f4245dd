import { unitOfLot } from '../../stock/ledger/repository'
import { CoreError, quantityIn } from '@nemawashi/core'
import { FeedBodies, noLoad, placeWords, type FeedKind } from '@nemawashi/contract'
import type { z } from 'zod'
import type { PartRow } from '../../define/masters/entities'
import { ServerError } from '../../kernel/base/serverError'
import type { Reader } from '../../kernel/database/store'
import type { Work } from '../../kernel/work/unitOfWork'
import { pickDispatch } from '../shipping/pickDispatch'
import type { DispatchRow } from '../shipping/entities'
import { announce } from '../receiving/expected'
import { FeedEventEntity, type FeedEventRow } from './entities'
import { confirmStep } from '../production/confirmStep'
import { planOrder } from '../production/planOrder'
import { releaseOrder } from '../production/releaseOrder'
import { startStep } from '../production/startStep'
import { pickPlanned, planDispatch } from '../shipping/planDispatch'
import { createPurchaseOrder } from '../purchasing/purchaseOrders'
import { bookDelivery } from '../receiving/receive'
import { dispatchRows } from '../shipping/rows'
import { containerRows, lotRows, occasionRows } from '../../stock/ledger/rows'
import { orderStepRows, productionOrderRows } from '../production/rows'
import { operationRows, partRows, partnerRows, placeRows } from '../../define/masters/rows'

/** What came of an event. */
export type Subject = Pick<FeedEventRow, 'subjectKind' | 'subjectId' | 'subjectCode'>

/** What another system calls by a code. */
type Named = (reader: Reader, code: string) => Promise<{ id: string } | null>
const named = {
  part: (reader, code) => partRows.find(reader, { code }),
  supplier: (reader, code) => partnerRows.find(reader, { code }),
  customer: (reader, code) => partnerRows.find(reader, { code }),
  operation: (reader, code) => operationRows.find(reader, { code }),
  place: (reader, code) => placeRows.find(reader, { code }),
  lot: (reader, code) => lotRows.find(reader, { code }),
} satisfies Record<string, Named>

/** The id of what another system calls by a code. @throws {ServerError} `reference_unknown`, with where it stands and what was received. */
async function idOf(work: Work, name: keyof typeof named, code: string, field: string): Promise<string> {
  const found = await named[name](work.manager, code)
  if (!found) throw new ServerError('reference_unknown', `There is no ${name} ${code}.`, { field, received: code })
  return found.id
}

/** A quantity that another system tells in the unit itself, with decimals, in whole steps. @throws {CoreError} `quantity_invalid`, with where it stands. */
function stepsOf(quantity: number, unit: string, field: string): number {
  try {
    return quantityIn(quantity, unit)
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    throw new CoreError('quantity_invalid', error.message, { ...error.facts, field })
  }
}

async function partOf(work: Work, code: string, field: string): Promise<PartRow> {
  return partRows.load(work.manager, await idOf(work, 'part', code, field))
}

/** Lines with the ids of their parts, and their quantities in steps. */
async function ofKnownParts<L extends { readonly part: string; readonly quantity: number }>(
  work: Work,
  lines: readonly L[],
): Promise<(Omit<L, 'part'> & { partId: string; unit: string })[]> {
  const known = []
  for (const [i, { part, ...line }] of lines.entries()) {
    const { id, unit } = await partOf(work, part, `lines.${i}.part`)
    known.push({ ...line, partId: id, unit, quantity: stepsOf(line.quantity, unit, `lines.${i}.quantity`) })
  }
  return known
}

/** The same without the unit, for acts that look it up themselves. */
async function linesOf<L extends { readonly part: string; readonly quantity: number }>(work: Work, lines: readonly L[]) {
  return (await ofKnownParts(work, lines)).map(({ unit: _, ...line }) => line)
}

/** What came of the event that announced a delivery. @throws {ServerError} `reference_unknown` where none of this key did. */
async function announcedBy(work: Work, key: string): Promise<string> {
  const event = await work.manager.findOneBy(FeedEventEntity, { key })
  if (event?.subjectKind === 'expected' && event.subjectId !== null) return event.subjectId
  throw new ServerError('reference_unknown', `No delivery was announced as ${key}.`, { field: 'announcedAs', received: key })
}

/** The dispatch that an event planned. @throws {ServerError} `reference_unknown` where none of this key did. */
async function plannedBy(work: Work, key: string): Promise<DispatchRow> {
  const event = await work.manager.findOneBy(FeedEventEntity, { key, kind: 'plannedDispatch' })
  const planned = event?.subjectId == null ? null : await dispatchRows.find(work.manager, { id: event.subjectId })
  if (planned) return planned
  throw new ServerError('reference_unknown', `No dispatch was planned as ${key}.`, { field: 'plannedAs', received: key })
}

const acts: { readonly [K in FeedKind]: (work: Work, body: z.output<(typeof FeedBodies)[K]>) => Promise<Subject> } = {
  async purchaseOrder(work, { supplier, number, contract, lines }) {
    const supplierId = await idOf(work, 'supplier', supplier, 'supplier')
    const { id } = await createPurchaseOrder(work, { supplierId, orderNumber: number, contract, lines: await linesOf(work, lines) })
    return { subjectKind: 'purchaseOrder', subjectId: id, subjectCode: number }
  },

  async announcement(work, { supplier, load = noLoad, lines, ...fields }) {
    const supplierId = await idOf(work, 'supplier', supplier, 'supplier')
    const { id, code } = await announce(work, { ...fields, supplierId, load, lines: await linesOf(work, lines), isHere: false, isAnother: true })
    return { subjectKind: 'expected', subjectId: id, subjectCode: code }
  },

  async delivery(work, { supplier, announcedAs, load = noLoad, lines, ...fields }) {
    const supplierId = await idOf(work, 'supplier', supplier, 'supplier')
    const expectedId = announcedAs === null ? null : await announcedBy(work, announcedAs)
    // Its key says whether it came before.
    const { id, code } = await bookDelivery(work, {
      ...fields,
      supplierId,
      load,
      lines: (await ofKnownParts(work, lines)).map(({ unit, ...line }, i) => ({
        ...line,
        containers: line.containers.map((container) => ({ ...container, quantity: stepsOf(container.quantity, unit, `lines.${i}.containers`) })),
      })),
      expectedId,
      isAnother: true,
      isUnusual: false,
    })
    return { subjectKind: 'delivery', subjectId: id, subjectCode: code }
  },

  async order(work, { number, part, quantity, customer }) {
    const { id: partId, unit } = await partOf(work, part, 'part')
    const customerId = customer === null ? null : await idOf(work, 'customer', customer, 'customer')
    if (await productionOrderRows.find(work.manager, { orderNumber: number }))
      throw new ServerError('already_exists', `The order ${number} is there already.`, { field: 'number', received: number })
    const planned = await planOrder(work, { partId, quantity: stepsOf(quantity, unit, 'quantity'), orderNumber: number, customerId })
    const { id, code } = await releaseOrder(work, planned.id, planned.version)
    return { subjectKind: 'order', subjectId: id, subjectCode: code }
  },

  async confirmation(work, { order, operation, good, scrapped, setAside, ...serials }) {
    const row = await productionOrderRows.find(work.manager, { orderNumber: order })
    if (!row) throw new ServerError('reference_unknown', `There is no order ${order}.`, { field: 'order', received: order })
    const operationId = await idOf(work, 'operation', operation, 'operation')
    const steps = await orderStepRows.list(work.manager, { orderId: row.id }, { order: { position: 'ASC' } })
    const step = steps.find(({ state }) => state !== 'confirmed')
    if (step?.operationId !== operationId)
      throw new ServerError('order_not_so_far', `${row.code} is not at ${operation}.`, { field: 'operation', received: operation, order: row.code })
    const { version } = step.state === 'waiting' ? await startStep(work, row.id, row.version) : row
    const { unit } = await partRows.load(work.manager, row.partId)
    const pieces = {
      good: stepsOf(good, unit, 'good'),
      scrapped: stepsOf(scrapped, unit, 'scrapped'),
      setAside: stepsOf(setAside, unit, 'setAside'),
    }
    await confirmStep(work, row.id, version, { ...pieces, ...serials })
    return { subjectKind: 'order', subjectId: row.id, subjectCode: row.code }
  },

  async plannedDispatch(work, { customer, lines, ...fields }) {
    const customerId = await idOf(work, 'customer', customer, 'customer')
    const { id, code } = await planDispatch(work, { ...fields, customerId, lines: await linesOf(work, lines) })
    return { subjectKind: 'dispatch', subjectId: id, subjectCode: code }
  },

  async dispatch(work, { customer, orderNumber, plannedAs, picks }) {
    const customerId = await idOf(work, 'customer', customer, 'customer')
    const known = []
    for (const [i, { lot, container, place, quantity }] of picks.entries()) {
      const at = `picks.${i}`
      const held = container === null ? null : await containerRows.find(work.manager, { label: container })
      if (container !== null && !held)
        throw new ServerError('reference_unknown', `There is no container ${container}.`, { field: `${at}.container`, received: container })
      const lotId = await idOf(work, 'lot', lot, `${at}.lot`)
      known.push({
        lotId,
        containerId: held?.id ?? null,
        placeId: await idOf(work, 'place', place, `${at}.place`),
        quantity: stepsOf(quantity, await unitOfLot(work.manager, lotId), `${at}.quantity`),
      })
    }
    const planned = plannedAs === null ? null : await plannedBy(work, plannedAs)
    const { partnerId } = (planned && (await occasionRows.find(work.manager, { id: planned.id }))) ?? { partnerId: customerId }
    if (partnerId !== customerId)
      throw new ServerError('not_planned', `${planned?.code} was planned for another customer than ${customer}.`, {
        field: 'customer',
        received: customer,
      })
    const { id, code } =
      planned === null
        ? await pickDispatch(work, { customerId, orderNumber, picks: known })
        : await pickPlanned(work, planned.id, planned.version, known)
    return { subjectKind: 'dispatch', subjectId: id, subjectCode: code }
  },
}

/** Does what an event tells of. @throws {ServerError} `input_invalid`, `reference_unknown` and what the act itself refuses with; {CoreError}. */
export async function actOn(work: Work, kind: FeedKind, body: Record<string, unknown>): Promise<Subject> {
  const parsed = FeedBodies[kind].safeParse(body)
  if (!parsed.success) {
    const fields = parsed.error.issues.slice(0, 20).map((issue) => ({ field: issue.path.join('.'), problem: issue.message }))
    const problems = parsed.error.issues.slice(0, 5).map(({ path, message }) => `${path.length > 0 ? `${placeWords(path)}: ` : ''}${message}`)
    throw new ServerError('input_invalid', `The event is not understood. ${problems.join('; ')}.`, { fields })
  }
  return acts[kind](work, parsed.data as never)
}

/** Whether an error says what is wrong with an event, so that it can be kept aside; anything else stops the feed. */
export function isRefusal(error: unknown): error is ServerError | CoreError {
  return error instanceof CoreError || (error instanceof ServerError && !error.code.startsWith('storage_'))
}
