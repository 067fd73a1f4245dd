import type { AlsoFor, DetachedLimits, Finding, LeftOut, LineSkip, SeverityNow, SharedPlan } from '@nemawashi/contract'
import type { Consequence, Counting, DueReason, InspectionState, Mark, OnFailure, Stage, SubjectKind, VariablesPlan } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, id, int, json, mayReference, maybeJson, maybeText, references, text, uniqueText } from '../kernel/database/columns'

export interface InspectionRow {
  id: string
  code: string
  controlPointId: string
  planRevisionId: string
  operationId: string
  /** What is looked at; a lot's inspection has the lot here too, to be found by it. */
  subjectKind: SubjectKind
  subjectId: string
  lotId: string | null
  /** What it was opened for. */
  occasionId: string | null
  state: InspectionState
  isGate: boolean
  onFailure: OnFailure
  /** What follows from its finding, beside the hold; null where it is the usual. */
  consequence: Consequence | null
  holdPlaceId: string | null
  lotSize: number
  asked: number
  answered: number
  openedAt: string
  /** Who opened it by hand, and why; null where a control point asked for it. */
  openedById: string | null
  openReason: string | null
  startedAt: string | null
  startedById: string | null
  finishedAt: string | null
  finishedById: string | null
  verdict: 'acceptable' | 'notAcceptable' | null
  finding: Finding | null
  version: number
  /** The inspection one of whose answers asked for this one. */
  followsId: string | null
  /** Why lines that need not be answered were left blank; null while nothing was skipped. */
  skips: LineSkip[] | null
  /** The largest sample, and how many lines ask: what the queue says of its samples. */
  sampleMost: number | null
  lineCount: number | null
  /** By when it is to be done, and by whom; null and empty where nothing was said. */
  dueAt: string | null
  responsible: string
  cancelledAt: string | null
  cancelledById: string | null
  cancelReason: string | null
  /** Minutes that it is planned with; null where the library says nothing of how long its lines take. */
  minutes: number | null
  /** Lines of its plan that another inspection of the same occasion asks for already; null where there are none. */
  leftOut: LeftOut[] | null
}
export const InspectionEntity = new EntitySchema<InspectionRow>({
  name: 'inspection',
  columns: {
    id,
    code: uniqueText,
    controlPointId: references('control_point'),
    planRevisionId: references('plan_revision'),
    operationId: references('operation'),
    subjectKind: text,
    subjectId: text,
    lotId: mayReference('lot'),
    occasionId: mayReference('occasion'),
    state: text,
    isGate: flag,
    onFailure: { type: 'text', default: 'hold' },
    consequence: maybeJson,
    holdPlaceId: mayReference('place'),
    lotSize: int,
    asked: int,
    answered: int,
    openedAt: text,
    openedById: maybeText,
    openReason: maybeText,
    startedAt: maybeText,
    startedById: mayReference('person'),
    finishedAt: maybeText,
    finishedById: mayReference('person'),
    verdict: maybeText,
    finding: maybeJson,
    version: int,
    followsId: maybeText,
    skips: maybeJson,
    sampleMost: { type: 'integer', nullable: true },
    lineCount: { type: 'integer', nullable: true },
    dueAt: maybeText,
    responsible: { type: 'text', default: '' },
    cancelledAt: maybeText,
    cancelledById: maybeText,
    cancelReason: maybeText,
    minutes: { type: 'integer', nullable: true },
    leftOut: maybeJson,
  },
  indices: [
    { name: 'inspection_lot', columns: ['lotId'] },
    { name: 'inspection_state', columns: ['state', 'openedAt', 'id'] },
    { name: 'inspection_opened', columns: ['openedAt', 'id'] },
    { name: 'inspection_finished', columns: ['finishedAt'] },
    { name: 'inspection_follows', columns: ['followsId'] },
    { name: 'inspection_subject', columns: ['subjectId'] },
    { name: 'inspection_occasion', columns: ['occasionId'] },
    { name: 'inspection_point', columns: ['controlPointId'] },
    { name: 'inspection_revision', columns: ['planRevisionId'] },
    { name: 'inspection_verdict', columns: ['verdict', 'finishedAt'], where: '"verdict" IS NOT NULL' },
    { name: 'inspection_due', columns: ['dueAt'], where: '"due_at" IS NOT NULL' },
    { name: 'inspection_responsible', columns: ['responsible'], where: `"responsible" <> ''` },
    { name: 'inspection_started_by', columns: ['startedById'], where: '"started_by_id" IS NOT NULL' },
    { name: 'inspection_operation', columns: ['operationId'] },
    { name: 'inspection_skipped', columns: ['id'], where: '"skips" IS NOT NULL' },
  ],
})

