import { inspectionsOf, deliveryHead, lotsOf } from './repository'
import { gateWords } from './checks'
import { namedBalances } from '../stock/repository'
import { isSettled } from '@nemawashi/core'
import type { DeliveredLot, Delivery } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import { ServerError } from '../kernel/serverError'
import { passedByOn } from '../record/considerRepository'
import { linesAsked } from '../record/inspections'

/** Why put-away of a lot is refused: its gates that are not decided, in words. */
export function gateReasons(inspections: DeliveredLot['inspections']): string[] {
  return inspections.filter((entry) => entry.holds && !isSettled(entry.state)).map(gateWords)
}

/** Inspections of a lot with what they ask for. */
export async function inspectionsOfLot(reader: Reader, lotId: string): Promise<DeliveredLot['inspections']> {
  const heads = await inspectionsOf(reader, lotId)
  const found = []
  for (const head of heads) {
    found.push({ ...head, isGate: head.isGate === 1, holds: head.holds === 1, lines: await linesAsked(reader, head.id) })
  }
  return found
}

export async function loadDelivery(reader: Reader, id: string): Promise<Delivery> {
  const head = await deliveryHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no delivery with the id ${id}.`)
  const heads = await lotsOf(reader, id)
  const lots: DeliveredLot[] = []
  for (const lot of heads) {
    const inspections = await inspectionsOfLot(reader, lot.id)
    const passedBy = (await passedByOn(reader, lot.id)).map(({ id: of, planName, due }) => ({ id: of, planName, due }))
    lots.push({ ...lot, passedBy, balances: await namedBalances(reader, lot.id), inspections, gateReasons: gateReasons(inspections) })
  }
  return { ...head, lots, isFree: lots.every((lot) => lot.inspections.every((inspection) => isSettled(inspection.state))) }
}
