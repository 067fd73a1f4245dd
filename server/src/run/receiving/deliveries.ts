import { correctionsOf, decidedOnLoad, deliveryHead, inspectionsOf, lotsOf, papersOf } from './repository'
import { gateWords } from './checks'
import { namedBalancesOf } from '../../stock/ledger/repository'
import { holdReaches, isSettled, restOfLot, ruleFor, type Spot, type Taken } from '@nemawashi/core'
import type { DeliveredLot, Delivery } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { Work } from '../../kernel/work/unitOfWork'
import { ServerError } from '../../kernel/base/serverError'
import { skippedByRuleOn } from '../../opening/repository'
import { linesAsked } from '../../inspections/inspections'
import { rulesInForce } from '../../stock/putAway/putAwayRuleRepository'

/** Whether its pieces may lie in a store on hold: a gate says so, and did not fail. */
const mayBeStored = ({ isGate, keepsFrom }: DeliveredLot['inspections'][number]) => isGate && keepsFrom === 'use'

/**
 * Why put-away is refused of pieces of a lot, or of what lies loose in it: gates on them, or on the load they came with, that hold all of them
 * and are not decided, in words.
 */
function gateReasons(
  inspections: DeliveredLot['inspections'],
  spot: Pick<Spot, 'containerId' | 'sublot'> = { containerId: null, sublot: restOfLot },
): string[] {
  const keeps = (entry: (typeof inspections)[number]) => entry.holds === 'all' && !isSettled(entry.state) && !mayBeStored(entry)
  return inspections.filter((entry) => keeps(entry) && holdReaches(entry, spot)).map(gateWords)
}

/** Inspections of the load that a lot came with; each lot of it is decided by itself. */
async function onLoad(reader: Reader, occasionId: string, lotId: string, load: DeliveredLot['inspections']): Promise<DeliveredLot['inspections']> {
  const decided = load.length === 0 ? [] : await decidedOnLoad(reader, occasionId, lotId)
  return load.filter(({ id }) => !decided.includes(id))
}

/** Inspections that look at a lot: its own, and those of its load that are not decided for it. */
async function lookingAt(reader: Reader, { id, originId }: { id: string; originId: string }): Promise<DeliveredLot['inspections']> {
  const load = await inspectionsAsked(reader, { subjectId: originId })
  return [...(await inspectionsAsked(reader, { lotId: id })), ...(await onLoad(reader, originId, id, load))]
}

/** Why put-away of these pieces of a lot is refused; empty where they are free. */
export async function putAwayReasons(
  reader: Reader,
  lot: { id: string; originId: string },
  spots: readonly Pick<Spot, 'containerId' | 'sublot'>[],
): Promise<string[]> {
  const looking = await lookingAt(reader, lot)
  return [...new Set(spots.flatMap((spot) => gateReasons(looking, spot)))]
}

/** What is on hold goes to a store only where everything that holds it lets it. @throws {ServerError} `gate_closed`. */
export async function requireStorable(work: Work, lot: { id: string; code: string; originId: string }, taken: readonly Taken[]): Promise<void> {
  const holding = (await lookingAt(work.manager, lot)).filter(
    (entry) => entry.holds !== null && !isSettled(entry.state) && taken.some(({ spot }) => holdReaches(entry, spot)),
  )
  const reasons = holding.filter((entry) => !mayBeStored(entry)).map(gateWords)
  if (holding.length > 0 && reasons.length === 0) return
  throw new ServerError('gate_closed', `What is on hold of ${lot.code} is not put away${reasons.length > 0 ? `: ${reasons.join('; ')}` : ''}.`, {
    lot: lot.code,
    reasons,
  })
}

/** Inspections of lots, or of a load, with what they ask for, by lot; under the empty text those of a load. */
async function askedByLot(
  reader: Reader,
  subject: { lotIds: readonly string[] } | { subjectId: string },
): Promise<Map<string, DeliveredLot['inspections']>> {
  const heads = await inspectionsOf(reader, subject)
  const lines = await linesAsked(
    reader,
    heads.map(({ id }) => id),
  )
  const byLot = new Map<string, DeliveredLot['inspections']>()
  for (const { lotId, ...head } of heads) {
    const inspection = { ...head, isGate: head.isGate === 1, lines: lines.get(head.id) ?? [] }
    const known = byLot.get(lotId ?? '')
    if (known) known.push(inspection)
    else byLot.set(lotId ?? '', [inspection])
  }
  return byLot
}

/** Inspections of a lot, or of a load, with what they ask for. */
export async function inspectionsAsked(reader: Reader, subject: { lotId: string } | { subjectId: string }): Promise<DeliveredLot['inspections']> {
  if ('subjectId' in subject) return (await askedByLot(reader, subject)).get('') ?? []
  return (await askedByLot(reader, { lotIds: [subject.lotId] })).get(subject.lotId) ?? []
}

export async function loadDelivery(reader: Reader, id: string): Promise<Delivery> {
  const head = await deliveryHead(reader, id)
  if (!head) throw new ServerError('not_found', `There is no delivery with the id ${id}.`)
  const heads = await lotsOf(reader, id)
  const lotIds = heads.map((lot) => lot.id)
  const load = await inspectionsAsked(reader, { subjectId: id })
  const lots: DeliveredLot[] = []
  const rules = await rulesInForce(reader)
  const byLot = await askedByLot(reader, { lotIds })
  const allBalances = await namedBalancesOf(reader, lotIds)
  const allPassed = await skippedByRuleOn(reader, lotIds)
  for (const { familyId, supplierId, ...lot } of heads) {
    const inspections = byLot.get(lot.id) ?? []
    const skippedByRule = allPassed
      .filter(({ lotId }) => lotId === lot.id)
      .map(({ id: inspectionId, planName, due }) => ({ id: inspectionId, planName, due }))
    const balances = allBalances.get(lot.id) ?? []
    const placeId = balances.find(({ standing }) => standing === 'released')?.placeId ?? null
    const rule = ruleFor(rules, { partId: lot.partId, familyId, supplierId, standing: 'released', placeId })
    lots.push({
      ...lot,
      // Where the rules send what is free, where that is a store; else the usual place of the part.
      putAwayPlaceId: rule?.toPurpose === 'store' ? rule.toPlaceId : lot.putAwayPlaceId,
      skippedByRule,
      balances,
      inspections,
      gateReasons: gateReasons([...inspections, ...(await onLoad(reader, id, lot.id, load))]),
    })
  }
  const { carrier, vehicle, driver, seal, loadNumber, ...shown } = head
  const all = [...load, ...lots.flatMap(({ inspections }) => inspections)]
  const facts = { carrier, vehicle, driver, seal, loadNumber }
  return {
    ...shown,
    load: { ...facts, inspections: load },
    papers: await papersOf(reader, id),
    corrections: await correctionsOf(reader, id),
    lots,
    isFree: all.every(({ state }) => isSettled(state)),
  }
}
