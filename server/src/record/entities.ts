import type { DetachedLimits, Finding, LineSkip } from '@nemawashi/contract'
import type { Counting, InspectionState, Mark, OnFailure, Stage, VariablesPlan } from '@nemawashi/core'
import { EntitySchema } from 'typeorm'
import { flag, id, int, mayReference, maybeJson, maybeText, references, text, uniqueText } from '../kernel/columns'

export interface InspectionRow {
  id: string
  code: string
  controlPointId: string
  planRevisionId: string
  operationId: string
  lotId: string
  state: InspectionState
  isGate: boolean
  onFailure: OnFailure
  /** Whether pieces are on hold for it: those of a gate from its opening, those of another one once it failed. */
  holds: boolean
  holdPlaceId: string | null
  lotSize: number
  asked: number
  answered: number
  openedAt: string
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
  cancelledAt: string | null
  cancelledById: string | null
  cancelReason: string | null
}
export const InspectionEntity = new EntitySchema<InspectionRow>({
  name: 'inspection',
  columns: {
    id,
    code: uniqueText,
    controlPointId: references('control_point'),
    planRevisionId: references('plan_revision'),
    operationId: references('operation'),
    lotId: references('lot'),
    state: text,
    isGate: flag,
    onFailure: { type: 'text', default: 'hold' },
    holds: { type: 'boolean', default: false },
    holdPlaceId: mayReference('place'),
    lotSize: int,
    asked: int,
    answered: int,
    openedAt: text,
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
    cancelledAt: maybeText,
    cancelledById: maybeText,
    cancelReason: maybeText,
  },
  indices: [
    { name: 'inspection_lot', columns: ['lotId'] },
    { name: 'inspection_state', columns: ['state', 'openedAt', 'id'] },
    { name: 'inspection_opened', columns: ['openedAt', 'id'] },
    { name: 'inspection_finished', columns: ['finishedAt'] },
    { name: 'inspection_follows', columns: ['followsId'] },
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
  /** What a plan of several stages, by variables or of nonconformities needs beyond the two numbers; null for a plain single plan. */
  scheme: { stages: Stage[] | null; variables: VariablesPlan | null; counting: Counting } | null
  /** The line's own target and limits, where its plan line was detached from the library. */
  detached: DetachedLimits | null
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
  },
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
  },
  uniques: [{ name: 'reading_cell', columns: ['inspectionId', 'lineId', 'piece', 'correction'] }],
})
