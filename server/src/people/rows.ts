import { readRows } from '../kernel/database/readRows'
import { PersonEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const personRows = readRows(PersonEntity)
