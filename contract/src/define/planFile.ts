import { z } from 'zod'
import { DetachedLimits } from './define'
import { endpoint, Id, Nothing, type Access } from '../wire/endpoint'
import { SamplingRule } from './sampling'

const engineer: Access = ['qualityEngineer', 'administrator']
const Code = z.string().trim().min(1).max(40)
const Limit = z.string().max(40).nullable()

/** A line as a file carries it: characteristics and parts by their codes, which mean something in another plant too. */
const FileLine = z.strictObject({
  characteristic: Code,
  sampling: SamplingRule,
  isRequired: z.boolean().default(true),
  isDecisive: z.boolean().default(false),
  stage: z.string().trim().max(40).default(''),
  instruction: z.string().trim().max(2000).default(''),
  ownLimits: DetachedLimits.nullable().default(null),
  targets: z
    .array(z.strictObject({ part: Code, nominal: Limit, lower: Limit, upper: Limit }))
    .max(200)
    .default([]),
})
export type FileLine = z.infer<typeof FileLine>

/** Inspection plans as JSON: open, complete, and with a published schema. */
export const PlanFile = z.strictObject({
  format: z.literal('nemawashi-plans'),
  version: z.literal(1),
  plans: z
    .array(z.strictObject({ code: Code, name: z.string().trim().min(1).max(120), lines: z.array(FileLine).max(100) }))
    .min(1)
    .max(500),
})
export type PlanFile = z.infer<typeof PlanFile>

/** Columns of a workbook of plans, one row a line. Sampling and targets are JSON, exact; the words beside them are for reading only. */
export const planColumns = [
  'plan',
  'name',
  'characteristic',
  'samplingWords',
  'sampling',
  'required',
  'decisive',
  'stage',
  'instruction',
  'ownLimits',
  'targets',
] as const

/** What an import of plans does, or would do. */
export const PlanImport = z.strictObject({
  /** By which the import can be taken back; null where nothing was written. */
  importId: Id.nullable(),
  plans: z.array(z.strictObject({ code: z.string(), name: z.string(), lines: z.int(), outcome: z.enum(['created', 'revised', 'unchanged']) })),
  problems: z.array(z.strictObject({ where: z.string(), message: z.string() })),
})
export type PlanImport = z.infer<typeof PlanImport>

export const planExchange = {
  exportPlans: endpoint('GET', '/api/v1/plan-exchange/export', {
    access: 'signedIn',
    summary: 'Plans, latest revision each, as JSON or XLSX; one of them where a code is given',
    query: z.strictObject({ format: z.enum(['json', 'xlsx']), code: z.string().max(40).optional() }),
    reply: z.unknown(),
  }),
  getPlanSchema: endpoint('GET', '/api/v1/plan-exchange/schema', {
    access: 'anyone',
    summary: 'JSON Schema of the JSON export of plans',
    reply: z.unknown(),
  }),
  importPlans: endpoint('POST', '/api/v1/plan-exchange/import', {
    access: engineer,
    summary: 'Import plans as drafts from JSON or XLSX, all or none; as a trial nothing is written',
    body: z.strictObject({ name: z.string().max(200), content: z.base64().max(14_000_000), isTrial: z.boolean() }),
    reply: PlanImport,
  }),
  undoPlanImport: endpoint('POST', '/api/v1/plan-exchange/imports/:id/undo', {
    access: engineer,
    summary: 'Take an import of plans back, as long as nothing of it was changed or used since',
    params: z.strictObject({ id: Id }),
    body: Nothing,
    reply: z.strictObject({ removed: z.int() }),
  }),
}
