import { isByChance } from '@nemawashi/core'
import type { AskedLine, Due, endpoints } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { z } from 'zod'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { linesAskedBy, type Played } from '../rehearsal/rehearse'
import type { PointToOpen } from '../../opening/evaluatePoints'
import type { Unit } from '../../stock/units/units'
import { checkLineQuantity } from '../purchasing/purchaseOrders'
import { fromSupplier, loadOf, receiptOf, loadReceivingRoute, findPutAwayDestination, type Arriving } from './receipt'
import { partnerRows, partRows, placeRows } from '../../define/masters/rows'
import { planRows } from '../../define/plans/rows'

type Query = z.output<(typeof endpoints.run.previewDelivery)['body']>
type Preview = z.output<(typeof endpoints.run.previewDelivery)['reply']>

/** A control point as a line shows it: of what it asks of each unit of a lot, one for all. */
function byPoint(opened: readonly PointToOpen[]) {
  const points = new Map<string, { point: PointToOpen; due: Due; times: number }>()
  for (const entry of opened) {
    const { point, due } = entry.considered
    if (due === null) continue
    const known = points.get(point.id)
    const times = (known?.times ?? 0) + (due.isDue ? 1 : 0)
    points.set(point.id, known === undefined || (due.isDue && !known.due.isDue) ? { point: entry, due, times } : { ...known, times })
  }
  return [...points.values()]
}

const isPerhaps = ({ considered: { due } }: PointToOpen) => due !== null && isByChance(due)
/** What a booking will draw, as if it were drawn: a draw of the preview would promise what nobody knows yet. */
function asDrawn(point: PointToOpen): PointToOpen {
  const { due } = point.considered
  return due !== null && isPerhaps(point) ? { ...point, considered: { ...point.considered, due: { ...due, isDue: true } } } : point
}

async function shown(reader: Reader, opened: readonly PointToOpen[], played: Played): Promise<AskedLine[]> {
  const entries = []
  for (const { point, due, times } of byPoint(opened.map(asDrawn))) {
    const { name: planName } = await planRows.load(reader, point.considered.point.planId)
    entries.push({ ...point, due, times, planName })
  }
  // What is asked of a container is asked of other pieces than what is asked of the lot.
  const lines = new Map<(typeof entries)[number], AskedLine['lines']>()
  for (const isOfUnit of [false, true]) {
    const due = entries.filter((entry) => entry.due.isDue && (entry.unit !== null) === isOfUnit)
    const certain = due.filter(({ due: rule }) => !isByChance(rule))
    const before: Played = new Map(played)
    for (const [i, entry] of (await linesAskedBy(reader, certain, played)).entries()) lines.set(certain[i] as (typeof entries)[number], entry)
    // Each by itself beside what is certain: another one's chance takes no question from it.
    for (const perhaps of due.filter(({ due: rule }) => isByChance(rule)))
      lines.set(perhaps, (await linesAskedBy(reader, [...certain, perhaps], new Map(before))).at(-1) ?? [])
  }
  return entries.map((entry) => {
    const { id, isGate, holds, answeredAt } = entry.considered.point
    const { planName, due, times, arrival } = entry
    return {
      pointId: id,
      planName,
      due,
      isByChance: isByChance(due),
      subject: arrival.subject,
      times,
      isGate,
      holds,
      answeredAt,
      lines: lines.get(entry) ?? [],
    }
  })
}

/** What a line is told apart by, before it is there. */
const unitsToCome = ({ containers, serials }: Query['lines'][number]): Unit[] => [
  ...containers.map((quantity) => ({ containerId: v7(), kind: 'container' as const, quantity })),
  ...Array.from({ length: serials }, () => ({ containerId: v7(), kind: 'serial' as const, quantity: 1 })),
]

/**
 * What the lines of a delivery would ask for, by the rules that a booking follows, and where they would be taken. Writes nothing.
 * @throws {ServerError} `reference_unknown`, `place_missing`; {CoreError} `lot_size_invalid` and as `sampleFor`.
 */
export async function previewDelivery(reader: Reader, { supplierId, orderNumber, lines }: Query, now: Date): Promise<Preview> {
  if ((await partnerRows.find(reader, { id: supplierId }))?.kind !== 'supplier')
    throw new ServerError('reference_unknown', `The supplier ${supplierId} does not exist.`, { field: 'supplierId' })
  const from = await fromSupplier(reader, { supplierId, orderNumber, at: now.toISOString() })
  const arriving: Arriving[] = []
  for (const [index, { partId, quantity }] of lines.entries()) {
    const part = await partRows.find(reader, { id: partId })
    if (!part) throw new ServerError('reference_unknown', `The part ${partId} does not exist.`, { field: `lines.${index}.partId` })
    checkLineQuantity(quantity, index, part.unit)
    arriving.push({ ...from, part, quantity })
  }
  const way = await loadReceivingRoute(
    reader,
    arriving.map(({ part }) => part),
  )
  const load = await loadOf(way, arriving, v7)
  const played: Played = new Map()
  const found: Preview['lines'] = []
  for (const [i, line] of arriving.entries()) {
    const opened = (await receiptOf(way, line, unitsToCome(lines[i] as Query['lines'][number]), v7)).flat()
    const all = [...opened, ...load]
    const nameOf = async (points: readonly PointToOpen[]) =>
      (await placeRows.load(reader, (await findPutAwayDestination(reader, points, line)).placeId)).name
    const placeName = await nameOf(all.filter((point) => !isPerhaps(point)))
    const whenDrawn = await nameOf(all.map(asDrawn))
    found.push({ placeName, placeIfDrawn: whenDrawn === placeName ? null : whenDrawn, asked: await shown(reader, opened, played) })
  }
  return { load: await shown(reader, load, played), lines: found }
}
