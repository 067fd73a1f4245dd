import { movementKinds, occasionKinds, sealMeanings, standings, stockUnits } from '@nemawashi/core'
import { z } from 'zod'
import { ById, endpoint, file, Id, Instant, listEndpoint } from '../wire/endpoint'
import { BalanceRow } from '../stock/stock'

export const LotRow = z.strictObject({
  id: Id,
  code: z.string(),
  partCode: z.string(),
  partName: z.string(),
  supplierName: z.string(),
  supplierLot: z.string(),
  quantity: z.int(),
  unit: z.string(),
  receivedAt: Instant,
})
export type LotRow = z.infer<typeof LotRow>

export const eventKinds = [
  'announced',
  'finerStanding',
  'received',
  'paper',
  'corrected',
  'skippedByRule',
  'inspectionOpened',
  'inspectionStarted',
  'inspectionFinished',
  'decided',
  'decidedAgain',
  'moved',
  'freed',
  'held',
  'cancelled',
] as const

/** One happening in the life of a lot, with where its quantity stood afterwards. */
export const LotEvent = z.strictObject({
  at: Instant,
  kind: z.enum(eventKinds),
  title: z.string(),
  detail: z.string(),
  byName: z.string().nullable(),
  verdict: z.enum(['acceptable', 'notAcceptable']).nullable(),
  inspectionId: Id.nullable(),
  /** What came on paper. */
  documentId: Id.nullable(),
  seal: z.strictObject({ initials: z.string(), meaning: z.enum(sealMeanings), signedAt: Instant }).nullable(),
  standingsAfter: z.partialRecord(z.enum(standings), z.int()),
})
export type LotEvent = z.infer<typeof LotEvent>

export const Passport = z.strictObject({
  lot: LotRow.extend({
    unit: z.enum(stockUnits),
    partId: Id,
    originKind: z.enum(occasionKinds),
    originId: Id,
    originCode: z.string(),
    orderNumber: z.string(),
  }),
  balances: z.array(BalanceRow),
  /** Pieces that are free under a concession, whatever was decided later. */
  underConcession: z.int(),
  events: z.array(LotEvent),
  movements: z.array(
    z.strictObject({
      at: Instant,
      quantity: z.int(),
      containerLabel: z.string().nullable(),
      from: z.string().nullable(),
      to: z.string(),
      kind: z.enum(movementKinds),
      byName: z.string(),
    }),
  ),
})
export type Passport = z.infer<typeof Passport>

export const Today = z.strictObject({
  started: z.int(),
  toDo: z.int(),
  finishedToday: z.int(),
  notAcceptableToday: z.int(),
  waitingForDecision: z.int(),
  /** Lots that are held, by how long: up to so many days, the last one without an end. */
  heldByAge: z.array(z.strictObject({ fromDays: z.int(), untilDays: z.int().nullable(), lots: z.int() })),
  notAcceptedByMonth: z.array(z.strictObject({ month: z.string(), decided: z.int(), notAcceptable: z.int() })),
})
export type Today = z.infer<typeof Today>

export const trace = {
  listLots: listEndpoint('/api/v1/lots', 'Lots, newest first', LotRow),
  getPassport: endpoint('GET', '/api/v1/lots/:id/passport', {
    access: 'signedIn',
    summary: 'The whole story of one lot',
    params: ById,
    reply: Passport,
  }),
  getToday: endpoint('GET', '/api/v1/today', {
    access: 'signedIn',
    summary: 'What is to do, what waits, what is held',
    reply: Today,
  }),
  getReportPdf: endpoint('GET', '/api/v1/inspections/:id/report.pdf', {
    access: 'signedIn',
    summary: 'The inspection report as PDF',
    params: ById,
    reply: file('PDF'),
  }),
  getPassportPdf: endpoint('GET', '/api/v1/lots/:id/passport.pdf', {
    access: 'signedIn',
    summary: 'The passport of a lot as PDF',
    params: ById,
    reply: file('PDF'),
  }),
  getReportJson: endpoint('GET', '/api/v1/inspections/:id/report.json', {
    access: 'signedIn',
    summary: 'The data of the inspection report as JSON',
    params: ById,
    reply: file('JSON'),
  }),
  getReportCsv: endpoint('GET', '/api/v1/inspections/:id/report.csv', {
    access: 'signedIn',
    summary: 'The readings of the inspection report as CSV',
    params: ById,
    reply: file('CSV'),
  }),
}
