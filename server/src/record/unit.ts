import { isUnitKind } from '@nemawashi/core'
import type { InspectionRow } from './entities'

/** Which pieces of its lot an inspection looks at: those of one container or serial number, or all. */
export function withinOf({ subjectKind, subjectId }: Pick<InspectionRow, 'subjectKind' | 'subjectId'>): { readonly containerId: string | null } {
  return { containerId: isUnitKind(subjectKind) ? subjectId : null }
}
