import { dispositions, sealMeanings, standings, switchStates } from '@nemawashi/core'
import { z } from 'zod'
import { BalanceRow, Sublot } from '../stock/stock'
import { errorCodes } from '../wire/errors'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, Version, words } from '../wire/endpoint'

export const DecisionRowInput = z.strictObject({
  containerId: Id.nullable(),
  quantity: Quantity,
  disposition: z.enum(dispositions, 'choose what becomes of them'),
  reason: z.string().trim().max(500, 'at most 500 characters'),
})
export type DecisionRowInput = z.infer<typeof DecisionRowInput>

/** A row of a decision on pieces in any standing: it says where they are. */
export const AgainRowInput = DecisionRowInput.extend({ placeId: Id, standing: z.enum(standings), sublot: Sublot.default('') })
export type AgainRowInput = z.infer<typeof AgainRowInput>

/** Which pieces of a lot: those of a container or a serial number, those that an operation event set apart, or all (null). */
const PiecesMeant = z.strictObject({ containerId: Id.nullable(), eventId: Id.nullable() })

/** What stands in the way of signing: of one row, or of the whole (null). */
export const DecisionProblem = z.strictObject({ row: z.int().nullable(), code: z.enum(errorCodes), message: z.string() })
export type DecisionProblem = z.infer<typeof DecisionProblem>

export const Decision = z.strictObject({
  id: Id,
  /** The inspection that it answers; null where it comes after another decision. */
  inspectionId: Id.nullable(),
  inspectionCode: z.string().nullable(),
  followsId: Id.nullable(),
  signedAt: Instant,
  signedByName: z.string(),
  initials: z.string(),
  meaning: z.enum(sealMeanings),
  rows: z.array(
    DecisionRowInput.extend({
      containerLabel: z.string().nullable(),
      quantity: z.int(),
      /** Where the pieces were; null: on hold, wherever that was. */
      placeId: Id.nullable(),
      placeName: z.string().nullable(),
      standing: z.enum(standings).nullable(),
    }),
  ),
})
export type Decision = z.infer<typeof Decision>

/** What a held lot waits for. */
export const waitings = ['decisionNotAcceptable', 'decisionAcceptable', 'benchStarted', 'bench', 'decisionAnew'] as const

export const HeldRow = z.strictObject({
  id: z.string(),
  lotId: Id,
  lotCode: z.string(),
  partCode: z.string(),
  partName: z.string(),
  supplierName: z.string(),
  unit: z.string(),
  onHold: z.int(),
  quarantined: z.int(),
  heldSince: Instant,
  inspectionId: Id.nullable(),
  waitsFor: z.enum(waitings),
})
export type HeldRow = z.infer<typeof HeldRow>

/** Which lot of a load is decided on; the inspection's own where it has one. */
const OfLot = Id.nullable().default(null)

/** A line on which nothing is accepted by sample any more, by the switching rules, until a person answers. */
export const AcceptanceStop = z.strictObject({
  id: Id,
  planId: Id,
  planName: z.string(),
  characteristicCode: z.string(),
  characteristicName: z.string(),
  operationName: z.string(),
  partCode: z.string(),
  partName: z.string(),
  /** Empty where the part is made here. */
  partnerName: z.string(),
  inspectionId: Id,
  inspectionCode: z.string(),
  at: Instant,
  /** How it ended: a person let acceptance begin again, or the inspection was opened again; null while it stands. */
  endedAs: z.enum(['answered', 'reopened']).nullable(),
  endedAt: Instant.nullable(),
  endedByName: z.string().nullable(),
  reason: z.string(),
  version: Version,
})
export type AcceptanceStop = z.infer<typeof AcceptanceStop>

/** A stop with the lots that bear on it, oldest first: under which inspection each was looked at, and what was found. */
export const StopHistory = AcceptanceStop.extend({
  lots: z.array(
    z.strictObject({ inspectionId: Id, inspectionCode: z.string(), finishedAt: Instant, under: z.enum(switchStates), isAccepted: z.boolean() }),
  ),
})
export type StopHistory = z.infer<typeof StopHistory>

