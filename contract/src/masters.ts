import { stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ListAnswer } from './characteristic'
import { ById, endpoint, Id, listEndpoint, Version, type Access } from './endpoint'

/** Code of anything that is defined: short, spoken, unique. */
export const Code = z
  .string()
  .trim()
  .min(1)
  .max(40)
  .regex(/^[\p{L}\p{N}][\p{L}\p{N} ._/-]*$/u, 'letters, digits, space and . _ / - only')
export const Name = z.string().trim().min(1).max(120)
export const engineer = ['qualityEngineer', 'administrator'] as const satisfies Access

export const base = { id: Id, code: Code, name: Name, version: Version }

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

/** Words that the user keeps: one in use is retired, not deleted. */
export const AnswerList = z.strictObject({ ...base, answers: z.array(ListAnswer).min(2).max(40), isActive: z.boolean() })
export type AnswerList = z.infer<typeof AnswerList>
export const FaultCode = z.strictObject({ ...base, isActive: z.boolean() })
export type FaultCode = z.infer<typeof FaultCode>
export const reasonPurposes = ['skip', 'correction', 'decision'] as const
export const Reason = z.strictObject({ ...base, purpose: z.enum(reasonPurposes), isActive: z.boolean() })
export type Reason = z.infer<typeof Reason>
export const ImportanceClass = z.strictObject({ ...base, isActive: z.boolean() })
export type ImportanceClass = z.infer<typeof ImportanceClass>
export const CountUnit = z.strictObject({ ...base, isActive: z.boolean() })
export type CountUnit = z.infer<typeof CountUnit>
const uses = { uses: z.int() }

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

/** The simple records behind everything else, and the words that the plant keeps. */
export const masters = {
  families: master('/api/families', 'families of parts', Family),
  partners: master('/api/partners', 'suppliers and customers', Partner),
  places: master('/api/places', 'places', Place),
  operations: master('/api/operations', 'operations', Operation),
  parts: master('/api/parts', 'parts', Part, PartRow),
  answerLists: master('/api/answer-lists', 'answer lists', AnswerList, AnswerList.omit({ answers: true }).extend({ answers: z.int(), ...uses })),
  faultCodes: master('/api/fault-codes', 'fault codes', FaultCode, FaultCode.extend(uses)),
  reasons: master('/api/reasons', 'reasons', Reason, Reason.extend(uses)),
  classes: master('/api/classes', 'classes of importance', ImportanceClass, ImportanceClass.extend(uses)),
  countUnits: master('/api/count-units', 'units of count', CountUnit, CountUnit.extend(uses)),
}
