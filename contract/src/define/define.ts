import { characteristicKinds } from '@nemawashi/core'
import { revisionStates } from '@nemawashi/core'
import { z } from 'zod'
import { CharacteristicFields, ClassCode } from './characteristic'
import { documentTypes, FileDocument } from './documentFile'
import { ById, endpoint, Id, Instant, listEndpoint, Version } from '../wire/endpoint'
import { base, Code, engineer, masters, Name } from './masters'
import { SamplingRule } from './sampling'

/** A scheduled revision is released and waits for its day. */
export const CharacteristicRevision = CharacteristicFields.extend({
  id: Id,
  revision: z.int(),
  state: z.enum(revisionStates),
  releasedAt: Instant.nullable(),
  releasedByName: z.string().nullable(),
})
/** A line's own target and limits, in the unit of its characteristic; it then no longer follows the library. */
export const DetachedLimits = z.strictObject({
  nominal: z.string().max(40).nullable(),
  lower: z.string().max(40).nullable(),
  upper: z.string().max(40).nullable(),
  /** Revision of the characteristic that it was detached from. */
  fromRevision: z.int(),
})
export type DetachedLimits = z.infer<typeof DetachedLimits>

/** Where a characteristic is asked for: plan lines, and through their plans control points and parts. */
export const CharacteristicUses = z.strictObject({
  lines: z.array(
    z.strictObject({
      planId: Id,
      planCode: z.string(),
      planName: z.string(),
      planRevision: z.int(),
      planState: z.enum(revisionStates),
      detached: DetachedLimits.nullable(),
      /** Parts that have limits of their own on the line. */
      targets: z.int(),
    }),
  ),
  points: z.array(z.strictObject({ id: Id, code: z.string(), operationName: z.string(), planCode: z.string() })),
  parts: z.array(z.strictObject({ id: Id, code: z.string(), name: z.string() })),
})
export type CharacteristicUses = z.infer<typeof CharacteristicUses>

export const Characteristic = z.strictObject({
  id: Id,
  code: Code,
  version: Version,
  revisions: z.array(CharacteristicRevision),
  usedIn: z.array(z.string()),
  uses: CharacteristicUses,
})
export type Characteristic = z.infer<typeof Characteristic>

export const CharacteristicRow = CharacteristicFields.omit({ method: true, instruction: true, details: true }).extend({
  id: Id,
  code: Code,
  revision: z.int(),
  state: z.enum(revisionStates),
})
export type CharacteristicRow = z.infer<typeof CharacteristicRow>

/** Own limits of one part (or variant) on a line of a plan that serves many. */
const PartTarget = z.strictObject({
  partId: Id,
  nominal: z.string().max(40).nullable(),
  lower: z.string().max(40).nullable(),
  upper: z.string().max(40).nullable(),
})
export type PartTarget = z.infer<typeof PartTarget>

const PlanLineInput = z.strictObject({
  characteristicId: Id,
  sampling: SamplingRule,
  isRequired: z.boolean(),
  isDecisive: z.boolean(),
  detached: DetachedLimits.nullable().default(null),
  stage: z.string().trim().max(40).default(''),
  instruction: z.string().trim().max(2000).default(''),
  targets: z.array(PartTarget).max(200).default([]),
})
export type PlanLineInput = z.infer<typeof PlanLineInput>
export const PlanLine = PlanLineInput.extend({
  code: z.string(),
  name: z.string(),
  kind: z.enum(characteristicKinds),
  class: ClassCode,
  unit: z.string().nullable(),
  nominal: z.string().nullable(),
  lower: z.string().nullable(),
  upper: z.string().nullable(),
  followsRevision: z.int().nullable(),
  minutesPerPiece: z.number().nullable(),
  isAdaptable: z.boolean(),
  targets: z.array(PartTarget.extend({ partCode: z.string() })),
})
export type PlanLine = z.infer<typeof PlanLine>
export const PlanRevision = z.strictObject({
  id: Id,
  revision: z.int(),
  state: z.enum(revisionStates),
  lines: z.array(PlanLine),
  /** The day from which it is used, where one was set at its release. */
  effectiveFrom: z.string().nullable(),
  releasedAt: Instant.nullable(),
  releasedByName: z.string().nullable(),
})
export const Plan = z.strictObject({ ...base, revisions: z.array(PlanRevision), usedBy: z.array(z.string()) })
export type Plan = z.infer<typeof Plan>
export const PlanRow = z.strictObject({ id: Id, code: Code, name: Name, revision: z.int(), state: z.enum(revisionStates), lines: z.int() })
export type PlanRow = z.infer<typeof PlanRow>

/** Recorded lots of a characteristic, oldest first, for trying a changed rule on the past. */
export const Past = z.strictObject({
  /** Lots a month over the time that the list spans, and their median size. */
  lotsPerMonth: z.number().nullable(),
  medianLot: z.int().nullable(),
  /** More lots were recorded than the list holds. */
  isCut: z.boolean(),
  lots: z.array(
    z.strictObject({
      id: Id,
      code: z.string(),
      partCode: z.string(),
      supplierName: z.string(),
      day: z.string(),
      atHours: z.number(),
      quantity: z.int(),
      /** The order that it came under; empty where there is none. */
      order: z.string(),
      sampleSize: z.int(),
      accept: z.int(),
      readings: z.array(z.strictObject({ value: z.string().nullable(), isConforming: z.boolean() })),
    }),
  ),
})
export type Past = z.infer<typeof Past>

