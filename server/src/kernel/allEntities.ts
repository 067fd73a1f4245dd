import { ControlPointEntity } from '../attach/entities'
import { DecisionEntity, DecisionPartEntity } from '../contain/entities'
import {
  AnswerListEntity,
  CharacteristicEntity,
  CharacteristicRevisionEntity,
  CountUnitEntity,
  ImportanceClassEntity,
  DocumentEntity,
  FamilyEntity,
  FaultCodeEntity,
  OperationEntity,
  PartEntity,
  PartnerEntity,
  PlaceEntity,
  PlanEntity,
  PlanLineEntity,
  PlanRevisionEntity,
  ReasonEntity,
  RoutingStepEntity,
} from '../define/entities'
import { PersonEntity } from '../people/entities'
import { InspectionEntity, InspectionLineEntity, ReadingEntity } from '../record/entities'
import { ContainerEntity, DeliveryEntity, LotEntity, MovementEntity } from '../run/entities'
import { AuditEntity, CounterEntity, RequestKeyEntity, SessionEntity } from './entities'

/** Every table of the database. */
export const entities = [
  AuditEntity,
  RequestKeyEntity,
  CounterEntity,
  SessionEntity,
  PersonEntity,
  FamilyEntity,
  PartnerEntity,
  PlaceEntity,
  OperationEntity,
  PartEntity,
  RoutingStepEntity,
  AnswerListEntity,
  FaultCodeEntity,
  ReasonEntity,
  CountUnitEntity,
  ImportanceClassEntity,
  DocumentEntity,
  CharacteristicEntity,
  CharacteristicRevisionEntity,
  PlanEntity,
  PlanRevisionEntity,
  PlanLineEntity,
  ControlPointEntity,
  DeliveryEntity,
  LotEntity,
  ContainerEntity,
  MovementEntity,
  InspectionEntity,
  InspectionLineEntity,
  ReadingEntity,
  DecisionEntity,
  DecisionPartEntity,
]
