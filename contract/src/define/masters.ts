import { placePurposes, refinable, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ListAnswer } from './characteristic'
import { ById, endpoint, Id, listEndpoint, Version, words, type Access } from '../wire/endpoint'

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
const partner = {
  kind: z.enum(partnerKinds),
  isActive: z.boolean(),
  /** Suppliers that are looked at alike share a word; empty for none. */
  supplierGroup: z.string().trim().max(40, 'at most 40 characters').default(''),
}
export const Partner = z.strictObject({ ...base, ...partner })
export type Partner = z.infer<typeof Partner>

const place = { purpose: z.enum(placePurposes), countsForPlanning: z.boolean() }
export const Place = z.strictObject({ ...base, ...place })
export type Place = z.infer<typeof Place>

export const operationKinds = ['receiving', 'production', 'transfer', 'shipping', 'return'] as const
const operation = { kind: z.enum(operationKinds) }
export const Operation = z.strictObject({ ...base, ...operation })
export type Operation = z.infer<typeof Operation>

export const trackings = ['bulk', 'lot', 'serial'] as const
const part = {
  revision: z.string().trim().min(1).max(12),
  unit: z.enum(stockUnits),
  tracking: z.enum(trackings),
  familyId: Id.nullable(),
  putAwayPlaceId: Id.nullable(),
  /** How much of it is in a usual container; null where there is none. */
  packQuantity: z.int('write a whole number').min(1, 'at least 1').max(1_000_000_000, 'at most 1000000000').nullable().default(null),
  /** Days that pieces on hold are planned to wait; null where nobody plans them. */
  holdDays: z.int('write a whole number').min(0, 'at least 0').max(3650, 'at most 3650 days').nullable().default(null),
  operationIds: z.array(Id).max(60),
}
export const Part = z.strictObject({ ...base, ...part })
export type Part = z.infer<typeof Part>
const PartRow = Part.omit({ operationIds: true }).extend({ familyName: z.string().nullable(), points: z.int() })
export type PartRow = z.infer<typeof PartRow>

/** Words that the user keeps: one in use is retired, not deleted. */
const answerList = { answers: z.array(ListAnswer).min(2).max(40), isActive: z.boolean() }
export const AnswerList = z.strictObject({ ...base, ...answerList })
export type AnswerList = z.infer<typeof AnswerList>
const inUse = { isActive: z.boolean() }
export const FaultCode = z.strictObject({ ...base, ...inUse })
export type FaultCode = z.infer<typeof FaultCode>
export const reasonPurposes = ['skip', 'correction', 'decision'] as const
const reason = { purpose: z.enum(reasonPurposes), isActive: z.boolean() }
export const Reason = z.strictObject({ ...base, ...reason })
export type Reason = z.infer<typeof Reason>
export const ImportanceClass = z.strictObject({ ...base, ...inUse })
export type ImportanceClass = z.infer<typeof ImportanceClass>
export const CountUnit = z.strictObject({ ...base, ...inUse })
export type CountUnit = z.infer<typeof CountUnit>
/** A standing that the plant tells apart more finely: a kind of one of the usual ones, and the steps that it allows. */
const finer = {
  standing: z.enum(refinable),
  mayUse: z.boolean(),
  mayPick: z.boolean(),
  mayShip: z.boolean(),
  countsForPlanning: z.boolean(),
  isActive: z.boolean(),
}
export const FinerStanding = z.strictObject({ ...base, ...finer })
export type FinerStanding = z.infer<typeof FinerStanding>
/** The symbol of a unit is its code. */
const Symbol = z
  .string()
  .trim()
  .min(1, 'fill this in')
  .max(20, 'at most 20 characters')
  .regex(/^\P{Cc}*$/u, 'no line breaks')
  .regex(/[^\d.,\s+-]$/, 'a sign, letter or bracket at its end, so that it can be told from a number')
