import { isUnitKind } from '@nemawashi/core'
import type { Within } from '../stock/holds'
import type { InspectionRow } from './entities'

/** Which pieces of its lot an inspection looks at: those of one container or serial number, or all. */
export function withinOf({ subjectKind, subjectId }: Pick<InspectionRow, 'subjectKind' | 'subjectId'>): Within {
  return { containerId: isUnitKind(subjectKind) ? subjectId : null }
}
