import { readRows } from '../../kernel/database/readRows'
import {
  FamilyEntity,
  FaultCodeEntity,
  FinerStandingEntity,
  GaugeKindEntity,
  ImportanceClassEntity,
  OperationEntity,
  PartEntity,
  PartnerEntity,
  PlaceEntity,
} from './entities'

/** Rows that other areas read here; only this one writes them. */
export const familyRows = readRows(FamilyEntity)
export const faultCodeRows = readRows(FaultCodeEntity)
export const finerStandingRows = readRows(FinerStandingEntity)
export const gaugeKindRows = readRows(GaugeKindEntity)
export const importanceClassRows = readRows(ImportanceClassEntity)
export const operationRows = readRows(OperationEntity)
export const partRows = readRows(PartEntity)
export const partnerRows = readRows(PartnerEntity)
export const placeRows = readRows(PlaceEntity)