const measureUnit = {
  /** What it measures; units of the same quantity convert into each other. */
  quantity: words(40),
  /** A number or a fraction, see `parseFactor` of the core; null where nothing converts. */
  factor: z.string().trim().min(1).max(60, 'at most 60 characters').nullable(),
  /** What is added before the factor applies, as for degrees Fahrenheit; null for nothing. */
  shift: z.string().trim().min(1).max(30, 'at most 30 characters').nullable(),
  isActive: z.boolean(),
}
export const MeasureUnitRecord = z.strictObject({ ...base, code: Symbol, ...measureUnit })
export type MeasureUnitRecord = z.infer<typeof MeasureUnitRecord>
/** What a kind of gauge is called is its code: a characteristic asks for it by that. */
const KindName = z
  .string()
  .trim()
  .min(1, 'fill this in')
  .max(80, 'at most 80 characters')
  .regex(/^\P{Cc}*$/u, 'no line breaks')
const gaugeKind = {
  /** Whether readings of what asks for the kind want a gauge of it by name. */
  isAsked: z.boolean(),
  /** Whether a gauge that is overdue, too coarse or of another range may be used with a reason; otherwise it is refused. */
  isWaivable: z.boolean(),
  isActive: z.boolean(),
}
export const GaugeKind = z.strictObject({ ...base, code: KindName, ...gaugeKind })
export type GaugeKind = z.infer<typeof GaugeKind>
const uses = { uses: z.int() }

/** The four addresses of a kind of simple record: `more` is what it has beyond code and name, `row` what its list shows, `code` what is taken for one. */
function master<S extends z.ZodRawShape, R extends z.ZodType>(path: string, words: string, more: S, row: R, code: z.ZodType<string, string> = Code) {
  const full = z.strictObject({ ...base, code, ...more })
  return {
    list: listEndpoint(path, words, row),
    get: endpoint('GET', `${path}/:id`, { access: 'signedIn', summary: `One of: ${words}`, params: ById, reply: full }),
    create: endpoint('POST', path, {
      access: engineer,
      summary: `Create one of: ${words}`,
      body: z.strictObject({ code, name: Name, ...more }),
      reply: full,
    }),
    update: endpoint('PUT', `${path}/:id`, {
      access: engineer,
      summary: `Change one of: ${words}`,
      params: ById,
      body: z.strictObject({ code, name: Name, version: Version, ...more }),
      reply: full,
    }),
  }
}

/** The simple records behind everything else, and the words that the plant keeps. */
export const masters = {
  families: master('/api/v1/families', 'families of parts', {}, Family),
  partners: master('/api/v1/partners', 'suppliers and customers', partner, Partner),
  places: master('/api/v1/places', 'places', place, Place),
  operations: master('/api/v1/operations', 'operations', operation, Operation),
  parts: master('/api/v1/parts', 'parts', part, PartRow),
  answerLists: master('/api/v1/answer-lists', 'answer lists', answerList, AnswerList.omit({ answers: true }).extend({ answers: z.int(), ...uses })),
  faultCodes: master('/api/v1/fault-codes', 'fault codes', inUse, FaultCode.extend(uses)),
  reasons: master('/api/v1/reasons', 'reasons', reason, Reason.extend(uses)),
  classes: master('/api/v1/classes', 'classes of importance', inUse, ImportanceClass.extend(uses)),
  finerStandings: master('/api/v1/finer-standings', 'finer standings', finer, FinerStanding.extend(uses)),
  countUnits: master('/api/v1/count-units', 'units of count', inUse, CountUnit.extend(uses)),
  measureUnits: master('/api/v1/measure-units', 'units of measure', measureUnit, MeasureUnitRecord.extend(uses), Symbol),
  gaugeKinds: master('/api/v1/gauge-kinds', 'kinds of gauges', gaugeKind, GaugeKind.extend(uses), KindName),
  /** All of them at once: what a value can be typed and converted in. */
  knownUnits: endpoint('GET', '/api/v1/known-units', {
    access: 'signedIn',
    summary: 'Every unit of measure, with what converts it',
    reply: z.strictObject({
      units: z.array(
        MeasureUnitRecord.pick({ name: true, quantity: true, factor: true, shift: true, isActive: true }).extend({ symbol: z.string() }),
      ),
    }),
  }),
}
