import type { Work } from '../kernel/work/unitOfWork'
import { ControlPointEntity, type ControlPointRow } from './entities'

/** A control point that stands for one inspection which was opened by hand: it hangs nowhere. */
export async function insertControlPoint(work: Work, row: ControlPointRow): Promise<void> {
  await work.manager.insert(ControlPointEntity, { ...row })
}
