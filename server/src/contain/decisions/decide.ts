import { concededBefore } from '../../stock/ledger/decisionRepository'
import { holdsOf, openHolds } from '../../stock/ledger/holdRepository'
import { isMadeHere, unitOfLot } from '../../stock/ledger/repository'
import {
  checkSplit,
  concededOf,
  CoreError,
  freeable,
  frees,
  holdReaches,
  mayDecideOn,
  quantityOfSamplingUnits,
  quantityText,
  takeFrom,
  type Balance,
  type HeldQuantity,
  type Taken,
  inspectionTransitions,
  canTransition,
  releasableHeld,
  standingAfter,
  type MovementKind,
} from '@nemawashi/core'
import type { Decision, DecisionProblem, DecisionRowInput, Person } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import type { DomainEventFacts } from '../../kernel/work/domainEvents'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { memoizeInWork } from '../../kernel/work/memoizeInWork'
import { lotsLookedAt, lotsToDecide } from '../../inspections/repository'
import type { InspectionRow } from '../../inspections/entities'
import { setAsideBy, sortedOut } from '../../inspections/inspections'
import { closeHolds, findHeldBy } from '../../stock/holds/holds'
import { balancesNow, movePieces, type MovementCause } from '../../stock/ledger/ledger'
import { placeIdFor } from '../../stock/putAway/placeFor'
import { placeByRule } from '../../stock/putAway/putAwayRules'
import { loadDecisions } from '../../stock/ledger/decisionRepository'
import { placePurpose, rowProblems, signerOf } from './decisionProblems'
import { lotRows } from '../../stock/ledger/rows'
import { partRows } from '../../define/masters/rows'
import { inspectionRows } from '../../inspections/rows'
import { loadInspectionAt, saveInspection } from '../../inspections/writes'
import { insertDecision, insertDecisionPart } from '../../stock/writes'

/** An inspection with the lot that is decided on: its own, or one of the load that it looked at. */
type OnLot = InspectionRow & { readonly lotId: string }

/** What a decision on the inspection is about: what it holds, and no piece that another one holds beside it. Of a sample so many of each container. */
async function heldBy(reader: Reader, inspection: OnLot): Promise<HeldQuantity[]> {
  const { spots, quantity } = await findHeldBy(reader, inspection.lotId, inspection.id)
  return takeFrom(spots, quantity).map((taken) => ({ containerId: taken.spot.containerId, quantity: taken.quantity }))
}

function splitProblem(held: readonly HeldQuantity[], rows: readonly DecisionRowInput[], unit: string): DecisionProblem[] {
  try {
    checkSplit(held, rows, unit)
    return []
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return [{ row: typeof error.facts['row'] === 'number' ? error.facts['row'] : null, code: error.code, message: error.message }]
  }
}

/** What was found nonconforming is not released among the others. */
function setAsideProblem(
  { code }: OnLot,
  held: readonly HeldQuantity[],
  rows: readonly DecisionRowInput[],
  { found, releasable, unit }: { readonly found: number; readonly releasable: number; readonly unit: string },
): DecisionProblem[] {
  const sum = (rows: readonly { readonly quantity: number }[]) => rows.reduce((total, { quantity }) => total + quantity, 0)
  const released = sum(rows.filter(({ disposition }) => disposition === 'release'))
  if (released <= releasable) return []
  const words = found === 1 ? '1 piece was found nonconforming and is' : `${found} pieces were found nonconforming and are`
  return [
    {
      row: null,
      code: 'set_aside',
      message: `${code}: ${words} set aside. Of ${quantityText(sum(held), unit)} on hold, ${quantityText(releasable, unit)} can be released.`,
    },
  ]
}

