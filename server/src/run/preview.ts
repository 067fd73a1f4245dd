import { checkLotSize } from '@nemawashi/core'
import type { AskedLine, endpoints } from '@nemawashi/contract'
import { v7 } from 'uuid'
import type { z } from 'zod'
import { PartEntity, PartnerEntity, PlaceEntity, PlanEntity } from '../define/entities'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { linesAskedBy, type Played } from './rehearse'
import { loadOf, receiptOf, whereTo, type Arriving, type Asked } from './receipt'

type Query = z.output<(typeof endpoints.run.previewDelivery)['body']>
type Preview = z.output<(typeof endpoints.run.previewDelivery)['reply']>

async function shown(reader: Reader, asked: readonly Asked[], played: Played): Promise<AskedLine[]> {
  const entries = []
  for (const { coming, considered } of asked) {
    const { point, due } = considered
    if (due === null) continue
    const { name: planName } = await reader.findOneByOrFail(PlanEntity, { id: point.planId })
    entries.push({ coming, considered, due, planName })
  }
  const due = entries.filter((entry) => entry.due.isDue)
  const lines = await linesAskedBy(reader, due, played)
  return entries.map((entry) => {
    const { id, isGate, holds, answeredAt } = entry.considered.point
    return { pointId: id, planName: entry.planName, due: entry.due, isGate, holds, answeredAt, lines: lines[due.indexOf(entry)] ?? [] }
  })
}

/**
 * What the lines of a delivery would ask for, by the rules that a booking follows, and where they would be taken. Writes nothing.
 * @throws {ServerError} `reference_unknown`, `place_missing`; {CoreError} `lot_size_invalid` and as `sampleFor`.
 */
export async function previewDelivery(reader: Reader, { supplierId, orderNumber, lines }: Query, now: Date): Promise<Preview> {
  if ((await reader.findOneBy(PartnerEntity, { id: supplierId }))?.kind !== 'supplier')
    throw new ServerError('reference_unknown', `The supplier ${supplierId} does not exist.`, { field: 'supplierId' })
  const arriving: Arriving[] = []
  for (const [index, { partId, quantity }] of lines.entries()) {
    checkLotSize(quantity)
    const part = await reader.findOneBy(PartEntity, { id: partId })
    if (!part) throw new ServerError('reference_unknown', `The part ${partId} does not exist.`, { field: `lines.${index}.partId` })
    arriving.push({ part, supplierId, quantity, orderNumber, at: now.toISOString() })
  }
  const load = await loadOf(reader, arriving, v7)
  const played: Played = new Map()
  const found: Preview['lines'] = []
  for (const line of arriving) {
    const asked = await receiptOf(reader, line, v7)
    const { placeId } = await whereTo(reader, [...asked, ...load], line)
    const place = await reader.findOneByOrFail(PlaceEntity, { id: placeId })
    found.push({ placeName: place.name, asked: await shown(reader, asked, played) })
  }
  return { load: await shown(reader, load, played), lines: found }
}
