import { concededBefore, hasHeld, isMadeHere, openHoldOf, openHolds, loadBalances } from '../stock/repository'
import {
  checkSplit,
  concededOf,
  CoreError,
  frees,
  holdReaches,
  inspectionLife,
  may,
  releasable,
  standingAfter,
  type Balance,
  type MovementKind,
} from '@nemawashi/core'
import type { Decision, DecisionProblem, DecisionRowInput, Person } from '@nemawashi/contract'
import type { Reader } from '../kernel/database'
import type { Happened } from '../kernel/happenings'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, saveNext } from '../kernel/versioned'
import { lotsLookedAt, lotsToDecide } from '../record/repository'
import { InspectionEntity, type InspectionRow } from '../record/entities'
import { setAsideBy } from '../record/inspections'
import { withinOf } from '../record/unit'
import { closeHolds } from '../stock/holds'
import { postMovement, type MovementCause } from '../stock/ledger'
import { PartEntity } from '../define/entities'
import { LotEntity } from '../stock/entities'
import { placeFor } from '../stock/placeFor'
import { placeByRule } from '../stock/putAwayRules'
import { loadDecisions } from '../stock/repository'
import { placePurpose, rowProblems } from './decisionProblems'
import { DecisionEntity, DecisionPartEntity } from '../stock/decisionEntities'

/** An inspection with the lot that is decided on: its own, or one of the load that it looked at. */
type OnLot = InspectionRow & { readonly lotId: string }

/** What a decision on the inspection is about: what is on hold of what it looks at, where the inspection holds anything. */
async function heldBy(reader: Reader, inspection: OnLot): Promise<Balance[]> {
  if (!(await hasHeld(reader, inspection.id))) return []
  const of = withinOf(inspection)
  return (await loadBalances(reader, inspection.lotId)).filter((spot) => spot.standing === 'onHold' && holdReaches(of, spot))
}

function splitProblem(held: readonly Balance[], rows: readonly DecisionRowInput[]): DecisionProblem[] {
  try {
    checkSplit(held, rows)
    return []
  } catch (error) {
    if (!(error instanceof CoreError)) throw error
    return [{ row: typeof error.facts['row'] === 'number' ? error.facts['row'] : null, code: error.code, message: error.message }]
  }
}

