import { readRows } from '../kernel/database/readRows'
import { GaugeEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const gaugeRows = readRows(GaugeEntity)
