import { checkSplit, dispositionWords, standingAfter, type Balance, type Disposition } from '@nemawashi/core'
import type { Decision, DecisionRowInput, Person } from '@nemawashi/contract'
import { ServerError } from '../kernel/serverError'
import type { Work } from '../kernel/unitOfWork'
import { loadAt, saveNext } from '../kernel/versioned'
import { InspectionEntity, type InspectionRow } from '../record/entities'
import { loadBalances, postMovement } from '../run/ledger'
import { placeFor } from '../run/placeFor'
import { loadDecision } from './decisions'
import { DecisionEntity, DecisionPartEntity } from './entities'

const frees = (disposition: Disposition) => standingAfter[disposition] === 'released'

function checkRole(person: Person, inspection: InspectionRow, rows: readonly DecisionRowInput[]): void {
  if (person.roles.includes('qualityManager')) return
  if (inspection.verdict !== 'acceptable') {
    throw new ServerError('decision_beyond_role', `${inspection.code} is not acceptable: a quality manager decides it.`, {
      needed: ['qualityManager'],
    })
  }
  const other = rows.find((row) => row.disposition !== 'release')
  if (other) {
    throw new ServerError(
      'decision_beyond_role',
      `An inspector releases an acceptable lot; "${dispositionWords[other.disposition]}" is for a quality manager.`,
      {
        needed: ['qualityManager'],
      },
    )
  }
}

function checkReasons(inspection: InspectionRow, rows: readonly DecisionRowInput[]): void {
  rows.forEach((row, index) => {
    const needsReason = row.disposition !== 'release' || inspection.verdict !== 'acceptable'
    if (needsReason && row.reason.length < 3) {
      throw new ServerError('reason_missing', `Row ${index + 1}: "${dispositionWords[row.disposition]}" needs a reason.`, {
        row: index,
        field: `rows.${index}.reason`,
      })
    }
  })
}

function meaningOf(rows: readonly DecisionRowInput[]): string {
  const kinds = [...new Set(rows.map((row) => row.disposition))]
  if (kinds.length === 0) return 'noted'
  const past: Record<Disposition, string> = {
    release: 'released',
    concession: 'concession',
    quarantine: 'quarantined',
    returnToSupplier: 'returned',
    scrap: 'scrapped',
  }
  return kinds.length === 1 ? past[kinds[0] as Disposition] : 'split'
}

/** Posts one row of a decision: takes it from where the container's held pieces are. */
async function post(work: Work, lotId: string, held: readonly Balance[], row: DecisionRowInput, decisionId: string): Promise<void> {
  const why = dispositionWords[row.disposition]
  const purposes = { quarantine: 'quarantine', returnToSupplier: 'outside', scrap: 'scrap' } as const
  let left = row.quantity
  for (const spot of await loadBalances(work.manager, lotId)) {
    if (spot.standing !== 'onHold' || spot.containerId !== row.containerId || left === 0 || !held.some((entry) => entry.placeId === spot.placeId))
      continue
    const quantity = Math.min(left, spot.quantity)
    const placeId = row.disposition in purposes ? (await placeFor(work, purposes[row.disposition as keyof typeof purposes])).id : spot.placeId
    const from = { placeId: spot.placeId, standing: spot.standing }
    await postMovement(
      work,
      lotId,
      { containerId: row.containerId, quantity, from, to: { placeId, standing: standingAfter[row.disposition] } },
      why,
      decisionId,
    )
    left -= quantity
  }
}

/**
 * Decides on what a lot has on hold, container by container. What is freed stays on hold while another gate of the lot is undecided;
 * the last decision releases it. Everything else moves at once.
 * @throws {ServerError} `already_decided`, `inspection_not_finished`, `decision_beyond_role`, `reason_missing`, `stale_version`, `place_missing`;
 * {CoreError} `split_does_not_add_up`, `quantity_invalid`.
 */
export async function decide(
  work: Work,
  person: Person,
  inspectionId: string,
  version: number,
  rows: readonly DecisionRowInput[],
): Promise<Decision> {
  const existing = await loadDecision(work.manager, inspectionId)
  if (existing)
    throw new ServerError('already_decided', `${existing.signedByName} decided this already: ${existing.meaning}.`, {
      signedAt: existing.signedAt,
      signedByName: existing.signedByName,
    })
  const inspection = await loadAt(work, InspectionEntity, 'inspection', inspectionId, version)
  if (inspection.state !== 'finished')
    throw new ServerError('inspection_not_finished', `${inspection.code} is not finished: there is no finding to decide on.`)
  checkRole(person, inspection, rows)
  checkReasons(inspection, rows)
  const held = inspection.isGate ? (await loadBalances(work.manager, inspection.lotId)).filter((balance) => balance.standing === 'onHold') : []
  checkSplit(held, rows)
  const [others] = (await work.manager.query(
    `SELECT COUNT(*) AS open FROM inspection WHERE lotId = ? AND id <> ? AND isGate = 1 AND state <> 'decided'`,
    [inspection.lotId, inspectionId],
  )) as { open: number }[]
  const decision = { id: work.newId(), inspectionId, signedAt: work.now, signedById: person.id, meaning: meaningOf(rows) }
  await work.manager.insert(DecisionEntity, { ...decision })
  for (const [position, { containerId, quantity, disposition, reason }] of rows.entries()) {
    await work.manager.insert(DecisionPartEntity, { decisionId: decision.id, position, containerId, quantity, disposition, reason })
  }
  work.audit({ action: 'decided', subject: 'inspection', subjectId: inspectionId, after: { meaning: decision.meaning, rows } })
  for (const row of rows) {
    if (frees(row.disposition) && (others?.open ?? 0) > 0) continue
    await post(work, inspection.lotId, held, row, decision.id)
  }
  await saveNext(work, InspectionEntity, 'inspection', 'decided', inspection, { state: 'decided' })
  return (await loadDecision(work.manager, inspectionId)) as Decision
}
