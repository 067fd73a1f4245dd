import { ServerError } from '../../kernel/base/serverError'
import type { Work } from '../../kernel/work/unitOfWork'
import { saveNext } from '../../kernel/work/versioned'
import type { InspectionRow } from '../../inspections/entities'
import { gateWords } from './checks'
import { inspectionsAsked } from './deliveries'
import { ExpectedDeliveryEntity } from './expectedEntities'
import { assertTransition, expectedWords } from './expected'
import { keepsOut } from './loadExpected'
import { inspectionRows } from '../../inspections/rows'

/** What its load was asked before the receipt, as the receipt goes on from it. */
export interface ReceivedExpected {
  readonly id: string
  readonly code: string
  /** Inspections of the load that were not acceptable: they hold what came. */
  readonly holding: readonly InspectionRow[]
}

/**
 * Takes an expected delivery as received. A gate on its load that nobody has finished keeps the receipt from being posted.
 * @throws {ServerError} `not_found`, `not_expected`, `gate_closed`.
 */
export async function receiveExpected(work: Work, id: string, supplierId: string): Promise<ReceivedExpected> {
  const current = await work.manager.findOneBy(ExpectedDeliveryEntity, { id })
  if (!current) throw new ServerError('not_found', `There is no expected delivery with the id ${id}.`, { field: 'expectedId', received: id })
  const state = assertTransition(current, 'receive')
  if (current.supplierId !== supplierId)
    throw new ServerError('not_expected', `${current.code} is expected from another supplier.`, { field: 'supplierId', received: supplierId })
  const inspections = await inspectionRows.list(work.manager, { subjectId: id, subjectKind: 'load' })
  const closed = (await inspectionsAsked(work.manager, { subjectId: id })).filter(keepsOut)
  if (closed[0])
    throw new ServerError('gate_closed', `The receipt of ${current.code} cannot be posted: ${closed.map(gateWords).join('; ')}.`, {
      reasons: closed.map(gateWords),
      inspectionId: closed[0].id,
    })
  await saveNext(work, ExpectedDeliveryEntity, expectedWords, 'received', current, { state })
  const holding = inspections.filter(
    (each) => each.state === 'finished' && each.verdict === 'notAcceptable' && (each.isGate || each.onFailure === 'hold'),
  )
  return { id, code: current.code, holding }
}
