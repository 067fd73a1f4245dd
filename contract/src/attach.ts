import { onFailures } from '@nemawashi/core'
import { z } from 'zod'
import { revisionStates } from '@nemawashi/core'
import { PlanLine } from './define'
import { ById, endpoint, Id, listEndpoint, Version } from './endpoint'
import { operationKinds } from './masters'

export const pointStates = ['active', 'retired'] as const

const ControlPointInput = z.strictObject({
  operationId: Id,
  planId: Id,
  partId: Id.nullable(),
  familyId: Id.nullable(),
  supplierId: Id.nullable(),
  holdPlaceId: Id.nullable(),
  isGate: z.boolean(),
  /** What becomes of the pieces when an inspection that is no gate fails. */
  onFailure: z.enum(onFailures).default('hold'),
})

export const ControlPoint = ControlPointInput.extend({
  id: Id,
  code: z.string(),
  state: z.enum(pointStates),
  version: Version,
  operationName: z.string(),
  planCode: z.string(),
  planName: z.string(),
  partCode: z.string().nullable(),
  familyName: z.string().nullable(),
  supplierName: z.string().nullable(),
  holdPlaceName: z.string().nullable(),
})
export type ControlPoint = z.infer<typeof ControlPoint>

const FlowPoint = ControlPoint.extend({
  planRevision: z.int().nullable(),
  planState: z.enum(revisionStates),
  lines: z.array(PlanLine),
  opens: z.boolean(),
  why: z.string(),
})
export type FlowPoint = z.infer<typeof FlowPoint>

export const Flow = z.strictObject({
  stops: z.array(z.strictObject({ operationId: Id, code: z.string(), name: z.string(), kind: z.enum(operationKinds), points: z.array(FlowPoint) })),
})
export type Flow = z.infer<typeof Flow>

const engineer = ['qualityEngineer', 'administrator'] as const

export const attach = {
  listControlPoints: listEndpoint('/api/control-points', 'Control points', ControlPoint, { state: z.enum(pointStates).optional() }),
  getFlow: endpoint('GET', '/api/parts/:id/flow', {
    access: 'signedIn',
    summary: 'The flow line of a part: its operations with the control points that reach it, and which of them open for a supplier',
    params: ById,
    query: z.strictObject({ supplierId: Id.optional() }),
    reply: Flow,
  }),
  createControlPoint: endpoint('POST', '/api/control-points', {
    access: engineer,
    summary: 'Hang a plan on a receiving operation',
    body: ControlPointInput,
    reply: ControlPoint,
  }),
  updateControlPoint: endpoint('PUT', '/api/control-points/:id', {
    access: engineer,
    summary: 'Change a control point',
    params: ById,
    body: ControlPointInput.extend({ version: Version }),
    reply: ControlPoint,
  }),
  retireControlPoint: endpoint('POST', '/api/control-points/:id/retire', {
    access: engineer,
    summary: 'Retire a control point; open inspections go on',
    params: ById,
    body: z.strictObject({ version: Version }),
    reply: ControlPoint,
  }),
}
