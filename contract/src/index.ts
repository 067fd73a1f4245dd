import './plainWords'
export { recordersOf } from './access'
export * from './assignments'
export * from './attach'
export * from './characteristic'
export * from './characteristicLinks'
export * from './characteristicTable'
export * from './contain'
export * from './define'
export * from './documentFile'
export * from './endpoint'
export * from './endpoints'
export * from './errors'
export * from './feed'
export * from './library'
export {
  AnswerList,
  CountUnit,
  Family,
  FaultCode,
  FinerStanding,
  ImportanceClass,
  Operation,
  Part,
  Partner,
  Place,
  Reason,
  operationKinds,
  partnerKinds,
  reasonPurposes,
  trackings,
} from './masters'
export * from './marksOf'
export * from './people'
export * from './planFile'
export * from './rehearsal'
export {
  AlsoFor,
  Finding,
  HandOpening,
  Inspection,
  InspectionLine,
  InspectionRow,
  LeftOut,
  LineSkip,
  Reading,
  ReadingInput,
  SharedPlan,
} from './inspection'
export * from './record'
export { refusalsOf } from './refusals'
export * from './request'
export { LoadFacts, loadFactsOf, noLoad, paperKinds, paperWords, type PaperKind } from './deliveryInput'
export * from './expected'
export * from './purchases'
export * from './dispatches'
export * from './orders'
export * from './transfers'
export * from './run'
export * from './stock'
export * from './sampling'
export * from './trace'
export { placeWords, upperFirst } from './plainWords'
export { unseenIn, unseenWords } from './unseen'
