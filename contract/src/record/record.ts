import { spotAnswerers } from '@nemawashi/core'
import { z } from 'zod'
import { assignments, QueueFilters, queueStates } from './assignments'
import { bench } from '../wire/access'
import { ById, endpoint, Id, Instant, listEndpoint, Nothing, Version, words } from '../wire/endpoint'
import { Evidence, EvidenceInput } from './evidence'
import { GaugeUse } from './gaugeUse'
import { HandOpening, Inspection, InspectionRow, LineSkip, Mark, ReadingInput } from './inspection'
import { MadeSinceReply } from './madeSince'
import { LineSeries } from './series'
import { InspectionState, verdicts } from '../stock/stock'

/** An inspection that is not acceptable, as somebody is told of it. */
export const NotificationRow = z.strictObject({
  id: Id,
  inspectionId: Id,
  code: z.string(),
  planName: z.string(),
  partName: z.string(),
  lotCode: z.string(),
  advice: z.string(),
  at: Instant,
})
export type NotificationRow = z.infer<typeof NotificationRow>

export const record = {
  ...assignments,
  listInspections: listEndpoint(
    '/api/v1/inspections',
    'Inspections: the queue of the bench and the list of what waits for a decision',
    InspectionRow,
    {
      state: z.enum(queueStates).optional(),
      finishedSince: Instant.optional(),
      recorded: z.enum(['late']).optional().describe('Finished after it was due'),
      verdict: z.enum(verdicts).optional(),
      ...QueueFilters,
    },
  ),
  getInspection: endpoint('GET', '/api/v1/inspections/:id', {
    access: 'signedIn',
    summary: 'An inspection with its lines, readings, finding and decision',
    params: ById,
    query: z.strictObject({ lotId: Id.optional().describe('Which lot of a load its decision is about') }),
    reply: Inspection,
  }),
  getLineSeries: endpoint('GET', '/api/v1/inspection-lines/:id/series', {
    access: 'signedIn',
    summary: 'Earlier values of the series that a line goes on with, for its control chart',
    params: ById,
    reply: LineSeries,
  }),
  recordReadings: endpoint('POST', '/api/v1/inspections/:id/readings', {
    access: [...bench, ...spotAnswerers],
    summary: 'Record readings; the first one starts the inspection. A reading sent again under its id changes nothing',
    params: ById,
    body: z.strictObject({ readings: z.array(ReadingInput).min(1).max(200) }),
    reply: z.strictObject({
      state: InspectionState,
      version: Version,
      readings: z.array(z.strictObject({ id: Id, value: z.string().nullable(), entered: z.string().nullable(), mark: Mark })),
    }),
  }),
  getMadeSince: endpoint('GET', '/api/v1/inspections/:id/made-since', {
    access: 'signedIn',
    summary: 'What was made since the last check of the same control point that conformed; none where it is no check of a running step',
    params: ById,
    reply: MadeSinceReply,
  }),
  holdMadeSince: endpoint('POST', '/api/v1/inspections/:id/made-since/hold', {
    access: bench,
    summary: 'Put on hold what was made since the last check of the same control point that conformed',
    params: ById,
    reply: MadeSinceReply,
  }),
  chooseGauge: endpoint('POST', '/api/v1/inspections/:id/gauges', {
    access: bench,
    summary:
      'Say by its code with which gauge a line is measured from now on; it stays for lines of the same kind that it fits, until another is chosen',
    params: ById,
    body: z.strictObject({
      lineId: Id,
      code: words(60),
      /** Why it is used although something speaks against it; empty where nothing does. */
      reason: words(500, 0).default(''),
    }),
    reply: z.strictObject({ gauges: z.array(GaugeUse) }),
  }),
  addEvidence: endpoint('POST', '/api/v1/inspections/:id/evidence', {
    access: [...bench, ...spotAnswerers],
    summary:
      'Say more of a piece, a line or the inspection than its answers do: a fault and how often, words, a picture or file, a place on a picture',
    params: ById,
    body: EvidenceInput,
    reply: z.strictObject({ evidence: z.array(Evidence) }),
  }),
  withdrawEvidence: endpoint('POST', '/api/v1/evidence/:id/withdraw', {
    access: [...bench, ...spotAnswerers],
    summary: 'Take back what was said of a piece, with a reason; it stays in the audit chain',
    params: ById,
    body: z.strictObject({ reason: words(500, 3) }),
    reply: z.strictObject({ evidence: z.array(Evidence) }),
  }),
  finishInspection: endpoint('POST', '/api/v1/inspections/:id/finish', {
    access: [...bench, ...spotAnswerers],
    summary: 'Judge the lot from the readings; blanks on required lines block, blanks on others want a reason',
    params: ById,
    body: z.strictObject({ version: Version, skips: z.array(LineSkip).max(100).default([]) }),
    reply: Inspection,
  }),
  listNotifications: listEndpoint(
    '/api/v1/notifications',
    'What you were told and have not looked at: inspections that are not acceptable, latest first',
    NotificationRow,
  ),
  markNotificationRead: endpoint('POST', '/api/v1/notifications/:id/read', {
    access: 'signedIn',
    summary: 'Say that you have looked at what you were told',
    params: ById,
    reply: Nothing,
  }),
  answerOnSpot: endpoint('POST', '/api/v1/inspections/:id/spot', {
    access: [...bench, ...spotAnswerers],
    summary: 'Answer the quick questions of an inspection where its goods arrive, each for all pieces of its sample, and judge it',
    params: ById,
    body: z.strictObject({
      version: Version,
      answers: z
        .array(z.strictObject({ lineId: Id, isConforming: z.boolean() }))
        .min(1)
        .max(50),
    }),
    reply: Inspection,
  }),
  reopenInspection: endpoint('POST', '/api/v1/inspections/:id/reopen', {
    access: bench,
    summary: 'Take a finished, undecided inspection back to the bench',
    params: ById,
    body: z.strictObject({ version: Version, reason: words(500, 3) }),
    reply: Inspection,
  }),
  adaptLine: endpoint('POST', '/api/v1/inspections/:id/adaptations', {
    access: ['qualityEngineer'],
    summary: 'Change the sample of a line, or drop it (n 0), where its control point is adaptable; with a reason, which is kept',
    params: ById,
    body: z.strictObject({
      version: Version,
      lineId: Id,
      sampleSize: z.int('write a whole number'),
      accept: z.int('write a whole number'),
      reason: words(500, 3),
    }),
    reply: Inspection,
  }),
  openByHand: endpoint('POST', '/api/v1/lots/:id/inspections', {
    access: [...bench, 'qualityManager'],
    summary: 'Open an inspection that no control point asks for: of a lot, a container or a serial number, by a plan, with a reason',
    params: ById,
    body: HandOpening,
    reply: Inspection,
  }),
  cancelInspection: endpoint('POST', '/api/v1/inspections/:id/cancel', {
    access: [...bench, 'qualityManager'],
    summary: 'Cancel an inspection that was opened by mistake, with a reason; one that holds pieces is cancelled by a quality manager',
    params: ById,
    body: z.strictObject({ version: Version, reason: words(500, 3) }),
    reply: Inspection,
  }),
}
