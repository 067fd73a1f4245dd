import { aqlSeries, inspectionLevels, roundings, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, Id, Instant, listEndpoint, Version, type Access } from './endpoint'

const Code = z
  .string()
  .trim()
  .min(1)
  .max(40)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._/-]*$/u, 'letters, digits, space and . _ / - only')
const Name = z.string().trim().min(1).max(120)
const Words = z.string().trim().max(2000)
const engineer: Access = ['qualityEngineer', 'administrator']

const base = { id: Id, code: Code, name: Name, version: Version }

export const Family = z.strictObject(base)
export type Family = z.infer<typeof Family>

export const partnerKinds = ['supplier', 'customer'] as const
export const Partner = z.strictObject({ ...base, kind: z.enum(partnerKinds), isActive: z.boolean() })
export type Partner = z.infer<typeof Partner>

export const placePurposes = ['dock', 'inspection', 'store', 'quarantine', 'scrap', 'outside'] as const
export const Place = z.strictObject({ ...base, purpose: z.enum(placePurposes), countsForPlanning: z.boolean() })
export type Place = z.infer<typeof Place>

export const operationKinds = ['receiving', 'production', 'transfer', 'shipping', 'return'] as const
export const Operation = z.strictObject({ ...base, kind: z.enum(operationKinds) })
export type Operation = z.infer<typeof Operation>

export const trackings = ['bulk', 'lot', 'serial'] as const
export const Part = z.strictObject({
  ...base,
  revision: z.string().trim().min(1).max(12),
  unit: z.enum(stockUnits),
  tracking: z.enum(trackings),
  familyId: Id.nullable(),
  putAwayPlaceId: Id.nullable(),
  operationIds: z.array(Id).max(60),
})
export type Part = z.infer<typeof Part>
const PartRow = Part.omit({ operationIds: true }).extend({ familyName: z.string().nullable(), points: z.int() })
export type PartRow = z.infer<typeof PartRow>

function master<S extends z.ZodObject>(path: string, words: string, full: S, row: z.ZodType = full) {
  const input = full.omit({ id: true, version: true } as never)
  return {
    list: listEndpoint(path, words, row),
    get: endpoint('GET', `${path}/:id`, { access: 'signedIn', summary: `One of: ${words}`, params: ById, reply: full }),
    create: endpoint('POST', path, { access: engineer, summary: `Create one of: ${words}`, body: input, reply: full }),
    update: endpoint('PUT', `${path}/:id`, {
      access: engineer,
      summary: `Change one of: ${words}`,
      params: ById,
      body: full.omit({ id: true } as never),
      reply: full,
    }),
  }
}

export const SamplingRule = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('everyPiece'), accept: z.number() }),
  z.strictObject({ kind: z.literal('fixedNumber'), sampleSize: z.number(), accept: z.number() }),
  z.strictObject({ kind: z.literal('percentage'), percent: z.number(), rounding: z.enum(roundings), accept: z.number() }),
  z.strictObject({
    kind: z.literal('attributesScheme'),
    level: z.enum(inspectionLevels),
    aqlPercent: z.number().describe(`One of ${aqlSeries.join(', ')}`),
  }),
])

export const revisionStates = ['draft', 'released', 'retired'] as const
export const classes = ['critical', 'major', 'minor'] as const
export const characteristicKinds = ['measured', 'judged'] as const

const CharacteristicFields = z.strictObject({
  name: Name,
  kind: z.enum(characteristicKinds),
  class: z.enum(classes),
  method: Words,
  instruction: Words,
  nominal: z.string().max(40).nullable(),
  lower: z.string().max(40).nullable(),
  upper: z.string().max(40).nullable(),
  unit: z.string().max(20).nullable(),
  resolution: z.string().max(40).nullable(),
  acceptableState: Words.nullable(),
})
export type CharacteristicFields = z.infer<typeof CharacteristicFields>

export const CharacteristicRevision = CharacteristicFields.extend({
  id: Id,
  revision: z.int(),
  state: z.enum(revisionStates),
  releasedAt: Instant.nullable(),
  releasedByName: z.string().nullable(),
})
export const Characteristic = z.strictObject({
  id: Id,
  code: Code,
  version: Version,
  revisions: z.array(CharacteristicRevision),
  usedIn: z.array(z.string()),
})
export type Characteristic = z.infer<typeof Characteristic>

