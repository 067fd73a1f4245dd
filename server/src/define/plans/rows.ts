import { readRows } from '../../kernel/database/readRows'
import { PlanEntity, PlanRevisionEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const planRevisionRows = readRows(PlanRevisionEntity)
export const planRows = readRows(PlanEntity)