export interface InspectionLineRow {
  id: string
  inspectionId: string
  position: number
  characteristicRevisionId: string
  sampleSize: number
  accept: number
  isRequired: boolean
  isDecisive: boolean
  /** What a plan of several stages, by variables or of nonconformities needs beyond the two numbers, and the plans of others that ask the same; null for a plain single plan. */
  scheme: { stages: Stage[] | null; variables: VariablesPlan | null; counting: Counting; shared?: SharedPlan[] } | null
  /** The series that its values go on; null where nothing is measured. */
  seriesId: string | null
  /** Which inspection it got by the history of its line, and why; null where its rule does not switch. */
  severity: SeverityNow | null
  /** The line's own target and limits, where its plan line was detached from the library. */
  detached: DetachedLimits | null
  /** Control points that ask the same of the same pieces, and with how large a sample; null where none does. */
  alsoFor: AlsoFor[] | null
}
export const InspectionLineEntity = new EntitySchema<InspectionLineRow>({
  name: 'inspection_line',
  columns: {
    id,
    inspectionId: references('inspection'),
    position: int,
    characteristicRevisionId: references('characteristic_revision'),
    sampleSize: int,
    accept: int,
    isRequired: flag,
    isDecisive: flag,
    scheme: maybeJson,
    detached: maybeJson,
    seriesId: maybeText,
    severity: maybeJson,
    alsoFor: maybeJson,
  },
  indices: [{ name: 'inspection_line_characteristic', columns: ['characteristicRevisionId'] }],
  uniques: [{ columns: ['inspectionId', 'position'] }],
})

export interface ReadingRow {
  id: string
  inspectionId: string
  lineId: string
  piece: number
  /** 0 for the first answer of a cell, then one more for each correction. */
  correction: number
  value: string | null
  /** As it was entered, where that was in another unit. */
  entered: string | null
  mark: Mark
  isConfirmedOutside: boolean
  typedAt: string
  at: string
  personId: string
  /** The value as a number, where one was measured; when it was taken; and the series that it goes on. */
  number: number | null
  takenAt: string | null
  seriesId: string | null
  /** The gauge that it was measured with; null where none was named. */
  gaugeId: string | null
  /** Who inspected, where that was another than who typed. */
  inspectedById: string | null
}

/** Answers, append-only: a correction is a further row of the same cell. */
export const ReadingEntity = new EntitySchema<ReadingRow>({
  name: 'reading',
  columns: {
    id,
    inspectionId: references('inspection'),
    lineId: references('inspection_line'),
    piece: int,
    correction: int,
    value: maybeText,
    entered: maybeText,
    mark: text,
    isConfirmedOutside: flag,
    typedAt: text,
    at: text,
    personId: references('person'),
    number: { type: 'real', nullable: true },
    takenAt: maybeText,
    seriesId: maybeText,
    gaugeId: mayReference('gauge'),
    inspectedById: mayReference('person'),
  },
  indices: [
    { name: 'reading_series', columns: ['seriesId', 'takenAt'] },
    { name: 'reading_gauge', columns: ['gaugeId'], where: '"gauge_id" IS NOT NULL' },
  ],
  uniques: [{ name: 'reading_cell', columns: ['inspectionId', 'lineId', 'piece', 'correction'] }],
})

export interface SeriesRow {
  id: string
  characteristicId: string
  partId: string
  /** Where it is measured. */
  operationId: string
}
/** Values that belong on one chart: of a characteristic, on a part, at a place of measuring. */
export const SeriesEntity = new EntitySchema<SeriesRow>({
  name: 'series',
  columns: { id, characteristicId: references('characteristic'), partId: references('part'), operationId: references('operation') },
  uniques: [{ name: 'series_of', columns: ['characteristicId', 'partId', 'operationId'] }],
})

export interface ConsiderationRow {
  id: string
  controlPointId: string
  planId: string
  operationId: string
  /** Null for a load, which is of no one part. */
  partId: string | null
  partnerId: string | null
  occasionId: string | null
  lotId: string | null
  quantity: number
  at: string
  /** Whether it was to be looked at, and what that rests on. A draw is repeated from the id of this row. */
  isDue: boolean
  because: DueReason
  /** What was opened; null where the arrival passed by. */
  inspectionId: string | null
}
/** What the frequency rule of a control point said of an arrival: the history that the next one is judged by. Only added to. */
export const ConsiderationEntity = new EntitySchema<ConsiderationRow>({
  name: 'consideration',
  columns: {
    id,
    controlPointId: references('control_point'),
    planId: references('plan'),
    operationId: references('operation'),
    partId: mayReference('part'),
    partnerId: mayReference('partner'),
    occasionId: mayReference('occasion'),
    lotId: mayReference('lot'),
    quantity: int,
    at: text,
    isDue: flag,
    because: json,
    inspectionId: mayReference('inspection'),
  },
  indices: [
    { name: 'consideration_history', columns: ['planId', 'operationId', 'partId', 'at'] },
    { name: 'consideration_lot', columns: ['lotId'] },
    { name: 'consideration_inspected', columns: ['planId', 'operationId', 'partId', 'at', 'id'], where: '"inspection_id" IS NOT NULL' },
    { name: 'consideration_occasion', columns: ['occasionId'] },
    { name: 'consideration_inspection', columns: ['inspectionId'], where: '"inspection_id" IS NOT NULL' },
  ],
})
