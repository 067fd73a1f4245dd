import { fillLines, isOpen } from '@nemawashi/core'
import type { ExpectedDelivery } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import { type InspectionRow } from '../../inspections/entities'
import { gateWords } from './checks'
import { inspectionsAsked } from './deliveries'
import { expectedHead, expectedLines, type AnnouncedLine } from './expectedRepository'
import { lotsOf } from './repository'

/** Gates on its load that keep the receipt from being posted: those that nobody has finished. What they found goes on to the goods. */
export const keepsOut = ({ isGate, state }: Pick<InspectionRow, 'isGate' | 'state'>) => isGate && isOpen(state)

/** What was announced, held against what came: the delivery that its receipt made has its id. */
async function heldAgainst(
  reader: Reader,
  id: string,
  announced: readonly AnnouncedLine[],
  isReceived: boolean,
): Promise<Pick<ExpectedDelivery, 'lines' | 'alsoCame'>> {
  if (!isReceived) return { lines: announced.map((line) => ({ ...line, came: null })), alsoCame: [] }
  const lots = await lotsOf(reader, id)
  const arrived = new Map<string, number>()
  for (const { partId, quantity } of lots) arrived.set(partId, (arrived.get(partId) ?? 0) + quantity)
  const fills = fillLines(announced, arrived)
  const known = new Set(announced.map(({ partId }) => partId))
  return {
    lines: announced.map((line, i) => ({ ...line, came: fills[i]?.received ?? 0 })),
    alsoCame: lots
      .filter(({ partId }) => !known.has(partId))
      .map(({ partId, partCode, partName, unit, quantity }) => ({ partId, partCode, partName, unit, quantity })),
  }
}

export async function loadExpected(reader: Reader, id: string): Promise<ExpectedDelivery> {
  const head = await expectedHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no expected delivery with the id ${id}.`)
  const { carrier, vehicle, driver, seal, loadNumber, ...shown } = head
  const inspections = await inspectionsAsked(reader, { subjectId: id })
  return {
    ...shown,
    load: { carrier, vehicle, driver, seal, loadNumber, inspections },
    gateReasons: inspections.filter(keepsOut).map(gateWords),
    ...(await heldAgainst(reader, id, await expectedLines(reader, id), head.state === 'received')),
  }
}
