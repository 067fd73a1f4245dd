import { readRows } from '../../kernel/database/readRows'
import { DispatchEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const dispatchRows = readRows(DispatchEntity)
