import { DecisionEntity, DecisionPartEntity, type DecisionPartRow, type DecisionRow } from './holds/decisionEntities'
import {
  ContainerEntity,
  LotEntity,
  LotUseEntity,
  OccasionEntity,
  type ContainerRow,
  type LotRow,
  type LotUseRow,
  type OccasionRow,
} from './ledger/entities'
import type { Work } from '../kernel/work/unitOfWork'

/** What receiving, production, opening and deciding write of what there is and what happened to it. Movements go over the ledger. */

export async function insertOccasion(work: Work, row: OccasionRow): Promise<void> {
  await work.manager.insert(OccasionEntity, { ...row })
}

/** What was entered wrongly of an occasion; what was entered first is kept by whoever puts it right. */
export async function updateOccasion(work: Work, id: string, changes: Pick<Partial<OccasionRow>, 'partnerId' | 'orderNumber'>): Promise<void> {
  await work.manager.update(OccasionEntity, { id }, changes)
}

export async function insertLot(work: Work, row: LotRow): Promise<void> {
  await work.manager.insert(LotEntity, { ...row })
}

export async function updateLot(work: Work, id: string, changes: Pick<Partial<LotRow>, 'supplierId' | 'supplierLot'>): Promise<void> {
  await work.manager.update(LotEntity, { id }, changes)
}

/** A container of a lot, or a piece of it with a serial number. */
export async function insertContainer(work: Work, row: ContainerRow): Promise<void> {
  await work.manager.insert(ContainerEntity, row)
}

/** That pieces of one lot went into another. */
export async function insertLotUse(work: Work, row: LotUseRow): Promise<void> {
  await work.manager.insert(LotUseEntity, row)
}

export async function insertDecision(work: Work, row: DecisionRow): Promise<void> {
  await work.manager.insert(DecisionEntity, { ...row })
}

export async function insertDecisionPart(work: Work, row: DecisionPartRow): Promise<void> {
  await work.manager.insert(DecisionPartEntity, row)
}
