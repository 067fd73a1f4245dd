import { movementKinds, placePurposes, putAwayMoments, standings, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { clerk } from '../wire/access'
import { endpoint, Id, Instant, listEndpoint, Quantity, words } from '../wire/endpoint'
import { BalanceRow, Sublot } from '../stock/stock'

const RuleInput = z.strictObject({
  /** Null for a new one. */
  id: Id.nullable(),
  name: words(80),
  partId: Id.nullable(),
  familyId: Id.nullable(),
  supplierId: Id.nullable(),
  standing: z.enum(standings).nullable(),
  moment: z.enum(putAwayMoments),
  fromPlaceId: Id.nullable(),
  toPlaceId: Id,
})
export type RuleInput = z.infer<typeof RuleInput>

export const PutAwayRule = RuleInput.extend({
  id: Id,
  partCode: z.string().nullable(),
  /** The family of the part that it names: a rule for the one and a rule for the other can meet. */
  partFamilyId: Id.nullable(),
  familyName: z.string().nullable(),
  supplierName: z.string().nullable(),
  fromPlaceName: z.string().nullable(),
  toPlaceName: z.string(),
  toPurpose: z.enum(placePurposes),
})
export type PutAwayRule = z.infer<typeof PutAwayRule>

export const PutAwayRules = z.strictObject({
  /** In the order in which they are asked: the first that matches counts. */
  rules: z.array(PutAwayRule),
  /** Of the whole list; 0 as long as there never was a rule. */
  version: z.int(),
})
export type PutAwayRules = z.infer<typeof PutAwayRules>

/** Pieces that lie elsewhere than the rules say. */
export const MoveDue = z.strictObject({
  lotId: Id,
  lotCode: z.string(),
  partCode: z.string(),
  partName: z.string(),
  unit: z.enum(stockUnits),
  ...BalanceRow.omit({ finer: true }).shape,
  toPlaceId: Id,
  toPlaceName: z.string(),
  ruleId: Id,
  ruleName: z.string(),
})
export type MoveDue = z.infer<typeof MoveDue>

export const TransferRow = z.strictObject({
  id: Id,
  code: z.string(),
  lotId: Id,
  lotCode: z.string(),
  partCode: z.string(),
  containerLabel: z.string().nullable(),
  quantity: z.int(),
  unit: z.enum(stockUnits),
  standing: z.enum(standings),
  fromPlaceName: z.string(),
  toPlaceName: z.string(),
  /** The rule that sent it there; null where a person chose the place. */
  ruleName: z.string().nullable(),
  byName: z.string(),
  at: Instant,
  openChecks: z.int(),
})
export type TransferRow = z.infer<typeof TransferRow>

const MovementRow = z.strictObject({
  id: z.string(),
  at: Instant,
  kind: z.enum(movementKinds),
  lotId: Id,
  lotCode: z.string(),
  partCode: z.string(),
  containerLabel: z.string().nullable(),
  quantity: z.int(),
  unit: z.enum(stockUnits),
  fromPlaceName: z.string().nullable(),
  fromStanding: z.enum(standings).nullable(),
  toPlaceName: z.string(),
  toStanding: z.enum(standings),
  byName: z.string(),
})
export type MovementRow = z.infer<typeof MovementRow>

/** Pieces from one place to another, and the rules that say where they belong. */
export const transfers = {
  getPutAwayRules: endpoint('GET', '/api/v1/put-away-rules', {
    access: 'signedIn',
    summary: 'The ordered list that says where pieces belong; the first rule that matches counts',
    reply: PutAwayRules,
  }),
  savePutAwayRules: endpoint('PUT', '/api/v1/put-away-rules', {
    access: ['qualityEngineer', 'administrator'],
    summary: 'Save the whole list in its order; rules that would send pieces round are refused',
    body: z.strictObject({ rules: z.array(RuleInput).max(200, 'at most 200 rules'), version: z.int().min(0) }),
    reply: PutAwayRules,
  }),
  getMovesDue: endpoint('GET', '/api/v1/moves-due', {
    access: 'signedIn',
    summary: 'Pieces that lie elsewhere than the rules say: the first 200, and how many there are',
    reply: z.strictObject({ rows: z.array(MoveDue), total: z.int() }),
  }),
  listTransfers: listEndpoint('/api/v1/transfers', 'Transfers from one place to another', TransferRow),
  listMovements: listEndpoint('/api/v1/movements', 'Movements of the ledger: of a lot, a part, a container, a place', MovementRow, {
    lotId: Id.optional(),
    until: Instant.optional(),
  }),
  transfer: endpoint('POST', '/api/v1/transfers', {
    access: clerk,
    summary: 'Take pieces of a lot to another place, in their standing; what the way of the part asks for at a transfer opens by itself',
    body: z.strictObject({
      lotId: Id,
      containerId: Id.nullable(),
      fromPlaceId: Id,
      standing: z.enum(standings),
      /** Which of the lot's pieces there; without it, whichever are there. */
      sublot: Sublot.optional(),
      quantity: Quantity,
      toPlaceId: Id,
      ruleId: Id.nullable().default(null),
    }),
    reply: z.strictObject({ id: Id, code: z.string(), opened: z.array(z.strictObject({ id: Id, code: z.string(), planName: z.string() })) }),
  }),
}