/** Everything that stands in the way of this decision; nothing when it can be signed. */
export async function decisionProblems(
  reader: Reader,
  person: Person,
  inspection: OnLot,
  rows: readonly DecisionRowInput[],
): Promise<DecisionProblem[]> {
  const hasFailed = inspection.verdict !== 'acceptable'
  const nonconforming = await sortedOut(reader, inspection)
  const judged = { hasFailed, isMade: await isMadeHere(reader, inspection.lotId), isSorted: nonconforming !== null }
  const problems = await rowProblems(
    reader,
    person,
    rows.map((row) => ({ ...row, standing: 'onHold' })),
    () => judged,
  )
  if (hasFailed && !mayDecideOn(signerOf(person), { hasFailed, setAside: 0 }) && !problems.some(({ code }) => code === 'decision_beyond_role'))
    problems.unshift({ row: null, code: 'decision_beyond_role', message: `${inspection.code} is not acceptable: a quality manager decides it.` })
  const held = await heldBy(reader, inspection)
  const unit = await unitOfLot(reader, inspection.lotId)
  const setAside = await setAsideBy(reader, inspection)
  const together = held.reduce((sum, { quantity }) => sum + quantity, 0)
  const quantityOf = (pieces: number) => quantityOfSamplingUnits(pieces, unit)
  const found = { setAside: quantityOf(setAside), nonconforming: nonconforming === null ? null : quantityOf(nonconforming) }
  const releasable = releasableHeld(together, { hasFailed, ...found })
  const apart =
    hasFailed && nonconforming === null
      ? []
      : setAsideProblem(inspection, held, rows, { found: hasFailed ? (nonconforming ?? 0) : setAside, releasable, unit })
  return [...problems, ...apart, ...splitProblem(held, rows, unit)]
}

/** Refuses with the first problem, all of them among the facts. */
export function refuse(problems: readonly DecisionProblem[]): void {
  const [first] = problems
  if (!first) return
  throw new ServerError(first.code, problems.map(({ row, message }) => (row === null ? message : `Row ${row + 1}: ${message}`)).join(' '), {
    problems,
  })
}

/** Where the list of rules sends what is decided so; null where it says nothing of it. */
function ruledPlace(work: Work, lotId: string, placeId: string, disposition: DecisionRowInput['disposition']): Promise<string | null> {
  return memoizeInWork(work, `place by rule of ${lotId} from ${placeId} ${disposition}`, async () => {
    const lot = await lotRows.load(work.manager, lotId)
    const { familyId } = await partRows.load(work.manager, lot.partId)
    const { partId, supplierId } = lot
    return (await placeByRule(work.manager, { partId, familyId, supplierId, standing: standingAfter[disposition], placeId }))?.toPlaceId ?? null
  })
}

/** Takes pieces from where they are on hold to where a disposition sends them. */
async function post(
  work: Work,
  lotId: string,
  { spot, quantity }: Taken,
  disposition: DecisionRowInput['disposition'] & MovementKind,
  cause: MovementCause,
): Promise<void> {
  const purpose = placePurpose[disposition]
  const placeId =
    purpose === undefined ? spot.placeId : ((await ruledPlace(work, lotId, spot.placeId, disposition)) ?? (await placeIdFor(work, purpose)))
  await movePieces(work, lotId, { spot, quantity, to: { placeId, standing: standingAfter[disposition] } }, disposition, cause)
}

/** Pieces of a container. */
type Freed = Pick<DecisionRowInput, 'containerId' | 'quantity'>

/**
 * Frees what no hold is open on any more, container by container; what any decision conceded of these pieces goes as a concession.
 * @param reach the spots that the cause held, by which its pieces are known
 */
async function free(work: Work, lotId: string, reach: readonly Balance[], pieces: readonly Freed[], cause: MovementCause): Promise<void> {
  const conceded = (await concededBefore(work.manager, lotId)).map((before) => ({ ...before }))
  // What the others hold does not change by what is freed.
  const open = await openHolds(work.manager, lotId, null)
  const isReached = (spot: Balance) => spot.standing === 'onHold' && reach.some((reached) => isSameSpot(reached, spot))
  for (const containerId of new Set(pieces.map((piece) => piece.containerId))) {
    const freed = pieces.filter((piece) => piece.containerId === containerId).reduce((sum, { quantity }) => sum + quantity, 0)
    const balances = await balancesNow(work, lotId)
    const spots = balances.filter((spot) => spot.containerId === containerId && isReached(spot))
    for (const { spot, quantity } of freeable(spots, balances, open, freed)) {
      const meant = conceded.filter(
        (allowance) => allowance.containerId === containerId && holdReaches({ containerId, eventId: allowance.eventId }, spot),
      )
      let asConcession = concededOf(
        quantity,
        meant.map((row) => row.quantity),
      )
      if (asConcession > 0) await post(work, lotId, { spot, quantity: asConcession }, 'concession', cause)
      if (quantity > asConcession) await post(work, lotId, { spot, quantity: quantity - asConcession }, 'release', cause)
      // Each conceded piece is counted once.
      for (const row of meant) {
        const taken = Math.min(asConcession, row.quantity)
        row.quantity -= taken
        asConcession -= taken
      }
    }
  }
}

