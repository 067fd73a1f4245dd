import { dispositions } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, Version } from './endpoint'

export const DecisionRowInput = z.strictObject({
  containerId: Id.nullable(),
  quantity: z.number(),
  disposition: z.enum(dispositions),
  reason: z.string().trim().max(500),
})
export type DecisionRowInput = z.infer<typeof DecisionRowInput>

export const Decision = z.strictObject({
  id: Id,
  signedAt: Instant,
  signedByName: z.string(),
  initials: z.string(),
  meaning: z.string(),
  rows: z.array(DecisionRowInput.extend({ containerLabel: z.string().nullable(), quantity: z.int() })),
})
export type Decision = z.infer<typeof Decision>

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
  waitsFor: z.string(),
})
export type HeldRow = z.infer<typeof HeldRow>

export const contain = {
  listHeld: listEndpoint('/api/held', 'Lots with quantity on hold or quarantined, longest first', HeldRow),
  decide: endpoint('POST', '/api/inspections/:id/decision', {
    access: ['qualityManager', 'inspector'],
    summary: 'Decide on what the inspection holds, quantity by quantity, signed with the password',
    params: ById,
    body: z.strictObject({ version: Version, password: z.string().max(200), rows: z.array(DecisionRowInput).max(500) }),
    reply: z.strictObject({ decision: Decision }),
  }),
}
