import './wire/plainWords'
export { recordersOf } from './wire/access'
export * from './record/assignments'
export * from './attach/attach'
export * from './define/characteristic'
export * from './define/characteristicLinks'
export * from './define/characteristicTable'
export * from './contain/contain'
export * from './define/addresses'
export * from './define/define'
export * from './equip/equip'
export * from './equip/gaugeKeepers'
export * from './equip/instruments'
export * from './define/documentFile'
export * from './wire/endpoint'
export * from './endpoints'
export * from './wire/errors'
export * from './run/feed'
export * from './define/library'
export {
  AnswerList,
  CountUnit,
  MeasureUnitRecord,
  Family,
  FaultCode,
  FinerStanding,
  GaugeKind,
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
} from './define/masters'
export * from './record/marksOf'
export * from './people/people'
export * from './define/planFile'
export * from './attach/rehearsal'
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
} from './record/inspection'
export * from './record/evidence'
export * from './record/gaugeUse'
export * from './record/lateness'
export * from './record/madeSince'
export * from './record/record'
export * from './record/series'
export { refusalsOf } from './refusals'
export * from './wire/request'
export { LoadFacts, loadFactsOf, noLoad, paperKinds, paperWords, type PaperKind } from './run/deliveryInput'
export * from './run/expected'
export * from './run/purchases'
export * from './run/dispatches'
export * from './run/orders'
export * from './run/transfers'
export * from './run/run'
export * from './stock/stock'
export * from './define/sampling'
export * from './trace/trace'
export { placeWords, upperFirst } from './wire/plainWords'
export { sameFacts } from './wire/sameFacts'
export { unseenIn, unseenWords } from './wire/unseen'
