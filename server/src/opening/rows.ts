import { readRows } from '../kernel/database/readRows'
import { AcceptanceStopEntity } from './stopEntities'

/** Rows that other areas read here; only this one writes them. */
export const acceptanceStopRows = readRows(AcceptanceStopEntity)