export const contain = {
  listStops: listEndpoint(
    '/api/v1/acceptance-stops',
    'Lines on which inspection is discontinued by the switching rules, latest first',
    AcceptanceStop,
    {
      state: z.enum(['standing', 'ended']).optional(),
    },
  ),
  getStop: endpoint('GET', '/api/v1/acceptance-stops/:id', {
    access: 'signedIn',
    summary: 'A stop of acceptance: on which line, because of what, and how it ended',
    params: ById,
    reply: StopHistory,
  }),
  answerStop: endpoint('POST', '/api/v1/acceptance-stops/:id/answer', {
    access: ['qualityManager'],
    summary: 'Let acceptance begin again, on tightened inspection, after what stopped it was mended',
    params: ById,
    body: z.strictObject({ version: Version, reason: words(500) }),
    reply: StopHistory,
  }),
  listHeld: listEndpoint('/api/v1/held', 'Lots with quantity on hold or quarantined, longest first', HeldRow, {
    /** Held for so many days at least, and for fewer than so many. */
    fromDays: z.coerce.number().int().min(0).max(10_000).optional(),
    untilDays: z.coerce.number().int().min(1).max(10_000).optional(),
  }),
  decide: endpoint('POST', '/api/v1/inspections/:id/decision', {
    access: ['qualityManager', 'inspector'],
    summary: 'Decide on what the inspection holds, quantity by quantity, signed with the password',
    params: ById,
    body: z.strictObject({ version: Version, password: z.string().max(200), lotId: OfLot, rows: z.array(DecisionRowInput).max(500) }),
    secrets: ['password'],
    reply: z.strictObject({ decision: Decision }),
  }),
  checkDecision: endpoint('POST', '/api/v1/inspections/:id/decision-check', {
    access: ['qualityManager', 'inspector'],
    summary: 'Everything that stands in the way of a decision, before its signature is asked for; changes nothing',
    params: ById,
    body: z.strictObject({ lotId: OfLot, rows: z.array(DecisionRowInput).max(500) }),
    reply: z.strictObject({ problems: z.array(DecisionProblem) }),
  }),
  giveStanding: endpoint('POST', '/api/v1/lots/:id/finer-standing', {
    access: ['qualityManager', 'qualityEngineer'],
    summary: 'Give pieces of a lot, or of a container of it, one of the finer standings of the plant; null takes it off',
    params: ById,
    body: z.strictObject({ containerId: Id.nullable(), finerId: Id.nullable(), reason: words(200, 3) }),
    reply: z.strictObject({ balances: z.array(BalanceRow) }),
  }),
  listDecisions: endpoint('GET', '/api/v1/lots/:id/decisions', {
    access: 'signedIn',
    summary: 'The decisions on a lot, the latest last, and which of its pieces an inspection did not find acceptable',
    params: ById,
    reply: z.strictObject({ decisions: z.array(Decision), failed: z.array(PiecesMeant) }),
  }),
  checkDecisionAgain: endpoint('POST', '/api/v1/lots/:id/decision-check', {
    access: ['qualityManager'],
    summary: 'Everything that stands in the way of deciding anew; changes nothing',
    params: ById,
    body: z.strictObject({ followsId: Id.nullable(), rows: z.array(AgainRowInput).max(500) }),
    reply: z.strictObject({ problems: z.array(DecisionProblem) }),
  }),
  decideAgain: endpoint('POST', '/api/v1/lots/:id/decisions', {
    access: ['qualityManager'],
    summary:
      'Decide on pieces of a lot that are still in the plant, in any standing: first (null), or anew by a decision that names the one before; signed with the password',
    params: ById,
    body: z.strictObject({ followsId: Id.nullable(), password: z.string().max(200), rows: z.array(AgainRowInput).max(500) }),
    secrets: ['password'],
    reply: z.strictObject({ decision: Decision }),
  }),
}
