import { isUnitKind, type PiecesMeant } from '@nemawashi/core'
import type { Reader } from '../kernel/work/database'
import { eventThatSetApart } from '../stock/ledger/repository'
import type { InspectionRow } from './entities'

/**
 * Which pieces of its lot an inspection looks at: those of one container or serial number, those that its event set apart from the rest (a dispatch,
 * a return, a transfer), or all.
 */
export async function piecesLookedAt(
  reader: Reader,
  { subjectKind, subjectId, occasionId }: Pick<InspectionRow, 'subjectKind' | 'subjectId' | 'occasionId'>,
): Promise<PiecesMeant> {
  const eventId = subjectKind === 'load' || occasionId === null ? null : await eventThatSetApart(reader, occasionId)
  return { containerId: isUnitKind(subjectKind) ? subjectId : null, eventId }
}
