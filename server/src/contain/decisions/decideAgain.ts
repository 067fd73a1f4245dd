import { isMadeHere, loadBalances, unitOfLot } from '../../stock/ledger/repository'
import { openHolds } from '../../stock/ledger/holdRepository'
import { failuresOn } from '../../inspections/repository'
import { holdReaches, standingAfter, standingsInPlant, type Balance, quantityRefusal, quantityText } from '@nemawashi/core'
import type { AgainRowInput, Decision, DecisionProblem, Person } from '@nemawashi/contract'
import type { Reader } from '../../kernel/work/database'
import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { movePieces } from '../../stock/ledger/ledger'
import { placeIdFor } from '../../stock/putAway/placeFor'
import { loadDecisions } from '../../stock/ledger/decisionRepository'
import { placePurpose, rowProblems } from './decisionProblems'
import { isSameSpot, refuse } from './decide'
import { lotRows } from '../../stock/ledger/rows'
import { insertDecision, insertDecisionPart } from '../../stock/writes'

function quantityProblems(balances: readonly Balance[], rows: readonly AgainRowInput[], unit: string): DecisionProblem[] {
  const problems: DecisionProblem[] = []
  const taken = new Map<string, number>()
  for (const [row, reached] of rows.entries()) {
    const { containerId, placeId, standing, sublot, quantity } = reached
    const key = `${containerId ?? ''} ${placeId} ${standing} ${sublot}`
    const available = balances.find((spot) => isSameSpot(spot, reached))?.quantity ?? 0
    const together = (taken.get(key) ?? 0) + quantity
    taken.set(key, together)
    const refusal = quantityRefusal(quantity, unit)
    if (refusal !== null) problems.push({ row, code: refusal.code, message: refusal.message })
    else if (together > available)
      problems.push({
        row,
        code: 'movement_exceeds_balance',
        message: `${quantityText(together, unit)} are decided on, ${quantityText(available, unit)} are there.`,
      })
  }
  return problems
}

/** Everything that stands in the way of deciding anew; nothing when it can be signed. */
export async function againProblems(reader: Reader, person: Person, lotId: string, rows: readonly AgainRowInput[]): Promise<DecisionProblem[]> {
  const isMade = await isMadeHere(reader, lotId)
  const failed = await failuresOn(reader, lotId)
  const problems = await rowProblems(reader, person, rows, (row) => ({ hasFailed: failed.some((hold) => holdReaches(hold, row)), isMade }))
  if (rows.length === 0) problems.push({ row: null, code: 'quantity_invalid', message: 'Say of how many pieces what becomes of them.' })
  const held = rows.filter(({ standing }) => standing === 'onHold')
  const open = (await openHolds(reader, lotId, null)).filter((hold) => held.some((row) => holdReaches(hold, row)))
  if (open.length > 0)
    problems.push({ row: null, code: 'gate_closed', message: `What is on hold for ${open.map(({ code }) => code).join(', ')} is decided there.` })
  for (const [row, { standing }] of rows.entries())
    if (!standingsInPlant.includes(standing)) problems.push({ row, code: 'movement_not_allowed', message: 'These pieces have left the plant.' })
  return [...problems, ...quantityProblems(await loadBalances(reader, lotId), rows, await unitOfLot(reader, lotId))]
}

/**
 * The decision that a new one comes after; null where it is the first on the lot.
 * @throws {ServerError} `not_found`, `decision_superseded` where another one came in between.
 */
export async function decisionBefore(reader: Reader, lotId: string, followsId: string | null): Promise<Decision | null> {
  if (!(await lotRows.exists(reader, { id: lotId }))) throw new ServerError('not_found', `There is no lot with the id ${lotId}.`, { id: lotId })
  const last = (await loadDecisions(reader, lotId)).at(-1) ?? null
  if (last === null && followsId !== null) throw new ServerError('not_found', 'Nothing was decided on this lot yet.', { id: lotId })
  if (last !== null && last.id !== followsId)
    throw new ServerError('decision_superseded', `${last.signedByName} decided on this lot in between.`, {
      signedAt: last.signedAt,
      signedByName: last.signedByName,
    })
  return last
}

/**
 * Decides on pieces of a lot that are still in the plant, in whatever standing: for the first time, or anew by a decision that names the one before.
 * @throws {ServerError} `not_found`, `decision_superseded`, and the codes of `againProblems`.
 */
export async function decideAgain(
  work: Work,
  person: Person,
  lotId: string,
  followsId: string | null,
  rows: readonly AgainRowInput[],
): Promise<Decision> {
  await decisionBefore(work.manager, lotId, followsId)
  refuse(await againProblems(work.manager, person, lotId, rows))
  const decision = { id: work.newId(), inspectionId: null, lotId, followsId, signedAt: work.now, signedById: person.id }
  await insertDecision(work, decision)
  for (const [position, { sublot: _, ...row }] of rows.entries()) await insertDecisionPart(work, { ...row, decisionId: decision.id, position })
  work.audit({ action: 'decided again', subject: 'lot', subjectId: lotId, after: { followsId, rows } })
  for (const { disposition, ...spot } of rows) {
    const purpose = placePurpose[disposition]
    const to = { placeId: purpose === undefined ? spot.placeId : await placeIdFor(work, purpose), standing: standingAfter[disposition] }
    await movePieces(work, lotId, { spot, quantity: spot.quantity, to }, disposition, { decisionId: decision.id })
  }
  await work.emit('lotDecided', { lotId })
  return (await loadDecisions(work.manager, lotId)).at(-1) as Decision
}