type SpotOf = Pick<Balance, 'containerId' | 'placeId' | 'standing' | 'sublot'>
export const isSameSpot = (a: SpotOf, b: SpotOf) =>
  a.containerId === b.containerId && a.placeId === b.placeId && a.standing === b.standing && a.sublot === b.sublot

/** Lets go what an inspection holds of a lot, without a decision: its finding frees it. What another one holds stays on hold. */
export async function freeByFinding(work: Work, { lotId, inspection }: DomainEventFacts['freedByFinding']): Promise<void> {
  const [hold] = await holdsOf(work.manager, lotId, inspection.id)
  if (hold === undefined) return
  const { spots, quantity } = await findHeldBy(work.manager, lotId, inspection.id)
  await closeHolds(work, lotId, inspection.id, null)
  const held = takeFrom(spots, quantity).map((taken) => ({ containerId: taken.spot.containerId, quantity: taken.quantity }))
  await free(work, lotId, spots, held, { holdId: hold.id })
  await work.emit('lotDecided', { lotId })
}

/**
 * Decides on what a lot has on hold, container by container. What is freed stays on hold while another inspection of the lot holds it;
 * the last decision releases it. Everything else moves at once.
 * @throws {ServerError} `already_decided`, `inspection_not_finished`, `stale_version`, and the codes of `decisionProblems`.
 */
export async function decide(
  work: Work,
  person: Person,
  { inspectionId, lotId }: { inspectionId: string; lotId: string | null },
  version: number,
  rows: readonly DecisionRowInput[],
): Promise<Decision> {
  const inspection = await decidable(work.manager, inspectionId, lotId)
  await loadInspectionAt(work, inspectionId, version)
  refuse(await decisionProblems(work.manager, person, inspection, rows))
  const decision = { id: work.newId(), inspectionId, lotId: inspection.lotId, followsId: null, signedAt: work.now, signedById: person.id }
  await insertDecision(work, decision)
  for (const [position, row] of rows.entries()) {
    await insertDecisionPart(work, { ...row, decisionId: decision.id, position, placeId: null, standing: null })
  }
  work.audit({ action: 'decided', subject: 'inspection', subjectId: inspectionId, after: { rows } })
  const { spots } = await findHeldBy(work.manager, inspection.lotId, inspectionId)
  for (const { disposition, containerId, quantity } of rows) {
    if (frees(disposition)) continue
    const available = (await balancesNow(work, inspection.lotId)).filter(
      (spot) => spot.containerId === containerId && spots.some((other) => isSameSpot(other, spot)),
    )
    for (const taken of takeFrom(available, quantity)) await post(work, inspection.lotId, taken, disposition, { decisionId: decision.id })
  }
  await closeHolds(work, inspection.lotId, inspectionId, decision.id)
  await free(
    work,
    inspection.lotId,
    spots,
    rows.filter(({ disposition }) => frees(disposition)),
    { decisionId: decision.id },
  )
  // A load is decided lot by lot, and then it is decided.
  const { subjectKind, ...row } = await inspectionRows.load(work.manager, inspectionId)
  if (subjectKind !== 'load' || (await lotsToDecide(work.manager, inspectionId)).length === 0)
    await saveInspection(work, 'decided', { ...row, subjectKind }, { state: inspectionTransitions.decide.to })
  await work.emit('lotDecided', { lotId: inspection.lotId })
  return (await loadDecisions(work.manager, inspection.lotId)).find(({ id }) => id === decision.id) as Decision
}

/**
 * The inspection with the lot to decide on, when there is a finding that nobody decided on yet.
 * @param lotId which lot of a load; null for the inspection's own
 * @throws {ServerError} as `decide`, and `not_found` where the load has no such lot.
 */
export async function decidable(reader: Reader, id: string, lotId: string | null): Promise<OnLot> {
  const found = await inspectionRows.find(reader, { id })
  const [first] = found ? await lotsLookedAt(reader, found, lotId) : []
  if (!found || first === undefined) throw new ServerError('not_found', `There is no inspection with the id ${id} of this lot.`, { id, lotId })
  const inspection: OnLot = { ...found, lotId: first }
  const existing = (await loadDecisions(reader, inspection.lotId)).find(({ inspectionId }) => inspectionId === id)
  if (existing)
    throw new ServerError('already_decided', `${existing.signedByName} decided this already.`, {
      signedAt: existing.signedAt,
      signedByName: existing.signedByName,
    })
  if (!canTransition(inspectionTransitions, 'decide', inspection.state))
    throw new ServerError('inspection_not_finished', `${inspection.code} is not finished: there is no finding to decide on.`)
  return inspection
}
