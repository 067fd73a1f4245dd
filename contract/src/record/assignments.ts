import { z } from 'zod'
import { inspectionStates } from '@nemawashi/core'
import { ById, endpoint, Id, Instant } from '../wire/endpoint'
import { InspectionState } from '../stock/stock'

/** A calendar day of the plant, `2026-03-02`. */
export const Day = z.iso.date()

/** Groups of the own day: what one is at, what is planned for one up to today, what nobody has yet. */
export const ownGroups = ['begun', 'planned', 'free'] as const
export type OwnGroup = (typeof ownGroups)[number]

/** How an inspection stands to its time: before now, later today, within the next six days, after that, or without one. */
export const dueGroups = ['late', 'today', 'week', 'later', 'none'] as const
export type DueGroup = (typeof dueGroups)[number]
export const dueWords: Readonly<Record<DueGroup, string>> = {
  late: 'late',
  today: 'today',
  week: 'within a week',
  later: 'later',
  none: 'no time set',
}

/** What the queue is narrowed down by: each is part of the address of a list, so that a count can be a link to what it counts. */
/**
 * States by which the queue is asked for: those of inspections; what is open; of what is finished, what has goods to decide on, and looks at
 * loads that have none: recorded anew once that is mended, or decided once the goods are here.
 */
export const queueStates = [...inspectionStates, 'open', 'deciding', 'withoutGoods'] as const
export type QueueState = (typeof queueStates)[number]

export const QueueFilters = {
  due: z.enum(dueGroups).optional(),
  operationId: Id.optional(),
  partId: Id.optional(),
  supplierId: Id.optional(),
  /** By name, as the control point says it; `-` where nobody is named. */
  responsible: z.string().max(80).optional(),
  gate: z.enum(['yes', 'no']).optional(),
  /** For whom it is planned; `-` where for nobody. */
  assignedTo: z.union([Id, z.literal('-')]).optional(),
  /** For which day it is planned; `before`: for one that is past. */
  day: z.union([Day, z.literal('before')]).optional(),
  /** Planned for this day, or left from one before it. */
  dayUntil: Day.optional(),
  /** A group of the own day of whoever asks. */
  own: z.enum(ownGroups).optional(),
  /** Every inspection of one lot. */
  lotId: Id.optional(),
}
export type QueueFilters = { -readonly [K in keyof typeof QueueFilters]: z.infer<(typeof QueueFilters)[K]> }

/** For whom and for which day an inspection is planned, and who has it. */
export const Assignment = z.strictObject({
  personId: Id.nullable(),
  personName: z.string().nullable(),
  day: Day.nullable(),
  minutes: z.int().nullable(),
  /** Who took it, or began it; null while nobody has it. */
  holderId: Id.nullable(),
  holderName: z.string().nullable(),
  heldSince: Instant.nullable(),
  /** Who took it by an act of their own: nobody else works on it until they take it over. */
  claimedBy: Id.nullable(),
  /** 0 as long as nobody planned or took it. */
  version: z.int().min(0),
})
export type Assignment = z.infer<typeof Assignment>

/** One way to narrow the queue down, with how many would be left. */
const Facet = z.strictObject({ value: z.string(), name: z.string(), count: z.int() })
export type Facet = z.infer<typeof Facet>
export const QueueFacets = z.strictObject({
  due: z.array(Facet),
  operationId: z.array(Facet),
  partId: z.array(Facet),
  supplierId: z.array(Facet),
  responsible: z.array(Facet),
  gate: z.array(Facet),
  assignedTo: z.array(Facet),
})
export type QueueFacets = z.infer<typeof QueueFacets>

const PlannedInspection = z.strictObject({
  id: Id,
  code: z.string(),
  state: InspectionState,
  planName: z.string(),
  partCode: z.string(),
  lotCode: z.string(),
  operationName: z.string(),
  isGate: z.boolean(),
  dueAt: Instant.nullable(),
  ...Assignment.shape,
})
export type PlannedInspection = z.infer<typeof PlannedInspection>

export const Planning = z.strictObject({
  /** The days that are shown, the first of them today or the day asked for. */
  days: z.array(Day),
  today: Day,
  /** Everybody who works at the bench, with the minutes that a day of theirs has. */
  people: z.array(z.strictObject({ id: Id, name: z.string(), initials: z.string(), dayMinutes: z.int() })),
  /** Open ones that are planned for a person: in these days, for one before them, or for no day. */
  planned: z.array(PlannedInspection),
  /** Open ones that are planned for nobody, by due; the first of them, and how many there are. */
  unplanned: z.array(PlannedInspection),
  unplannedTotal: z.int(),
})
export type Planning = z.infer<typeof Planning>

const { lotId: _lot, ...narrowing } = QueueFilters
const planners = ['inspector', 'qualityEngineer', 'qualityManager'] as const

/** Taking inspections, and planning them for people and days. */
export const assignments = {
  getFacets: endpoint('GET', '/api/v1/queue-facets', {
    access: 'signedIn',
    summary: 'How many open inspections are left of the queue when it is narrowed down further, by due, operation, part, supplier, responsible, gate',
    query: z.strictObject({ state: z.enum(queueStates), q: z.string().max(200).optional(), ...narrowing }),
    reply: QueueFacets,
  }),
  getPlanning: endpoint('GET', '/api/v1/planning', {
    access: 'signedIn',
    summary: 'Open inspections by person and day, with the minutes planned for them, and those that nobody has yet',
    query: z.strictObject({ from: Day.optional(), q: z.string().max(200).optional() }),
    reply: Planning,
  }),
  assignInspection: endpoint('PUT', '/api/v1/inspections/:id/assignment', {
    access: planners,
    summary: 'Plan an open inspection for a person and a day, or for nobody. An inspector plans their own; others are planned by an engineer',
    params: ById,
    body: z.strictObject({ personId: Id.nullable(), day: Day.nullable(), version: z.int().min(0) }),
    reply: Assignment,
  }),
  takeInspection: endpoint('POST', '/api/v1/inspections/:id/take', {
    access: ['inspector', 'qualityEngineer'],
    summary: 'Take an open inspection, so that nobody else does; one that another has is taken over only when that is said',
    params: ById,
    body: z.strictObject({ isTakingOver: z.boolean().default(false) }),
    reply: Assignment,
  }),
  unassignInspection: endpoint('POST', '/api/v1/inspections/:id/put-back', {
    access: planners,
    summary: 'Put an inspection that one has back, for whoever takes it next; an engineer or a quality manager puts back those of others',
    params: ById,
    reply: Assignment,
  }),
}
