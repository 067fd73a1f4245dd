import { readRows } from '../kernel/database/readRows'
import { ControlPointEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const controlPointRows = readRows(ControlPointEntity)
