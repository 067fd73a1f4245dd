import { dispositions, sealMeanings, standings } from '@nemawashi/core'
import { z } from 'zod'
import { errorCodes } from './errors'
import { ById, endpoint, Id, Instant, listEndpoint, Quantity, Version } from './endpoint'

export const DecisionRowInput = z.strictObject({
  containerId: Id.nullable(),
  quantity: Quantity,
  disposition: z.enum(dispositions, 'choose what becomes of them'),
  reason: z.string().trim().max(500, 'at most 500 characters'),
})
export type DecisionRowInput = z.infer<typeof DecisionRowInput>

/** A row of a decision on pieces in any standing: it says where they are. */
export const AgainRowInput = DecisionRowInput.extend({ placeId: Id, standing: z.enum(standings) })
export type AgainRowInput = z.infer<typeof AgainRowInput>

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

export const contain = {
  listHeld: listEndpoint('/api/held', 'Lots with quantity on hold or quarantined, longest first', HeldRow),
  decide: endpoint('POST', '/api/inspections/:id/decision', {
    access: ['qualityManager', 'inspector'],
    summary: 'Decide on what the inspection holds, quantity by quantity, signed with the password',
    params: ById,
    body: z.strictObject({ version: Version, password: z.string().max(200), rows: z.array(DecisionRowInput).max(500) }),
    secrets: ['password'],
    reply: z.strictObject({ decision: Decision }),
  }),
  checkDecision: endpoint('POST', '/api/inspections/:id/decision-check', {
    access: ['qualityManager', 'inspector'],
    summary: 'Everything that stands in the way of a decision, before its signature is asked for; changes nothing',
    params: ById,
    body: z.strictObject({ rows: z.array(DecisionRowInput).max(500) }),
    reply: z.strictObject({ problems: z.array(DecisionProblem) }),
  }),
  listDecisions: endpoint('GET', '/api/lots/:id/decisions', {
    access: 'signedIn',
    summary: 'The decisions on a lot, the latest last, and whether an inspection of it failed',
    params: ById,
    reply: z.strictObject({ decisions: z.array(Decision), hasFailed: z.boolean() }),
  }),
  checkDecisionAgain: endpoint('POST', '/api/lots/:id/decision-check', {
    access: ['qualityManager'],
    summary: 'Everything that stands in the way of deciding anew; changes nothing',
    params: ById,
    body: z.strictObject({ followsId: Id, rows: z.array(AgainRowInput).max(500) }),
    reply: z.strictObject({ problems: z.array(DecisionProblem) }),
  }),
  decideAgain: endpoint('POST', '/api/lots/:id/decisions', {
    access: ['qualityManager'],
    summary: 'Decide anew on pieces of a lot that are still in the plant, by a decision that names the one before, signed with the password',
    params: ById,
    body: z.strictObject({ followsId: Id, password: z.string().max(200), rows: z.array(AgainRowInput).max(500) }),
    secrets: ['password'],
    reply: z.strictObject({ decision: Decision }),
  }),
}
