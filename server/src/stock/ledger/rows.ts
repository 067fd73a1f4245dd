import { readRows } from '../../kernel/database/readRows'
import { ContainerEntity, LotEntity, OccasionEntity, PutAwayRuleEntity } from './entities'

/** Rows that other areas read here; only this one writes them. */
export const containerRows = readRows(ContainerEntity)
export const lotRows = readRows(LotEntity)
export const occasionRows = readRows(OccasionEntity)
export const putAwayRuleRows = readRows(PutAwayRuleEntity)