/** What was found nonconforming is not released among the others. */
function setAsideProblem({ code }: OnLot, held: readonly Balance[], rows: readonly DecisionRowInput[], setAside: number): DecisionProblem[] {
  const sum = (of: readonly { readonly quantity: number }[]) => of.reduce((total, { quantity }) => total + quantity, 0)
  const released = sum(rows.filter(({ disposition }) => disposition === 'release'))
  if (setAside === 0 || released <= releasable(sum(held), setAside)) return []
  const found = setAside === 1 ? '1 piece was found nonconforming and is' : `${setAside} pieces were found nonconforming and are`
  return [
    {
      row: null,
      code: 'set_aside',
      message: `${code}: ${found} set aside. Of ${sum(held)} on hold, ${releasable(sum(held), setAside)} can be released.`,
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
  const judged = { hasFailed, isMade: await isMadeHere(reader, inspection.lotId) }
  const problems = await rowProblems(
    reader,
    person,
    rows.map((row) => ({ ...row, standing: 'onHold' })),
    () => judged,
  )
  if (hasFailed && !person.roles.includes('qualityManager') && !problems.some(({ code }) => code === 'decision_beyond_role'))
    problems.unshift({ row: null, code: 'decision_beyond_role', message: `${inspection.code} is not acceptable: a quality manager decides it.` })
  const held = await heldBy(reader, inspection)
  return [...problems, ...setAsideProblem(inspection, held, rows, await setAsideBy(reader, inspection)), ...splitProblem(held, rows)]
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
async function ruledPlace(work: Work, lotId: string, placeId: string, disposition: DecisionRowInput['disposition']): Promise<string | null> {
  const lot = await work.manager.findOneByOrFail(LotEntity, { id: lotId })
  const { familyId } = await work.manager.findOneByOrFail(PartEntity, { id: lot.partId })
  const { partId, supplierId } = lot
  return (await placeByRule(work.manager, { partId, familyId, supplierId, standing: standingAfter[disposition], placeId }))?.toPlaceId ?? null
}

/** Takes a quantity of a container from where its pieces on hold are. */
async function post(
  work: Work,
  lotId: string,
  row: Pick<DecisionRowInput, 'containerId' | 'quantity' | 'disposition'>,
  kind: MovementKind,
  cause: MovementCause,
): Promise<void> {
  const purpose = placePurpose[row.disposition]
  let left = row.quantity
  for (const spot of await loadBalances(work.manager, lotId)) {
    if (spot.standing !== 'onHold' || spot.containerId !== row.containerId || left === 0) continue
    const quantity = Math.min(left, spot.quantity)
    const placeId =
      purpose === undefined
        ? spot.placeId
        : ((await ruledPlace(work, lotId, spot.placeId, row.disposition)) ?? (await placeFor(work.manager, purpose)).id)
    const from = { placeId: spot.placeId, standing: spot.standing }
    await postMovement(
      work,
      lotId,
      { containerId: row.containerId, quantity, from, to: { placeId, standing: standingAfter[row.disposition] } },
      kind,
      cause,
    )
    left -= quantity
  }
}

/** Pieces of a container. */
type Freed = Pick<DecisionRowInput, 'containerId' | 'quantity'>

/** Frees what no hold is open on any more, container by container; what any decision conceded goes as a concession. */
async function free(work: Work, lotId: string, pieces: readonly Freed[], cause: MovementCause): Promise<void> {
  const holds = await openHolds(work.manager, lotId, null)
  for (const containerId of new Set(pieces.map((of) => of.containerId))) {
    if (holds.some((hold) => holdReaches(hold, { containerId }))) continue
    const freed = pieces.filter((of) => of.containerId === containerId).reduce((sum, { quantity }) => sum + quantity, 0)
    const conceded = concededOf(freed, await concededBefore(work.manager, lotId, containerId))
    if (conceded > 0) await post(work, lotId, { containerId, quantity: conceded, disposition: 'concession' }, 'concession', cause)
    if (freed > conceded) await post(work, lotId, { containerId, quantity: freed - conceded, disposition: 'release' }, 'release', cause)
  }
}

/** Lets go what an inspection holds of a lot, without a decision: its finding frees it. What another one holds stays on hold. */
export async function freeByFinding(work: Work, { lotId, inspection }: Happened['freedByFinding']): Promise<void> {
  const hold = await openHoldOf(work.manager, lotId, inspection.id)
  if (hold === null) return
  await closeHolds(work, lotId, inspection.id, null)
  const held = (await loadBalances(work.manager, lotId)).filter((spot) => spot.standing === 'onHold' && holdReaches(hold, spot))
  await free(work, lotId, held, { holdId: hold.id })
  await work.happened('lotDecided', { lotId })
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
  await loadAt(work, InspectionEntity, 'inspection', inspectionId, version)
  refuse(await decisionProblems(work.manager, person, inspection, rows))
  const decision = { id: work.newId(), inspectionId, lotId: inspection.lotId, followsId: null, signedAt: work.now, signedById: person.id }
  await work.manager.insert(DecisionEntity, { ...decision })
  for (const [position, row] of rows.entries()) {
    await work.manager.insert(DecisionPartEntity, { ...row, decisionId: decision.id, position, placeId: null, standing: null })
  }
  work.audit({ action: 'decided', subject: 'inspection', subjectId: inspectionId, after: { rows } })
  for (const row of rows) if (!frees(row.disposition)) await post(work, inspection.lotId, row, row.disposition, { decisionId: decision.id })
  await closeHolds(work, inspection.lotId, inspectionId, decision.id)
  await free(
    work,
    inspection.lotId,
    rows.filter(({ disposition }) => frees(disposition)),
    { decisionId: decision.id },
  )
  // A load is decided lot by lot, and then it is decided.
  const { subjectKind, ...row } = await work.manager.findOneByOrFail(InspectionEntity, { id: inspectionId })
  if (subjectKind !== 'load' || (await lotsToDecide(work.manager, inspectionId)).length === 0)
    await saveNext(work, InspectionEntity, 'inspection', 'decided', { ...row, subjectKind }, { state: inspectionLife.decide.to })
  await work.happened('lotDecided', { lotId: inspection.lotId })
  return (await loadDecisions(work.manager, inspection.lotId)).find(({ id }) => id === decision.id) as Decision
}

/**
 * The inspection with the lot to decide on, when there is a finding that nobody decided on yet.
 * @param lotId which lot of a load; null for the inspection's own
 * @throws {ServerError} as `decide`, and `not_found` where the load has no such lot.
 */
export async function decidable(reader: Reader, id: string, lotId: string | null): Promise<OnLot> {
  const found = await reader.findOneBy(InspectionEntity, { id })
  const [first] = found ? await lotsLookedAt(reader, found, lotId) : []
  if (!found || first === undefined) throw new ServerError('not_found', `There is no inspection with the id ${id} of this lot.`, { id, lotId })
  const inspection: OnLot = { ...found, lotId: first }
  const existing = (await loadDecisions(reader, inspection.lotId)).find(({ inspectionId }) => inspectionId === id)
  if (existing)
    throw new ServerError('already_decided', `${existing.signedByName} decided this already.`, {
      signedAt: existing.signedAt,
      signedByName: existing.signedByName,
    })
  if (!may(inspectionLife, 'decide', inspection.state))
    throw new ServerError('inspection_not_finished', `${inspection.code} is not finished: there is no finding to decide on.`)
  return inspection
}