export const DocumentHead = z.strictObject({
  id: Id,
  name: z.string(),
  mediaType: z.enum(documentTypes),
  size: z.int(),
  hash: z.string(),
  at: Instant,
})
export type DocumentHead = z.infer<typeof DocumentHead>

const Step = z.strictObject({ version: Version })
const step = <R extends z.ZodType>(path: string, summary: string, reply: R) =>
  endpoint('POST', path, { access: engineer, summary, params: ById, body: Step, reply })

const discard = <R extends z.ZodType>(path: string, reply: R) =>
  endpoint('POST', path, {
    access: engineer,
    summary: 'Discard the draft; what was never released is gone then, and nothing is left',
    params: ById,
    body: Step,
    reply: z.strictObject({ left: reply.nullable() }),
  })

const PlanFields = z.strictObject({ name: Name, lines: z.array(PlanLineInput).max(100) })

export const definitions = {
  ...masters,
  listCharacteristics: listEndpoint('/api/v1/characteristics', 'The library of characteristics, latest revision each', CharacteristicRow, {
    state: z.enum(revisionStates).optional(),
    kind: z.enum(characteristicKinds).optional(),
    /** Those that control points ask for on parts of this family. */
    familyId: Id.optional(),
  }),
  getCharacteristic: endpoint('GET', '/api/v1/characteristics/:id', {
    access: 'signedIn',
    summary: 'A characteristic with all revisions',
    params: ById,
    reply: Characteristic,
  }),
  getPast: endpoint('GET', '/api/v1/characteristics/:id/past', {
    access: 'signedIn',
    summary: 'Recorded lots of a characteristic with their readings, oldest first, for trying a changed rule on the past',
    params: ById,
    query: z.strictObject({ partId: Id.optional(), supplierId: Id.optional(), limit: z.coerce.number().int().min(1).max(1000).optional() }),
    reply: Past,
  }),
  addDocument: endpoint('POST', '/api/v1/documents', {
    access: ['inspector', 'receivingClerk', ...engineer],
    summary: 'Keep a picture, a PDF or a 3D model that definitions show, answers name or goods came with; at most 10 MB',
    body: FileDocument,
    reply: DocumentHead,
  }),
  getDocument: endpoint('GET', '/api/v1/documents/:id', {
    access: 'signedIn',
    summary: 'What a document is called and how large it is',
    params: ById,
    reply: DocumentHead,
  }),
  getDocumentContent: endpoint('GET', '/api/v1/documents/:id/content', {
    access: 'signedIn',
    summary: 'The document itself',
    params: ById,
    reply: z.unknown(),
  }),
  createCharacteristic: endpoint('POST', '/api/v1/characteristics', {
    access: engineer,
    summary: 'Create a characteristic as a draft',
    body: CharacteristicFields.extend({ code: Code }),
    reply: Characteristic,
  }),
  updateCharacteristic: endpoint('PUT', '/api/v1/characteristics/:id', {
    access: engineer,
    summary: 'Change the draft of a characteristic',
    params: ById,
    body: CharacteristicFields.extend({ version: Version }),
    reply: Characteristic,
  }),
  releaseCharacteristic: step('/api/v1/characteristics/:id/release', 'Release the draft; the revision before it is retired', Characteristic),
  reviseCharacteristic: step('/api/v1/characteristics/:id/revise', 'Open a draft from the released revision', Characteristic),
  discardCharacteristic: discard('/api/v1/characteristics/:id/discard', Characteristic),
  retireCharacteristic: step('/api/v1/characteristics/:id/retire', 'Retire the released revision', Characteristic),
  listPlans: listEndpoint('/api/v1/plans', 'Inspection plans, latest revision each', PlanRow, { state: z.enum(revisionStates).optional() }),
  getPlan: endpoint('GET', '/api/v1/plans/:id', { access: 'signedIn', summary: 'An inspection plan with all revisions', params: ById, reply: Plan }),
  getPlanSheet: endpoint('GET', '/api/v1/plans/:id/sheet.pdf', {
    access: 'signedIn',
    summary: 'A revision of a plan as an instruction sheet (PDF); the latest where none is named',
    params: ById,
    query: z.strictObject({ revision: z.coerce.number().int().min(1).optional() }),
    reply: z.unknown(),
  }),
  createPlan: endpoint('POST', '/api/v1/plans', {
    access: engineer,
    summary: 'Create an inspection plan as a draft',
    body: PlanFields.extend({ code: Code }),
    reply: Plan,
  }),
  updatePlan: endpoint('PUT', '/api/v1/plans/:id', {
    access: engineer,
    summary: 'Change the draft of an inspection plan',
    params: ById,
    body: PlanFields.extend({ version: Version }),
    reply: Plan,
  }),
  releasePlan: endpoint('POST', '/api/v1/plans/:id/release', {
    access: engineer,
    summary: 'Release the draft, at once or from a day on; the revision before it is retired when the draft takes its place',
    params: ById,
    body: Step.extend({ effectiveFrom: z.iso.date().nullable().default(null) }),
    reply: Plan,
  }),
  revisePlan: step('/api/v1/plans/:id/revise', 'Open a draft from the released revision', Plan),
  discardPlan: discard('/api/v1/plans/:id/discard', Plan),
  retirePlan: step('/api/v1/plans/:id/retire', 'Retire the released revision', Plan),
}