export const CharacteristicRow = CharacteristicFields.omit({ method: true, instruction: true }).extend({
  id: Id,
  code: Code,
  revision: z.int(),
  state: z.enum(revisionStates),
})
export type CharacteristicRow = z.infer<typeof CharacteristicRow>

const PlanLineInput = z.strictObject({ characteristicId: Id, sampling: SamplingRule, isRequired: z.boolean(), isDecisive: z.boolean() })
export type PlanLineInput = z.infer<typeof PlanLineInput>
export const PlanLine = PlanLineInput.extend({
  code: z.string(),
  name: z.string(),
  kind: z.enum(characteristicKinds),
  class: z.enum(classes),
  unit: z.string().nullable(),
  nominal: z.string().nullable(),
  lower: z.string().nullable(),
  upper: z.string().nullable(),
  followsRevision: z.int().nullable(),
})
export type PlanLine = z.infer<typeof PlanLine>
export const PlanRevision = z.strictObject({
  id: Id,
  revision: z.int(),
  state: z.enum(revisionStates),
  lines: z.array(PlanLine),
  releasedAt: Instant.nullable(),
  releasedByName: z.string().nullable(),
})
export const Plan = z.strictObject({ ...base, revisions: z.array(PlanRevision), usedBy: z.array(z.string()) })
export type Plan = z.infer<typeof Plan>
export const PlanRow = z.strictObject({ id: Id, code: Code, name: Name, revision: z.int(), state: z.enum(revisionStates), lines: z.int() })
export type PlanRow = z.infer<typeof PlanRow>

const Step = z.strictObject({ version: Version })
const step = <R extends z.ZodType>(path: string, summary: string, reply: R) =>
  endpoint('POST', path, { access: engineer, summary, params: ById, body: Step, reply })

const PlanFields = z.strictObject({ name: Name, lines: z.array(PlanLineInput).max(100) })

export const define = {
  families: master('/api/families', 'families of parts', Family),
  partners: master('/api/partners', 'suppliers and customers', Partner),
  places: master('/api/places', 'places', Place),
  operations: master('/api/operations', 'operations', Operation),
  parts: master('/api/parts', 'parts', Part, PartRow),
  listCharacteristics: listEndpoint('/api/characteristics', 'The library of characteristics, latest revision each', CharacteristicRow, {
    state: z.enum(revisionStates).optional(),
  }),
  getCharacteristic: endpoint('GET', '/api/characteristics/:id', {
    access: 'signedIn',
    summary: 'A characteristic with all revisions',
    params: ById,
    reply: Characteristic,
  }),
  createCharacteristic: endpoint('POST', '/api/characteristics', {
    access: engineer,
    summary: 'Create a characteristic as a draft',
    body: CharacteristicFields.extend({ code: Code }),
    reply: Characteristic,
  }),
  updateCharacteristic: endpoint('PUT', '/api/characteristics/:id', {
    access: engineer,
    summary: 'Change the draft of a characteristic',
    params: ById,
    body: CharacteristicFields.extend({ version: Version }),
    reply: Characteristic,
  }),
  releaseCharacteristic: step('/api/characteristics/:id/release', 'Release the draft; the revision before it is retired', Characteristic),
  reviseCharacteristic: step('/api/characteristics/:id/revise', 'Open a draft from the released revision', Characteristic),
  retireCharacteristic: step('/api/characteristics/:id/retire', 'Retire the released revision', Characteristic),
  listPlans: listEndpoint('/api/plans', 'Inspection plans, latest revision each', PlanRow, { state: z.enum(revisionStates).optional() }),
  getPlan: endpoint('GET', '/api/plans/:id', { access: 'signedIn', summary: 'An inspection plan with all revisions', params: ById, reply: Plan }),
  createPlan: endpoint('POST', '/api/plans', {
    access: engineer,
    summary: 'Create an inspection plan as a draft',
    body: PlanFields.extend({ code: Code }),
    reply: Plan,
  }),
  updatePlan: endpoint('PUT', '/api/plans/:id', {
    access: engineer,
    summary: 'Change the draft of an inspection plan',
    params: ById,
    body: PlanFields.extend({ version: Version }),
    reply: Plan,
  }),
  releasePlan: step('/api/plans/:id/release', 'Release the draft; the revision before it is retired', Plan),
  revisePlan: step('/api/plans/:id/revise', 'Open a draft from the released revision', Plan),
  retirePlan: step('/api/plans/:id/retire', 'Retire the released revision', Plan),
}
